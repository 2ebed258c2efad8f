import type { SlotKind } from '../aspects/aspect-kind'
import { type ColourSlot, colourSlot } from '../aspects/colour'
import { type DigitsSlot, digitsSlot } from '../aspects/digits'
import { type EncoderSlot, encoderSlot } from '../aspects/encoder'
import { type LampSlot, lampSlot } from '../aspects/lamp'
import { type NeedleSlot, needleSlot } from '../aspects/needle'
import { type ContactsSlot, contactsSlot } from '../aspects/positions'
import { Bytes, FLAG, number } from '../aspects/slot-bytes'
import { type TextSlot, textSlot } from '../aspects/text'
import { type AnalogSlot, analogSlot } from '../aspects/travel'
import { expanderKind, expanderKindOfCode } from '../catalogue/expanders'
import type { Place } from '../catalogue/place'
import { type Chip, chipObjection, placeKey } from './chip'

/** One thing a board does: watch an input, or drive an indicator, at pins of its own or channels of its chips. */
export type Slot =
  | ContactsSlot
  | EncoderSlot
  | AnalogSlot
  | LampSlot
  | DigitsSlot
  | TextSlot
  | NeedleSlot
  | ColourSlot

export type DrivenSlot = Exclude<Slot, ContactsSlot | EncoderSlot | AnalogSlot>

/** Whether the board drives it, rather than watches it. */
export const isDriven = (slot: Slot): slot is DrivenSlot =>
  slot.kind !== 'contacts' && slot.kind !== 'encoder' && slot.kind !== 'analog'

/** How each kind of slot is written and read. */
const slotKinds = {
  contacts: contactsSlot,
  encoder: encoderSlot,
  analog: analogSlot,
  lamp: lampSlot,
  digits: digitsSlot,
  text: textSlot,
  needle: needleSlot,
  colour: colourSlot,
}
const kindOf = (slot: Slot): SlotKind<Slot> => slotKinds[slot.kind] as SlotKind<Slot>
const kindOfCode = new Map(Object.values(slotKinds).map((k) => [k.code, k]))

export const pinsOf = (slot: Slot): readonly number[] => ('pins' in slot ? slot.pins : [slot.pin])

/** The place that is a slot's alone, where others share lines with it: by it one finds what it shows. */
export const ownPlace = (slot: Slot): Place => kindOf(slot).ownPlace?.(slot) ?? pinsOf(slot)[0] ?? -1

/** The longest state a slot can be told, in bytes; 0 where a state is a number. */
export const longestState = (slot: Slot): number => kindOf(slot).longestState?.(slot) ?? 0

/** What every slot takes of the memory that a chip works with (firmware/core/works.hpp). */
const SLOT_BYTES = 9

/** Bytes of a chip's memory that the boards' program works with while it holds this. */
export const workingBytes = ({ chips, slots }: Configuration): number =>
  chips.reduce((n, c) => n + c.chips * (expanderKind(c.kind)?.worksBytes ?? 1), 0) +
  slots.reduce((n, s) => n + SLOT_BYTES + (kindOf(s).worksBytes?.(s) ?? 0), 0)

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

/** A slot as its first byte, its kind with its flags, and what follows. */
const slotBytes = (slot: Slot): number[] => {
  const kind = kindOf(slot)
  const { flags, bytes } = kind.write(slot)
  return [kind.code + flags, ...bytes]
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
    const kind = kindOfCode.get(head % FLAG)
    if (!kind) return { problem: `slot ${i} is of kind ${head % FLAG}, which is not known` }
    const slot = kind.read(head, b)
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
