import type { ExpanderKind } from '../catalogue/expander-kind'
import { expanderKind } from '../catalogue/expanders'
import { channelOf, type Place } from '../catalogue/place'

/** An expander as its board knows it: which chips, on which of its pins, at which address. */
export interface Chip {
  /** Its kind in the catalogue. */
  readonly kind: string
  /** The board's own numbers of the pins its lines hang on, in the catalogue's order; none of supply and ground. */
  readonly pins: readonly number[]
  readonly chips: number
  /** On the two-wire bus; 0 elsewhere. */
  readonly address: number
}

/** The lines of an expander that hang on pins of a board. */
export const boardLines = (kind: ExpanderKind) =>
  kind.lines.filter((l) => l.role !== 'plus' && l.role !== 'ground')

/** What makes two chips the same thing on a board. */
export const chipKey = (chip: Chip): string => {
  let key = keys.get(chip)
  if (key === undefined) {
    key = `${chip.kind}×${chip.chips} ${chip.pins.join(' ')} ${chip.address}`
    keys.set(chip, key)
  }
  return key
}
/** Made once for each chip: it is asked for all the time. */
const keys = new WeakMap<Chip, string>()

/** A place by what it is, whatever the order in which a board lists its chips. */
export const placeKey = (place: Place, chips: readonly Chip[]): string => {
  const at = channelOf(place)
  if (!at) return `${place}`
  const chip = chips[at.chip]
  return `(${chip ? chipKey(chip) : 'no chip'}) ${at.channel}`
}

/** Why a chip cannot be as a configuration has it, or null. */
export const chipObjection = (chip: Chip): string | null => {
  const kind = expanderKind(chip.kind)
  if (!kind) return `an expander “${chip.kind}” is not known`
  if (chip.chips < 1 || chip.chips > kind.mostChips) return `${kind.name}: no chain of ${chip.chips}`
  if (chip.pins.length !== boardLines(kind).length)
    return `${kind.name}: ${chip.pins.length} pins do not fit it`
  return null
}
