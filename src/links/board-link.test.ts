import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boardEnd, type FromBoard, hostEnd, type ToBoard } from './board-link'
import { BOARD_LINK_VERSION, cobsDecode, cobsEncode, crc16, encodeFrame } from './framing'

const u16 = fc.integer({ min: 0, max: 0xffff })
const u32 = fc.integer({ min: 0, max: 0xffffffff })
const u8 = fc.integer({ min: 0, max: 255 })
const hex8 = fc.stringMatching(/^[0-9a-f]{16}$/)
const bytes = fc.uint8Array({ maxLength: 48 })

const toBoard: fc.Arbitrary<ToBoard> = fc.oneof(
  fc.constantFrom<ToBoard>({ say: 'hello' }, { say: 'start' }),
  fc.record({ say: fc.constant('load commit' as const), fingerprint: hex8 }),
  fc.record({ say: fc.constant('heartbeat' as const), next: u16, digest: u32 }),
  fc.record({ say: fc.constant('again' as const), from: u16 }),
  fc.record({
    say: fc.constant('probe' as const),
    what: fc.oneof(fc.integer({ min: 0, max: 0xfffd }), fc.constantFrom('all contacts' as const, null)),
  }),
  fc.record({
    say: fc.constant('outputs' as const),
    outputs: fc.array(fc.record({ slot: u16, state: u16 }), { maxLength: 25 }),
  }),
  fc.record({
    say: fc.constant('show' as const),
    slot: u16,
    row: fc.integer({ min: 0, max: 255 }),
    text: fc.uint8Array({ maxLength: 100 }).map((codes) => String.fromCharCode(...codes)),
  }),
  fc.record({ say: fc.constant('load begin' as const), length: u16, fingerprint: hex8 }),
  fc.record({ say: fc.constant('load piece' as const), offset: u16, bytes }),
  fc.record({ say: fc.constant('read' as const), offset: u16 }),
)

const fromBoard: fc.Arbitrary<FromBoard> = fc.oneof(
  fc.record({
    say: fc.constant('hello' as const),
    identity: hex8,
    fingerprint: hex8,
    length: u16,
    boot: u16,
    limits: fc.record({ frameBytes: u16, configurationBytes: u16, slots: u16, bytesPerS: u32 }),
    model: fc.string({ maxLength: 30, unit: 'grapheme-ascii' }),
  }),
  fc.record({
    say: fc.constantFrom('inputs' as const, 'all inputs' as const),
    micros: u32,
    number: u16,
    inputs: fc.array(fc.record({ slot: u16, value: u16 }), { maxLength: 25 }),
  }),
  fc.record({
    say: fc.constant('answer' as const),
    to: fc.integer({ min: 0, max: 255 }),
    problem: fc.constantFrom(null, 'no such slot'),
  }),
  fc.record({ say: fc.constant('piece' as const), offset: u16, total: u16, bytes }),
  fc.record({
    say: fc.constant('probed' as const),
    micros: u32,
    count: u16,
    notes: fc.array(fc.record({ after: u16.map((n) => n * 16), slot: u16, value: u16 }), { maxLength: 12 }),
  }),
  fc.record({
    say: fc.constant('heartbeat' as const),
    micros: u32,
    boot: u16,
    started: fc.boolean(),
    resting: fc.boolean(),
    rests: u8,
    heard: u8,
    bad: u16,
    next: u16,
    digest: u32,
  }),
)

describe('the board link', () => {
  it('carries every message to the board as it was said', () => {
    fc.assert(
      fc.property(fc.array(toBoard, { maxLength: 20 }), (list) => {
        const host = hostEnd()
        const board = boardEnd()
        expect(list.flatMap((m) => board.decode(host.encode(m).bytes).map((x) => x.message))).toEqual(list)
      }),
    )
  })

  it('carries every message from the board as it was said', () => {
    fc.assert(
      fc.property(fc.array(fromBoard, { maxLength: 20 }), (list) => {
        const host = hostEnd()
        const board = boardEnd()
        expect(list.flatMap((m) => host.decode(board.encode(m).bytes).map((x) => x.message))).toEqual(list)
      }),
    )
  })

  it('never crashes on noise', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 600 }), fc.integer({ min: 0, max: 255 }), (noise, type) => {
        hostEnd().decode(noise)
        boardEnd().decode(encodeFrame(type, 0, noise.subarray(0, 300)))
        hostEnd().decode(encodeFrame(type, 0, noise.subarray(0, 300)))
      }),
    )
  })

  it('takes nothing from a list that ends within a pair', () => {
    const [outputs, inputs] = [
      hostEnd().encode({ say: 'outputs', outputs: [{ slot: 1, state: 2 }] }).bytes,
      boardEnd().encode({ say: 'inputs', micros: 9, number: 1, inputs: [{ slot: 1, value: 2 }] }).bytes,
    ]
    // The type is the second byte of the body, behind the version.
    const [toBoard, fromBoard] = [outputs, inputs].map((frame) => {
      const body = frame.slice(0, -1)
      cobsDecode(body)
      return body[1]
    })
    const taken = (length: number) => ({
      outputs: boardEnd().decode(encodeFrame(toBoard ?? 0, 0, new Uint8Array(length))).length,
      inputs: hostEnd().decode(encodeFrame(fromBoard ?? 0, 0, new Uint8Array(6 + length))).length,
    })
    for (const whole of [4, 8]) expect(taken(whole)).toEqual({ outputs: 1, inputs: 1 })
    for (const torn of [1, 2, 3, 5, 6, 7]) expect(taken(torn)).toEqual({ outputs: 0, inputs: 0 })
  })

  it('notices another version and takes nothing from it', () => {
    const frame = boardEnd().encode({ say: 'answer', to: 1, problem: null }).bytes
    // The version is the first byte of the body; the checksum has to be made anew.
    const strange = encodeOther(BOARD_LINK_VERSION + 1)
    const host = hostEnd()
    expect(host.decode(strange)).toEqual([])
    expect(host.strangeVersion).toBe(BOARD_LINK_VERSION + 1)
    expect(host.decode(frame)).toHaveLength(1)
    expect(host.strangeVersion).toBeNull()
  })
})

const encodeOther = (version: number): Uint8Array => {
  const body = Uint8Array.from([version, 0x85, 9, 1, 0, 0, 0, 0, 0])
  const crc = crc16(body)
  return Uint8Array.from([...cobsEncode(Uint8Array.from([...body, crc & 255, crc >> 8])), 0])
}
