import { channelOf, channelPlace } from '../../core/catalogue/place'
import type { Micros } from '../../core/units-of-measure'
import { Contact } from './contact'
import { Knob } from './knob'

/** So many steps after the last movement a board is still busy with it: longer than any debouncing. */
const RESTLESS_STEPS = 100

/**
 * What hands do to a board's pins and to the channels of its chips: contacts to ground, knobs on pairs of them, wipers
 * of pots. Where each of them is, is one number, as in a configuration.
 */
export class Hands {
  private readonly contacts = new Map<number, Contact>()
  private readonly knobs = new Map<string, Knob>()
  private readonly levels = new Map<number, number>()
  private restless = RESTLESS_STEPS

  constructor(
    private readonly random: () => number,
    closed: readonly number[],
    levels: readonly (readonly [number, number])[],
  ) {
    for (const pin of closed) this.contacts.set(pin, new Contact(true, random))
    for (const [pin, level] of levels) this.levels.set(pin, level)
  }

  moveContact(pin: number, closed: boolean, now: Micros): void {
    let contact = this.contacts.get(pin)
    if (!contact) {
      contact = new Contact(false, this.random)
      this.contacts.set(pin, contact)
    }
    contact.move(closed, now)
    this.restless = RESTLESS_STEPS
  }

  turn(a: number, b: number, changes: number): void {
    const key = `${a} ${b}`
    let knob = this.knobs.get(key)
    if (!knob) {
      knob = new Knob(this.random)
      this.knobs.set(key, knob)
      this.contacts.set(a, knob.a)
      this.contacts.set(b, knob.b)
    }
    knob.turn(changes)
    this.restless = RESTLESS_STEPS
  }

  slide(pin: number, level: number): void {
    this.levels.set(pin, level)
    this.restless = RESTLESS_STEPS
  }

  /** What hangs on the channels of chips goes with them: for each place among the chips, where it was before. */
  moveChannels(from: readonly (number | null)[]): void {
    moveIn(this.contacts, from)
    moveIn(this.levels, from)
    for (const key of this.knobs.keys()) if (channelOf(Number.parseInt(key, 10))) this.knobs.delete(key)
  }

  /** Whether anything of it moves, or has moved a moment ago: boards wait for contacts to be still. */
  get moving(): boolean {
    return this.restless > 0
  }

  settle(now: Micros): void {
    if (this.restless > 0) this.restless--
    for (const contact of this.contacts.values()) {
      contact.settle(now)
      if (contact.moving) this.restless = RESTLESS_STEPS
    }
    for (const knob of this.knobs.values()) {
      knob.settle(now)
      if (knob.moving) this.restless = RESTLESS_STEPS
    }
  }

  /** A pin pulled up inside the chip is low while its contact is closed. */
  isClosed(pin: number): boolean {
    return this.contacts.get(pin)?.closed ?? false
  }

  levelOf(pin: number): number {
    return this.levels.get(pin) ?? 0
  }

  closedPins(): number[] {
    return [...this.contacts].filter(([, c]) => c.closed).map(([pin]) => pin)
  }

  wipers(): [number, number][] {
    return [...this.levels]
  }
}

const moveIn = <T>(map: Map<number, T>, from: readonly (number | null)[]): void => {
  const things = [...map].filter(([place]) => channelOf(place) !== null)
  for (const [place] of things) map.delete(place)
  for (const [place, thing] of things) {
    const at = channelOf(place)
    const to = at ? from.indexOf(at.chip) : -1
    if (at && to >= 0) map.set(channelPlace(to, at.channel), thing)
  }
}
