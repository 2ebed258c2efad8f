import type { BoardLimits } from '../core/harness/board-limits'
import type { Micros } from '../core/units-of-measure'
import { BOARD_LINK_VERSION, encodeFrame, type Frame, FrameReader } from './framing'

/** Bytes of a configuration that travel in one piece. */
export const PIECE_BYTES = 48

/** A lamp's packed state, or a needle's tenths of a degree from its motor's zero. */
export interface SlotState {
  readonly slot: number
  readonly state: number
}

/** What Clavik says to a board. */
export type ToBoard =
  | { readonly say: 'hello' }
  /** Report every input now, and each one when it changes. */
  | { readonly say: 'start' }
  /** States of lamps and needles. */
  | { readonly say: 'outputs'; readonly outputs: readonly SlotState[] }
  /** What a display shows: characters of one row, one byte each. */
  | { readonly say: 'show'; readonly slot: number; readonly row: number; readonly text: string }
  | { readonly say: 'load begin'; readonly length: number; readonly fingerprint: string }
  | { readonly say: 'load piece'; readonly offset: number; readonly bytes: Uint8Array }
  /** Take what was loaded. A board that holds this already says yes again. */
  | { readonly say: 'load commit'; readonly fingerprint: string }
  | { readonly say: 'read'; readonly offset: number }
  /** Which report is expected next, and the digest of all inputs as they are known here. */
  | { readonly say: 'heartbeat'; readonly next: number; readonly digest: number }
  /** Say the reports from this one on again. */
  | { readonly say: 'again'; readonly from: number }
  /** Note what one input does, by its slot, or the contacts of all, before anything is evened out; or nothing. */
  | { readonly say: 'probe'; readonly what: number | 'all contacts' | null }

/** One input's value, as it travels. */
export interface InputValue {
  readonly slot: number
  readonly value: number
}

/** What a board saw of an input at one moment, as it was: contacts, the first lowest, or a level that is not smoothed. */
export interface SlotNote {
  /** Since the note before it, or 0 for the first. */
  readonly after: Micros
  readonly slot: number
  readonly value: number
}

/** What a board says. */
export type FromBoard =
  | {
      readonly say: 'hello'
      readonly identity: string
      readonly fingerprint: string
      readonly length: number
      /** Another one after each start and each load: counts and numbers then begin anew. */
      readonly boot: number
      readonly limits: BoardLimits
      readonly model: string
      /** The number of the program that comes with Clavik, where it is that which runs there. */
      readonly program?: number
    }
  /** Reports, numbered one after the other from `number` on. */
  | {
      readonly say: 'inputs'
      readonly micros: Micros
      readonly number: number
      readonly inputs: readonly InputValue[]
    }
  /** Where every input stands; `number` is what the next report will have. */
  | {
      readonly say: 'all inputs'
      readonly micros: Micros
      readonly number: number
      readonly inputs: readonly InputValue[]
    }
  /** Notes of what is probed: when the last of them was made, and how many there have been, those left out included. */
  | {
      readonly say: 'probed'
      readonly micros: Micros
      readonly count: number
      readonly notes: readonly SlotNote[]
    }
  | { readonly say: 'answer'; readonly to: number; readonly problem: string | null }
  | { readonly say: 'piece'; readonly offset: number; readonly total: number; readonly bytes: Uint8Array }
  | BoardHeartbeat

export interface BoardHeartbeat {
  readonly say: 'heartbeat'
  readonly micros: Micros
  readonly boot: number
  /** Whether it has been asked to start, and whether it shows its rest states now. */
  readonly started: boolean
  readonly resting: boolean
  /** How often it has gone to rest since it started, modulo 256. */
  readonly rests: number
  /** Sequence number of the frame that it heard last. */
  readonly heard: number
  /** Frames dropped as damaged so far. */
  readonly bad: number
  /** The number that its next report will have. */
  readonly next: number
  /** Digest of the states that it was told and shows. */
  readonly digest: number
}

const toBoardType = {
  hello: 0x01,
  start: 0x02,
  outputs: 0x03,
  'load begin': 0x04,
  'load piece': 0x05,
  'load commit': 0x06,
  read: 0x07,
  heartbeat: 0x08,
  show: 0x09,
  again: 0x0a,
  probe: 0x0b,
} as const
const fromBoardType = {
  hello: 0x81,
  inputs: 0x82,
  answer: 0x83,
  piece: 0x84,
  heartbeat: 0x85,
  'all inputs': 0x86,
  probed: 0x87,
} as const
/** An end that says hello may have begun to count anew. */
const hellos: ReadonlySet<number> = new Set([toBoardType.hello, fromBoardType.hello])
const ALL_CONTACTS = 0xffff
/** Microseconds in which the time between notes is told. */
const NOTE_UNIT = 16
const STARTED = 1
const RESTING = 2

const u16 = (n: number): number[] => [n & 255, (n >> 8) & 255]
const u32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255]
const hex = (text: string): number[] => (text.match(/../g) ?? []).map((d) => Number.parseInt(d, 16))
const toHex = (bytes: Uint8Array): string =>
  Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
const words = (text: string): Uint8Array => new TextEncoder().encode(text)
const toWords = (bytes: Uint8Array): string => new TextDecoder().decode(bytes)

const get16 = (p: Uint8Array, at: number): number => (p[at] as number) | ((p[at + 1] as number) << 8)
const get32 = (p: Uint8Array, at: number): number => (get16(p, at) | (get16(p, at + 2) << 16)) >>> 0

/** A number of seven bits a byte, lowest first, the top bit saying that more follow (LEB128). */
const number7 = (n: number): number[] => (n < 128 ? [n] : [(n & 127) | 128, ...number7(n >>> 7)])

/** Notes from `from` to the end, or null where they end too early. */
const notesIn = (p: Uint8Array, from: number): SlotNote[] | null => {
  const notes: SlotNote[] = []
  let at = from
  const next = (): number => {
    let n = 0
    for (let shift = 0; shift < 21; shift += 7) {
      const byte = p[at++]
      if (byte === undefined) return Number.NaN
      n |= (byte & 127) << shift
      if (byte < 128) return n
    }
    return Number.NaN
  }
  while (at < p.length) {
    const note = { after: next() * NOTE_UNIT, slot: next(), value: next() }
    if (Number.isNaN(note.after + note.slot + note.value)) return null
    notes.push(note)
  }
  return notes
}

/** The payload that is sent most, without an array for each number in it. */
const states = (outputs: readonly SlotState[]): number[] => {
  const bytes: number[] = []
  for (const { slot, state } of outputs) bytes.push(slot & 255, slot >> 8, state & 255, state >> 8)
  return bytes
}

/** Displays know 256 characters; whatever is beyond them is a space. */
const oneByteEach = (text: string): number[] =>
  Array.from(text, (c) => (c.charCodeAt(0) < 256 ? c.charCodeAt(0) : 32))

const toBoardPayload = (m: ToBoard): number[] => {
  switch (m.say) {
    case 'hello':
    case 'start':
      return []
    case 'load commit':
      return hex(m.fingerprint)
    case 'heartbeat':
      return [...u16(m.next), ...u32(m.digest)]
    case 'again':
      return u16(m.from)
    case 'probe':
      return m.what === null ? [] : u16(m.what === 'all contacts' ? ALL_CONTACTS : m.what)
    case 'outputs':
      return states(m.outputs)
    case 'show':
      return [...u16(m.slot), m.row, ...oneByteEach(m.text)]
    case 'load begin':
      return [...u16(m.length), ...hex(m.fingerprint)]
    case 'load piece':
      return [...u16(m.offset), ...m.bytes]
    case 'read':
      return u16(m.offset)
  }
}

const fromBoardPayload = (m: FromBoard): number[] => {
  switch (m.say) {
    case 'hello':
      return [
        ...hex(m.identity),
        ...hex(m.fingerprint),
        ...u16(m.length),
        ...u16(m.boot),
        ...u16(m.limits.frameBytes),
        ...u16(m.limits.configurationBytes),
        ...u16(m.limits.slots),
        ...u32(m.limits.bytesPerS),
        ...words(m.model),
        ...(m.program === undefined ? [] : [0, ...words(String(m.program))]),
      ]
    case 'inputs':
    case 'all inputs':
      return [
        ...u32(m.micros),
        ...u16(m.number),
        ...m.inputs.flatMap((i) => [...u16(i.slot), ...u16(i.value)]),
      ]
    case 'probed':
      return [
        ...u32(m.micros),
        ...u16(m.count),
        ...m.notes.flatMap((n) =>
          [Math.round(n.after / NOTE_UNIT), n.slot, n.value].flatMap((x) => number7(x)),
        ),
      ]
    case 'answer':
      return [m.to, m.problem === null ? 0 : 1, ...words((m.problem ?? '').slice(0, 200))]
    case 'piece':
      return [...u16(m.offset), ...u16(m.total), ...m.bytes]
    case 'heartbeat':
      return [
        ...u32(m.micros),
        ...u16(m.boot),
        (m.started ? STARTED : 0) + (m.resting ? RESTING : 0),
        m.rests,
        m.heard,
        ...u16(m.bad),
        ...u16(m.next),
        ...u32(m.digest),
      ]
  }
}

/** Pairs of 16-bit numbers from `from` to the end, each made into something, or null when they do not come out even. */
const pairs = <T>(p: Uint8Array, from: number, make: (a: number, b: number) => T): T[] | null => {
  if (p.length < from || (p.length - from) % 4 !== 0) return null
  const list: T[] = []
  for (let at = from; at < p.length; at += 4) list.push(make(get16(p, at), get16(p, at + 2)))
  return list
}

const readToBoard = (f: Frame): ToBoard | null => {
  const p = f.payload
  switch (f.type) {
    case toBoardType.hello:
      return { say: 'hello' }
    case toBoardType.start:
      return { say: 'start' }
    case toBoardType['load commit']:
      return p.length === 8 ? { say: 'load commit', fingerprint: toHex(p) } : null
    case toBoardType.heartbeat:
      return p.length === 6 ? { say: 'heartbeat', next: get16(p, 0), digest: get32(p, 2) } : null
    case toBoardType.again:
      return p.length === 2 ? { say: 'again', from: get16(p, 0) } : null
    case toBoardType.probe: {
      if (p.length === 0) return { say: 'probe', what: null }
      const what = p.length === 2 ? get16(p, 0) : null
      return what === null ? null : { say: 'probe', what: what === ALL_CONTACTS ? 'all contacts' : what }
    }
    case toBoardType.outputs: {
      const outputs = pairs(p, 0, (slot, state) => ({ slot, state }))
      return outputs && { say: 'outputs', outputs }
    }
    case toBoardType.show:
      if (p.length < 3) return null
      return {
        say: 'show',
        slot: get16(p, 0),
        row: p[2] as number,
        text: String.fromCharCode(...p.subarray(3)),
      }
    case toBoardType['load begin']:
      return p.length === 10
        ? { say: 'load begin', length: get16(p, 0), fingerprint: toHex(p.subarray(2)) }
        : null
    case toBoardType['load piece']:
      return p.length >= 2 ? { say: 'load piece', offset: get16(p, 0), bytes: p.slice(2) } : null
    case toBoardType.read:
      return p.length === 2 ? { say: 'read', offset: get16(p, 0) } : null
    default:
      return null
  }
}

/** A model, and behind a zero the number of its program. */
const modelAndProgram = (text: string): { model: string; program?: number } => {
  const [model = '', program = ''] = text.split('\0')
  return /^\d{1,5}$/.test(program) ? { model, program: Number(program) } : { model }
}

const readFromBoard = (f: Frame): FromBoard | null => {
  const p = f.payload
  switch (f.type) {
    case fromBoardType.hello:
      if (p.length < 30) return null
      return {
        say: 'hello',
        identity: toHex(p.subarray(0, 8)),
        fingerprint: toHex(p.subarray(8, 16)),
        length: get16(p, 16),
        boot: get16(p, 18),
        limits: {
          frameBytes: get16(p, 20),
          configurationBytes: get16(p, 22),
          slots: get16(p, 24),
          bytesPerS: get32(p, 26),
        },
        ...modelAndProgram(toWords(p.subarray(30))),
      }
    case fromBoardType.inputs:
    case fromBoardType['all inputs']: {
      const inputs = pairs(p, 6, (slot, value) => ({ slot, value }))
      const say = f.type === fromBoardType.inputs ? ('inputs' as const) : ('all inputs' as const)
      return inputs && { say, micros: get32(p, 0), number: get16(p, 4), inputs }
    }
    case fromBoardType.probed: {
      const notes = p.length < 6 ? null : notesIn(p, 6)
      return notes && { say: 'probed', micros: get32(p, 0), count: get16(p, 4), notes }
    }
    case fromBoardType.answer:
      if (p.length < 2) return null
      return { say: 'answer', to: p[0] as number, problem: p[1] === 0 ? null : toWords(p.subarray(2)) }
    case fromBoardType.piece:
      return p.length >= 4
        ? { say: 'piece', offset: get16(p, 0), total: get16(p, 2), bytes: p.slice(4) }
        : null
    case fromBoardType.heartbeat:
      if (p.length !== 17) return null
      return {
        say: 'heartbeat',
        micros: get32(p, 0),
        boot: get16(p, 4),
        started: ((p[6] as number) & STARTED) !== 0,
        resting: ((p[6] as number) & RESTING) !== 0,
        rests: p[7] as number,
        heard: p[8] as number,
        bad: get16(p, 9),
        next: get16(p, 11),
        digest: get32(p, 13),
      }
    default:
      return null
  }
}

/** One end of a board link: numbers what it says, reads what the other end says, and notices what is missing. */
class LinkEnd<Says, Hears> {
  private sequence = 0
  private readonly reader = new FrameReader()
  /** Sequence number of the frame heard last, or null. */
  heard: number | null = null
  /** Frames that the other end numbered and that never came. */
  missed = 0
  /** The version the other end spoke last, when it is not ours. */
  strangeVersion: number | null = null

  constructor(
    private readonly write: (m: Says) => { type: number; payload: number[] },
    private readonly read: (f: Frame) => Hears | null,
  ) {}

  /** The message as bytes, and the sequence number an answer will refer to. */
  encode(message: Says): { bytes: Uint8Array; sequence: number } {
    const sequence = this.sequence
    this.sequence = (this.sequence + 1) & 255
    const { type, payload } = this.write(message)
    return { bytes: encodeFrame(type, sequence, payload), sequence }
  }

  decode(bytes: Uint8Array): { message: Hears; sequence: number }[] {
    const heard: { message: Hears; sequence: number }[] = []
    for (const frame of this.reader.push(bytes)) {
      this.strangeVersion = frame.version === BOARD_LINK_VERSION ? null : frame.version
      if (this.strangeVersion === null && !this.isNew(frame)) continue
      const message = this.strangeVersion === null ? this.read(frame) : null
      if (message === null) this.reader.bad++
      else heard.push({ message, sequence: frame.sequence })
    }
    return heard
  }

  /** Whether a frame is no repetition of the one before it; counts those that are missing between the two. */
  private isNew({ type, sequence }: Frame): boolean {
    const before = this.heard
    if (before === sequence && !hellos.has(type)) return false
    if (before !== null && !hellos.has(type)) this.missed += (sequence - before - 1) & 255
    this.heard = sequence
    return true
  }

  get bad(): number {
    return this.reader.bad
  }
}

/** Clavik's end of a board link. */
export const hostEnd = () =>
  new LinkEnd<ToBoard, FromBoard>(
    (m) => ({ type: toBoardType[m.say], payload: toBoardPayload(m) }),
    readFromBoard,
  )

/** The board's end of a board link. */
export const boardEnd = () =>
  new LinkEnd<FromBoard, ToBoard>(
    (m) => ({ type: fromBoardType[m.say], payload: fromBoardPayload(m) }),
    readToBoard,
  )
