import { channelOf, channelPlace, type Place } from '../../core/catalogue/place'
import { type Chip, chipKey } from '../../core/harness/chip'
import type { BoardPins } from './expanders/chip-driver'
import { solderedChip } from './expanders/expanders'
import { channelsUnder, type SolderedChip, type TwoWireChip } from './expanders/soldered-chip'
import type { Hands } from './hands'

/** The pins of a board, with whatever is soldered to them: contacts under a hand, and chips. */
export class Pins implements BoardPins {
  chips: readonly Chip[] = []
  private soldered: readonly SolderedChip[] = []
  /** Who hears what the board does to a pin. */
  private hearing = new Map<number, SolderedChip[]>()

  constructor(readonly hands: Hands) {}

  /** Solders these chips on. Ones that were there before stay as they are, with what hangs on their channels. */
  solder(chips: readonly Chip[]): void {
    const before = this.chips.map((chip, i) => ({ key: chipKey(chip), chip: this.soldered[i], from: i }))
    const same = chips.map((chip) => before.find((b) => b.key === chipKey(chip)))
    // One that is on other pins now is still the one in its place, unless that has gone elsewhere.
    const stays = (i: number) =>
      chips[i]?.kind === this.chips[i]?.kind && !same.some((s) => s?.from === i) ? i : null
    // The first chips find what was set up on their channels before they were soldered on.
    if (this.chips.length > 0) this.hands.moveChannels(same.map((s, i) => s?.from ?? stays(i)))
    const next = chips.map(
      (chip, i) =>
        // Those that keep their place and pins are the same thing as before; channels move with the place.
        (same[i]?.from === i ? same[i]?.chip : undefined) ?? solderedChip(chip, channelsUnder(this.hands, i)),
    )
    this.chips = chips
    this.soldered = next
    this.hearing = new Map()
    for (const [i, chip] of next.entries())
      for (const pin of new Set(chips[i]?.pins)) {
        const there = this.hearing.get(pin)
        if (there) there.push(chip)
        else this.hearing.set(pin, [chip])
      }
  }

  drive(pin: number, high: boolean): void {
    const chips = this.hearing.get(pin)
    if (chips) for (let i = 0; i < chips.length; i++) chips[i]?.driven?.(pin, high)
  }

  /** A pin pulled up inside the board is low while something holds it there. */
  isLow(pin: number): boolean {
    for (const chip of this.soldered) {
      const held = chip.holds?.(pin) ?? null
      if (held !== null) return held === 'low'
    }
    return this.hands.isClosed(pin)
  }

  levelOf(pin: number): number {
    for (const chip of this.soldered) {
      const level = chip.level?.(pin) ?? null
      if (level !== null) return level
    }
    return this.hands.levelOf(pin)
  }

  /** Who answers at an address of the two-wire bus. */
  twoWire(address: number): TwoWireChip | null {
    for (const { twoWire } of this.soldered) if (twoWire?.address === address) return twoWire
    return null
  }

  /** What each channel of each chip lights, by place. */
  *lights(): Iterable<[Place, number]> {
    for (const [index, chip] of this.soldered.entries())
      for (const [channel, level] of (chip.lights?.() ?? []).entries())
        yield [channelPlace(index, channel), level]
  }

  /** The place among what is soldered of a place in a configuration; null where its chip is not soldered on. */
  asSoldered(place: Place, chips: readonly Chip[]): Place | null {
    const at = channelOf(place)
    if (!at) return place
    const chip = chips[at.chip]
    const index = chip ? this.indexOf(chip) : -1
    return index < 0 ? null : channelPlace(index, at.channel)
  }

  private indexOf(chip: Chip): number {
    return this.chips.findIndex((c) => chipKey(c) === chipKey(chip))
  }

  /** The chip on these very pins, or at this address. */
  chipLike(chip: Chip): SolderedChip | undefined {
    return this.soldered[this.indexOf(chip)]
  }
}
