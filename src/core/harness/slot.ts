import { expanderKinds } from '../catalogue/expanders'
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
export const CONFIGURATION_VERSION = 3

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
const KEEP = 1

const rest = (r: SlotRest): number[] => (r === 'keep' ? [0, 0, KEEP] : [r & 255, r >> 8, 0])

const settingsOf = (slot: Slot): number[] => {
  switch (slot.kind) {
    case 'contacts':
      return [slot.debounceMs]
    case 'encoder':
      return []
    case 'analog':
      return [slot.smoothing]
    case 'lamp':
      return [Number(slot.sinks), ...rest(slot.rest)]
    case 'digits':
      return [drivers.indexOf(slot.driver), slot.digits, Number(slot.keep)]
    case 'text':
      return [slot.columns, slot.rows, slot.address, Number(slot.keep)]
    case 'needle':
      return [
        Number(slot.drive === 'servo'),
        slot.travelDeg & 255,
        slot.travelDeg >> 8,
        slot.degPerS & 255,
        slot.degPerS >> 8,
        ...rest(slot.rest),
      ]
    case 'colour':
      return [slot.lamps & 255, slot.lamps >> 8, Number(slot.keep)]
  }
}

/** A configuration as it travels and as the board keeps it; `docs/board-link.md` gives the layout. */
export const encodeConfiguration = ({ chips, slots }: Configuration): Uint8Array => {
  const bytes: number[] = [CONFIGURATION_VERSION, chips.length]
  for (const chip of chips) {
    bytes.push(chipCode(chip.kind), chip.chips, chip.address, chip.pins.length, ...chip.pins)
  }
  bytes.push(slots.length & 255, slots.length >> 8)
  for (const slot of slots) {
    const places = pinsOf(slot)
    bytes.push(
      code[slot.kind],
      places.length,
      ...places.flatMap((p) => [p & 255, p >> 8]),
      ...settingsOf(slot),
    )
  }
  return Uint8Array.from(bytes)
}

/** Kinds of chips are numbered from 1 in the catalogue's order, which only ever grows at its end. */
const chipCode = (kind: string): number => expanderKinds.findIndex((k) => k.id === kind) + 1

/** Bytes of a configuration, read one after the other. Beyond the end there is nothing but −1. */
class Bytes {
  at = 0
  constructor(private readonly bytes: Uint8Array) {}

  readonly next = (): number => this.bytes[this.at++] ?? -1
  readonly word = (): number => {
    const low = this.next()
    return low + this.next() * 256
  }
  readonly rest = (): SlotRest => {
    const value = this.word()
    return this.next() === KEEP ? 'keep' : value
  }
  get over(): boolean {
    return this.at > this.bytes.length
  }
}

const readSlot = (kind: number, pins: readonly number[], b: Bytes): Slot | null => {
  const pin = pins[0] ?? -1
  switch (kind) {
    case code.contacts:
      return { kind: 'contacts', pins, debounceMs: b.next() }
    case code.encoder:
      return { kind: 'encoder', pins }
    case code.analog:
      return { kind: 'analog', pin, smoothing: b.next() }
    case code.lamp:
      return { kind: 'lamp', pin, sinks: b.next() === 1, rest: b.rest() }
    case code.digits: {
      const driver = drivers[b.next()]
      return driver ? { kind: 'digits', pins, driver, digits: b.next(), keep: b.next() === KEEP } : null
    }
    case code.text:
      return {
        kind: 'text',
        pins,
        columns: b.next(),
        rows: b.next(),
        address: b.next(),
        keep: b.next() === KEEP,
      }
    case code.needle: {
      const drive = b.next() === 1 ? 'servo' : 'four-wire'
      return { kind: 'needle', pins, drive, travelDeg: b.word(), degPerS: b.word(), rest: b.rest() }
    }
    case code.colour:
      return { kind: 'colour', pin, lamps: b.word(), keep: b.next() === KEEP }
    default:
      return null
  }
}

const readChip = (b: Bytes): Chip => {
  const kind = expanderKinds[b.next() - 1]?.id ?? 'of an unknown kind'
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
  const count = b.word()
  const slots: Slot[] = []
  for (let i = 0; i < count; i++) {
    const kind = b.next()
    if (b.over) return { problem: `the configuration ends before slot ${i}` }
    if (!kinds.has(kind)) return { problem: `slot ${i} is of kind ${kind}, which is not known` }
    const pins = Array.from({ length: Math.max(0, b.next()) }, b.word)
    const slot = b.over ? undefined : readSlot(kind, pins, b)
    if (b.over) return { problem: `the configuration ends inside slot ${i}` }
    if (!slot) return { problem: `slot ${i} has settings that are not known` }
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
