import type { Nature, NatureOf } from '../../core/aspects/nature'
import { FULL_LEVEL } from '../../core/aspects/travel'
import { channelOf, channelPlace } from '../../core/catalogue/place'
import { bent } from '../../core/signal/bands'
import type { Micros } from '../../core/units-of-measure'
import { Contact } from './contact'
import { Knob } from './knob'

/** So many steps after the last movement a board is still busy with it: longer than any debouncing. */
const RESTLESS_STEPS = 100
/** No hand takes a lever from one end to the other more quickly; where it is heard late, it was on its way meanwhile. */
const QUICKEST_US: Micros = 100_000

/** A lever on its way to where the hand wants it, and until when it has moved so far. */
interface Glide {
  readonly to: number
  readonly at: Micros
}

/**
 * What hands do to a board's pins and to the channels of its chips: contacts to ground, knobs on pairs of them, wipers
 * of pots. Where each of them is, is one number, as in a configuration.
 */
export class Hands {
  private readonly contacts = new Map<number, Contact>()
  private readonly knobs = new Map<string, Knob>()
  private readonly levels = new Map<number, number>()
  private readonly glides = new Map<number, Glide>()
  private natures = new Map<number, Nature>()
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
      contact = this.wear(pin, new Contact(false, this.random))
      this.contacts.set(pin, contact)
    }
    contact.move(closed, now)
    this.restless = RESTLESS_STEPS
  }

  turn(a: number, b: number, changes: number): void {
    const key = `${a} ${b}`
    let knob = this.knobs.get(key)
    if (!knob) {
      knob = this.wearKnob(a, new Knob(this.random))
      this.knobs.set(key, knob)
      this.contacts.set(a, knob.a)
      this.contacts.set(b, knob.b)
    }
    knob.turn(changes)
    this.restless = RESTLESS_STEPS
  }

  /** Puts a wiper somewhere at once. */
  slide(pin: number, level: number): void {
    this.glides.delete(pin)
    this.levels.set(pin, level)
    this.restless = RESTLESS_STEPS
  }

  /** Moves a wiper there as a hand does, through all that is between. */
  glide(pin: number, level: number, now: Micros): void {
    this.glides.set(pin, { to: level, at: this.glides.get(pin)?.at ?? now })
    this.restless = RESTLESS_STEPS
  }

  /** What hangs at some places is really like this; all else is as its catalogue says. */
  beLike(natures: readonly { readonly places: readonly number[]; readonly nature: Nature }[]): void {
    this.natures = new Map(natures.flatMap(({ places, nature }) => places.map((p) => [p, nature] as const)))
    for (const [pin, contact] of this.contacts) this.wear(pin, contact)
    for (const [key, knob] of this.knobs) this.wearKnob(Number.parseInt(key, 10), knob)
  }

  private wear(pin: number, contact: Contact): Contact {
    const nature = this.natures.get(pin)
    if (nature?.kind === 'positions') contact.bounceUs = nature.bounceUs
    else if (nature?.kind !== 'encoder') contact.bounceUs = contact.asMadeUs
    return contact
  }

  private wearKnob(pin: number, knob: Knob): Knob {
    const nature = this.natures.get(pin)
    const really = nature?.kind === 'encoder' ? nature : undefined
    knob.missesOneIn = really?.missesOneIn ?? 0
    for (const contact of [knob.a, knob.b]) contact.bounceUs = really?.bounceUs ?? contact.asMadeUs
    return knob
  }

  /** What hangs on the channels of chips goes with them: for each place among the chips, where it was before. */
  moveChannels(from: readonly (number | null)[]): void {
    moveIn(this.contacts, from)
    moveIn(this.levels, from)
    moveIn(this.glides, from)
    for (const key of this.knobs.keys()) if (channelOf(Number.parseInt(key, 10))) this.knobs.delete(key)
  }

  /** Whether anything of it moves, or has moved a moment ago: boards wait for contacts to be still. */
  get moving(): boolean {
    return this.restless > 0
  }

  /** Whether a contact bounces just now, or a knob turns: a real board would look many times meanwhile. */
  get bounces(): boolean {
    for (const contact of this.contacts.values()) if (contact.moving) return true
    for (const knob of this.knobs.values()) if (knob.moving) return true
    return false
  }

  /** A step of the board is over. */
  rest(): void {
    if (this.restless > 0) this.restless--
  }

  /** Brings everything up to `now`. */
  settle(now: Micros): void {
    for (const contact of this.contacts.values()) {
      contact.settle(now)
      if (contact.moving) this.restless = RESTLESS_STEPS
    }
    for (const knob of this.knobs.values()) {
      knob.settle(now)
      if (knob.moving) this.restless = RESTLESS_STEPS
    }
    for (const [pin, { to, at }] of this.glides) {
      const from = this.levels.get(pin) ?? 0
      const reach = Math.max(0, now - at) / QUICKEST_US
      const isThere = Math.abs(to - from) <= reach
      this.levels.set(pin, isThere ? to : from + Math.sign(to - from) * reach)
      if (isThere) this.glides.delete(pin)
      else this.glides.set(pin, { to, at: Math.max(at, now) })
      this.restless = RESTLESS_STEPS
    }
  }

  /** A pin pulled up inside the chip is low while its contact is closed. */
  isClosed(pin: number): boolean {
    return this.contacts.get(pin)?.closed ?? false
  }

  /** What a wiper stands at, a share of the supply: where the hand has put it, as its track has that. */
  levelOf(pin: number): number {
    const place = this.levels.get(pin) ?? 0
    const nature = this.natures.get(pin)
    return nature?.kind === 'travel' ? onTrack(nature, place, this.random) : place
  }

  closedPins(): number[] {
    return [...this.contacts].filter(([, c]) => c.closed).map(([pin]) => pin)
  }

  wipers(): [number, number][] {
    return [...this.levels]
  }
}

/** What the wiper of such a pot stands at, where the hand has put it. */
const onTrack = (nature: NatureOf<'travel'>, hand: number, random: () => number): number => {
  const { low = 0, high = 1, bend, noise = 0, swapped, broken } = nature
  if (broken && hand >= broken.from && hand <= broken.to) return 0
  const share = low + (high - low) * bent(hand, bend)
  // Six even ones are near enough to normal: their sum has half a standard deviation squared.
  let sum = -3
  for (let i = 0; i < 6 && noise > 0; i++) sum += random()
  const trembling = noise > 0 ? (sum * Math.SQRT2 * noise) / FULL_LEVEL : 0
  return Math.min(1, Math.max(0, (swapped ? 1 - share : share) + trembling))
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
