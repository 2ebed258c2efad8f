import type { Nature } from '../../core/aspects/nature'
import { channelPlace, type Place } from '../../core/catalogue/place'
import { type Chip, chipKey } from '../../core/harness/chip'
import { type DrivenSlot, ownPlace, pinsOf } from '../../core/harness/slot'
import type { PinsUnder } from './core'
import type { Hands } from './hands'
import { solderedChip } from './soldered/chips'
import {
  channelsUnder,
  type Soldered,
  type SolderedChip,
  type SolderedThing,
  type TwoWireChip,
} from './soldered/soldered'
import { solderedThing } from './soldered/things'

interface Thing {
  readonly key: string
  readonly slot: DrivenSlot
  readonly thing: SolderedThing
}

/** The pins of a board as its program works them, with whatever is soldered to them: contacts under a hand, chips, displays. */
export class Pins implements PinsUnder {
  chips: readonly Chip[] = []
  /** What else is soldered on, as the slots that would drive it. */
  slots: readonly DrivenSlot[] = []
  private soldered: readonly SolderedChip[] = []
  private things: readonly Thing[] = []
  /** Who hears what the board does to a pin. */
  private hearing: Soldered[][] = []
  /** Who answers at an address of the two-wire bus; two at one address both do. */
  private onBus = new Map<number, TwoWireChip[]>()
  private readonly levels = new Map<number, number>()
  /** How the board drives its pins, for what is soldered on later. */
  private high: (boolean | undefined)[] = []
  /** Pins that take a lamp's current in: it is lit while they are low. */
  private sinking = new Set<number>()
  /** Something that one sees may have changed. */
  changed = true

  constructor(readonly hands: Hands) {}

  /** Solders these on. What was there before stays as it is, with what hangs on the channels of chips. */
  solder(chips: readonly Chip[], slots: readonly DrivenSlot[]): void {
    const before = this.chips.map((chip, i) => ({ key: chipKey(chip), chip: this.soldered[i], from: i }))
    const same = chips.map((chip) => before.find((b) => b.key === chipKey(chip)))
    // One that is on other pins now is still the one in its place, unless that has gone elsewhere.
    const stays = (i: number) =>
      chips[i]?.kind === this.chips[i]?.kind && !same.some((s) => s?.from === i) ? i : null
    // The first chips find what was set up on their channels before they were soldered on.
    if (this.chips.length > 0) this.hands.moveChannels(same.map((s, i) => s?.from ?? stays(i)))
    this.soldered = chips.map(
      (chip, i) =>
        // Those that keep their place and pins are the same thing as before; channels move with the place.
        (same[i]?.from === i ? same[i]?.chip : undefined) ?? solderedChip(chip, channelsUnder(this.hands, i)),
    )
    this.chips = chips
    const known = new Map(this.things.map((t) => [t.key, t]))
    this.slots = slots
    this.things = slots.flatMap((slot) => {
      const key = thingKey(slot, chips)
      const thing = known.get(key)?.thing ?? solderedThing(slot, (index) => this.soldered[index])
      return thing ? [{ key, slot, thing }] : []
    })
    this.sinking = new Set(slots.flatMap((s) => (s.kind === 'lamp' && s.sinks ? [s.pin] : [])))
    const heard = new Set(this.hearing.flat())
    this.hearing = []
    for (const [i, chip] of this.soldered.entries()) this.listen(chip, chips[i]?.pins ?? [], heard)
    for (const { slot, thing } of this.things) this.listen(thing, pinsOf(slot), heard)
    this.onBus = new Map()
    for (const { twoWire } of [...this.soldered, ...this.things.map((t): Soldered => t.thing)])
      if (twoWire) this.onBus.set(twoWire.address, [...(this.onBus.get(twoWire.address) ?? []), twoWire])
    this.changed = true
  }

  /** What some of it is really like. */
  beLike(natures: readonly { readonly places: readonly number[]; readonly nature: Nature }[]): void {
    const wanted = new Map(natures.map((n) => [n.places[0] ?? -1, n.nature]))
    for (const { slot, thing } of this.things) {
      const nature = wanted.get(ownPlace(slot))
      thing.beLike?.(nature?.kind === slot.kind ? nature : undefined)
    }
    this.changed = true
  }

  private listen(who: Soldered, pins: readonly number[], before: ReadonlySet<Soldered>): void {
    for (const pin of new Set(pins)) {
      this.hearing[pin] ??= []
      this.hearing[pin]?.push(who)
      const high = this.high[pin]
      if (high !== undefined && !before.has(who)) who.driven?.(pin, high)
    }
  }

  drive(pin: number, high: boolean): void {
    this.high[pin] = high
    const heard = this.hearing[pin]
    if (!heard) return
    for (let i = 0; i < heard.length; i++) {
      const who = heard[i] as Soldered
      who.driven?.(pin, high)
      // What only gives its inputs looks like it did.
      if (who.holds === undefined || 'shows' in who) this.changed = true
    }
  }

  /** The board lights what hangs on a pin, 0 to 255. */
  brightness(pin: number, level: number): void {
    this.levels.set(pin, level)
    this.drive(pin, level >= 128)
    this.changed = true
  }

  release(pin: number): void {
    this.high[pin] = undefined
    if (this.levels.delete(pin)) this.changed = true
  }

  colours(pin: number, bytes: readonly number[]): void {
    for (const who of this.hearing[pin] ?? []) who.colours?.(bytes)
    this.changed = true
  }

  servo(pin: number, us: number): void {
    for (const who of this.hearing[pin] ?? []) who.pulsed?.(us)
    this.changed = true
  }

  frequency(pin: number, hertz: number): void {
    for (const who of this.hearing[pin] ?? []) who.turnsOver?.(hertz)
    this.changed = true
  }

  /** A pin pulled up inside the board is low while something holds it there. */
  isLow(pin: number): boolean {
    for (const who of this.hearing[pin] ?? []) {
      const held = who.holds?.(pin) ?? null
      if (held !== null) return held === 'low'
    }
    return this.hands.isClosed(pin)
  }

  levelOf(pin: number): number {
    for (const who of this.hearing[pin] ?? []) {
      const level = who.level?.(pin) ?? null
      if (level !== null) return level
    }
    return this.hands.levelOf(pin)
  }

  transfer(address: number, out: readonly number[], count: number): readonly number[] | null {
    const answering = this.onBus.get(address)
    if (!answering) return null
    let read: readonly number[] = []
    for (const chip of answering) {
      if (out.length > 0) chip.write(out)
      if (count > 0) read = chip.read(count)
    }
    if (count === 0) this.changed = true
    return read
  }

  /** What lights at each place, 0 to 255, as a meter there would show it. */
  *lights(): Iterable<[Place, number]> {
    for (const [pin, level] of this.levels) yield [pin, this.sinking.has(pin) ? 255 - level : level]
    for (const [index, chip] of this.soldered.entries())
      for (const [channel, level] of (chip.lights?.() ?? []).entries())
        yield [channelPlace(index, channel), level]
  }

  /** What each display shows and where each needle stands, by its own place. */
  *shows(): Iterable<[Place, number | string]> {
    for (const { slot, thing } of this.things) yield [ownPlace(slot), thing.shows()]
  }
}

/** What makes something the same thing as before: what it is and where it hangs, whatever its settings on the board. */
const thingKey = (slot: DrivenSlot, chips: readonly Chip[]): string => {
  const settings: Record<string, unknown> = { ...slot }
  for (const name of ['keep', 'rest']) delete settings[name]
  if (settings.drive !== 'frequency') delete settings.degPerS
  return `${JSON.stringify(settings)} ${slot.kind === 'needle' ? chips.map(chipKey).join() : ''}`
}
