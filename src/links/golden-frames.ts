import { boardEnd, type FromBoard, hostEnd, type ToBoard } from './board-link'

/** One message of each kind, as another implementation may hold its own against. */
const toBoard: readonly ToBoard[] = [
  { say: 'hello' },
  { say: 'start' },
  {
    say: 'outputs',
    outputs: [
      { slot: 1, state: 255 },
      { slot: 300, state: 0x0c80 },
    ],
  },
  { say: 'load begin', length: 7, fingerprint: '0123456789abcdef' },
  { say: 'load piece', offset: 0, bytes: Uint8Array.from([4, 0, 1, 66, 26, 0, 255]) },
  { say: 'load commit', fingerprint: '0123456789abcdef' },
  { say: 'read', offset: 48 },
  { say: 'heartbeat', next: 513, digest: 0x89abcdef },
  { say: 'show', slot: 4, row: 2, text: 'COM 1 ¯' },
  { say: 'again', from: 65535 },
  { say: 'probe', what: 3 },
  { say: 'probe', what: 'all contacts' },
  { say: 'probe', what: null },
]
const limits = { frameBytes: 256, configurationBytes: 1000, slots: 96, bytesPerS: 11_520 }
const fromBoard: readonly FromBoard[] = [
  {
    say: 'hello',
    identity: '5c1f0a6e21d94b07',
    fingerprint: '0000000000000000',
    length: 0,
    boot: 3,
    limits,
    model: 'ATmega328P board',
  },
  {
    say: 'inputs',
    micros: 1_000_000,
    number: 65535,
    inputs: [
      { slot: 0, value: 1 },
      { slot: 2, value: 65532 },
    ],
  },
  { say: 'answer', to: 9, problem: null },
  { say: 'answer', to: 10, problem: 'nothing is being loaded' },
  { say: 'piece', offset: 0, total: 3, bytes: Uint8Array.from([4, 0, 0]) },
  {
    say: 'heartbeat',
    micros: 4_294_967_295,
    boot: 3,
    started: true,
    resting: false,
    rests: 2,
    heard: 200,
    bad: 1,
    next: 0,
    digest: 0x01020304,
  },
  { say: 'all inputs', micros: 0, number: 0, inputs: [] },
  {
    say: 'probed',
    micros: 2_000_000,
    count: 65535,
    notes: [
      { after: 0, slot: 3, value: 1 },
      { after: 1008, slot: 3, value: 0 },
      { after: 4000, slot: 200, value: 1023 },
    ],
  },
]

const hex = (bytes: Uint8Array): string => Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join(' ')
const plain = (m: ToBoard | FromBoard): unknown =>
  JSON.parse(JSON.stringify(m, (_, v) => (v instanceof Uint8Array ? [...v] : v)))

/** The frames of `docs/board-link-frames.json`: each end's messages in their order, numbered from 0. */
export const goldenFrames = () => {
  const host = hostEnd()
  const board = boardEnd()
  return [
    ...toBoard.map((m) => ({ to: 'board', message: plain(m), bytes: hex(host.encode(m).bytes) })),
    ...fromBoard.map((m) => ({ to: 'computer', message: plain(m), bytes: hex(board.encode(m).bytes) })),
  ]
}
