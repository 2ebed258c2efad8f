import { expanderKind, expanderKindOfCode } from '../catalogue/expanders'
import type { DigitDriver } from '../catalogue/part-kind'
import type { Degrees, Millis } from '../units-of-measure'
import { type Chip, chipObjection, type Place, placeKey } from './chip'

/** What a lamp or display does when its board hears nothing any more. */
export type SlotRest = number | 'keep'

/** One thing a board does: watch an input, or drive an indicator, at pins of its own or channels of its chips. */
export type Slot =
  | { readonly kind: 'contacts'; readonly pins: readonly Place[]; readonly debounceMs: Millis }
  | { readonly kind: 'encoder'; readonly pins: readonly Place[] }
  /** `smoothing` is a power of two: each sample counts 1 / 2^smoothing. */
  | { readonly kind: 'analog'; readonly pin: Place; readonly smoothing: number }
  | {
      readonly kind: 'lamp'
      readonly pin: Place
      /** It takes current in: the lamp hangs between a supply and it. */
      readonly sinks: boolean
      readonly rest: SlotRest
    }
  | {
      readonly kind: 'digits'
      readonly pins: readonly Place[]
      readonly driver: DigitDriver
      readonly digits: number
      readonly keep: boolean
    }
  | {
      readonly kind: 'text'
      readonly pins: readonly Place[]
      readonly columns: number
      readonly rows: number
      /** On the two-wire bus; 0 for one on lines of its own. */
      readonly address: number
      readonly keep: boolean
    }
  | {
      readonly kind: 'needle'
      readonly pins: readonly Place[]
      readonly drive: 'four-wire' | 'servo'
      readonly travelDeg: Degrees
      readonly degPerS: number
      /** Where it goes when the board hears nothing, from the motor's zero; or stays. */
      readonly rest: SlotRest
    }
  | { readonly kind: 'colour'; readonly pin: Place; readonly lamps: number; readonly keep: boolean }

export const pinsOf = (slot: Slot): readonly number[] => ('pins' in slot ? slot.pins : [slot.pin])

/** The place that is a slot's alone, where others share lines with it: by it one finds what it shows. */
export const ownPlace = (slot: Slot): Place => {
  const pins = pinsOf(slot)
  if (slot.kind === 'text') return slot.address > 0 ? BUS + slot.address : (pins[1] ?? -1)
  if (slot.kind === 'digits') return pins.at(-1) ?? -1
  return pins[0] ?? -1
}

/** Beyond all pins and channels: addresses on the two-wire bus. */
const BUS = 0x10000

/** Everything a board holds: its chips, and what it does. */
export interface Configuration {
  readonly chips: readonly Chip[]
  readonly slots: readonly Slot[]
}

export const emptyConfiguration: Configuration = { chips: [], slots: [] }

/** What makes two slots the same thing on the board, whatever their settings and the order of the board's chips. */
export const slotKey = (slot: Slot, chips: readonly Chip[]): string => {
  const address = slot.kind === 'text' && slot.address > 0 ? ` at ${slot.address}` : ''
  return `${slot.kind} ${pinsOf(slot)
    .map((p) => placeKey(p, chips))
    .join(' ')}${address}`
}

/** A slot with all its settings, for comparing those of two boards. */
export const slotWords = (slot: Slot, chips: readonly Chip[]): string =>
  `${slotKey(slot, chips)} ${JSON.stringify({ ...slot, pin: 0, pins: 0 })}`

/** The version of the bytes below; a board refuses one it does not know. */
export const CONFIGURATION_VERSION = 4

const code = {
  contacts: 1,
  lamp: 2,
  encoder: 3,
  analog: 4,
  digits: 5,
  text: 6,
  needle: 7,
  colour: 8,
} as const
const kinds: ReadonlySet<number> = new Set(Object.values(code))
const drivers: readonly DigitDriver[] = ['MAX7219', 'TM1637']

/** A slot's first byte holds its kind below and its flags above. */
const FLAG = 16
/** Flags of rests: as it was, or a state that follows the settings; neither is dark, or the zero of a motor. */
const KEEPS = 1 * FLAG
const RESTS = 2 * FLAG
/** Flags of one kind only. */
const SINKS = 4 * FLAG
const SERVO = 4 * FLAG
const TM1637 = 2 * FLAG

/** Seven bits a byte, lowest first; the top bit says that more follow (LEB128). */
const number = (n: number): number[] => {
  const bytes: number[] = []
  for (; n >= 128; n = Math.floor(n / 128)) bytes.push((n % 128) + 128)
  return [...bytes, n]
}

const restFlag = (r: SlotRest): number => (r === 'keep' ? KEEPS : r === 0 ? 0 : RESTS)
const restBytes = (r: SlotRest): number[] => (r === 'keep' || r === 0 ? [] : number(r))

/** A slot as its first byte's flags, and what follows. */
const slotBytes = (slot: Slot): number[] => {
  const places = pinsOf(slot).flatMap(number)
  const begin = (flags: number) => code[slot.kind] + flags
  switch (slot.kind) {
    case 'contacts':
      return [begin(0), ...number(slot.pins.length), ...places, slot.debounceMs]
    case 'encoder':
      return [begin(0), ...places]
    case 'analog':
      return [begin(0), ...places, slot.smoothing]
    case 'lamp':
      return [begin((slot.sinks ? SINKS : 0) + restFlag(slot.rest)), ...places, ...restBytes(slot.rest)]
    case 'digits': {
      const flags = (slot.driver === 'TM1637' ? TM1637 : 0) + (slot.keep ? KEEPS : 0)
      return [begin(flags), ...number(slot.pins.length), ...places, slot.digits]
    }
    case 'text': {
      const own = [slot.columns, slot.rows, slot.address]
      return [begin(slot.keep ? KEEPS : 0), ...number(slot.pins.length), ...places, ...own]
    }
    case 'needle': {
      const flags = (slot.drive === 'servo' ? SERVO : 0) + restFlag(slot.rest)
      const own = [...number(slot.travelDeg), ...number(slot.degPerS)]
      return [begin(flags), ...number(slot.pins.length), ...places, ...own, ...restBytes(slot.rest)]
    }
    case 'colour':
      return [begin(slot.keep ? KEEPS : 0), ...places, ...number(slot.lamps)]
  }
}

/** A configuration as it travels and as the board keeps it; `docs/board-link.md` gives the layout. */
export const encodeConfiguration = ({ chips, slots }: Configuration): Uint8Array => {
  const bytes: number[] = [CONFIGURATION_VERSION, chips.length]
  for (const chip of chips) {
    const kind = expanderKind(chip.kind)?.code ?? 0
    bytes.push(kind, chip.chips, chip.address, chip.pins.length, ...chip.pins)
  }
  bytes.push(...number(slots.length))
  for (const slot of slots) bytes.push(...slotBytes(slot))
  return Uint8Array.from(bytes)
}

/** Bytes of a configuration, read one after the other. Beyond the end there is nothing but −1. */
class Bytes {
  at = 0
  constructor(private readonly bytes: Uint8Array) {}

  readonly next = (): number => this.bytes[this.at++] ?? -1
  readonly number = (): number => {
    let n = 0
    for (let factor = 1; factor < 2 ** 28; factor *= 128) {
      const byte = this.next()
      n += (byte % 128) * factor
      if (byte < 128) return n
    }
    return n
  }
  readonly numbers = (count: number): number[] => {
    const list: number[] = []
    for (let i = 0; i < count && !this.over; i++) list.push(this.number())
    return list
  }
  get over(): boolean {
    return this.at > this.bytes.length
  }
}

const readSlot = (head: number, b: Bytes): Slot => {
  const keep = (head & KEEPS) !== 0
  const rest = (): SlotRest => (keep ? 'keep' : (head & RESTS) !== 0 ? b.number() : 0)
  switch (head % FLAG) {
    case code.contacts:
      return { kind: 'contacts', pins: b.numbers(b.number()), debounceMs: b.next() }
    case code.encoder:
      return { kind: 'encoder', pins: b.numbers(2) }
    case code.analog:
      return { kind: 'analog', pin: b.number(), smoothing: b.next() }
    case code.lamp:
      return { kind: 'lamp', pin: b.number(), sinks: (head & SINKS) !== 0, rest: rest() }
    case code.digits: {
      const driver = drivers[(head & TM1637) !== 0 ? 1 : 0] as DigitDriver
      return { kind: 'digits', pins: b.numbers(b.number()), driver, digits: b.next(), keep }
    }
    case code.text: {
      const pins = b.numbers(b.number())
      return { kind: 'text', pins, columns: b.next(), rows: b.next(), address: b.next(), keep }
    }
    case code.needle: {
      const drive = (head & SERVO) !== 0 ? 'servo' : 'four-wire'
      const pins = b.numbers(b.number())
      return { kind: 'needle', pins, drive, travelDeg: b.number(), degPerS: b.number(), rest: rest() }
    }
    default:
      return { kind: 'colour', pin: b.number(), lamps: b.number(), keep }
  }
}

const readChip = (b: Bytes): Chip => {
  const kind = expanderKindOfCode(b.next())?.id ?? 'of an unknown kind'
  const chips = b.next()
  const address = b.next()
  return { kind, chips, address, pins: Array.from({ length: Math.max(0, b.next()) }, b.next) }
}

/** Reads a configuration back, or says what is wrong with it. */
export const decodeConfiguration = (bytes: Uint8Array): Configuration | { problem: string } => {
  const b = new Bytes(bytes)
  const version = b.next()
  if (version !== CONFIGURATION_VERSION) return { problem: `configuration version ${version} is not known` }
  const chips: Chip[] = []
  for (let left = b.next(); left > 0; left--) {
    const chip = readChip(b)
    if (b.over) return { problem: `the configuration ends inside chip ${chips.length}` }
    const objection = chipObjection(chip)
    if (objection) return { problem: objection }
    chips.push(chip)
  }
  const count = b.number()
  const slots: Slot[] = []
  for (let i = 0; i < count; i++) {
    const head = b.next()
    if (b.over) return { problem: `the configuration ends before slot ${i}` }
    if (!kinds.has(head % FLAG)) return { problem: `slot ${i} is of kind ${head % FLAG}, which is not known` }
    const slot = readSlot(head, b)
    if (b.over) return { problem: `the configuration ends inside slot ${i}` }
    slots.push(slot)
  }
  return b.over ? { problem: 'the configuration ends too early' } : { chips, slots }
}

/** FNV-1a, 64 bit, as 16 hexadecimal digits: what two sides compare instead of whole configurations. */
export const fingerprint = (bytes: Uint8Array): string => {
  let hash = 0xcbf29ce484222325n
  for (const byte of bytes) hash = BigInt.asUintN(64, (hash ^ BigInt(byte)) * 0x100000001b3n)
  return hash.toString(16).padStart(16, '0')
}

/** The fingerprint of a board that holds nothing. */
export const BLANK = '0'.repeat(16)
