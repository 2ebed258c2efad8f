import { FULL_LEVEL } from '../aspects/travel'
import { pinsOf, type Slot } from '../harness/slot'
import type { Millis } from '../units-of-measure'
import type { Standing } from './standing'

/** What the values of slots are read from. */
type Pins = Pick<Standing, 'bits' | 'share' | 'rangeOf'>

/** From one value that is told of a slot to the next. */
export interface SlotNews {
  readonly slot: number
  readonly value: number
}

/** An axis that turns back counts only once it has come back by this share of its way, so that it never trembles. */
const TURNS_BACK_SHARE = 0.0005
const TURNS_BACK_COUNTS = 2
/** An axis that is evened out has come to rest when it is so close, in levels. */
const SETTLED = 0.01

/** Two contacts of a knob as they follow each other, A being the lower bit. */
const ring = [0b00, 0b01, 0b11, 0b10]

interface Held {
  readonly slot: Slot
  told: number | null
  /** Of contacts: no change counts before. */
  until: Millis
  /** Of an axis: where it is after evening out, when that was, which way it last went. */
  level: number | null
  at: Millis
  way: number
  /** Of a knob: the contacts last seen, and the changes so far. */
  bits: number
  count: number
}

const fresh = (slot: Slot): Held => ({
  slot,
  told: null,
  until: Number.NEGATIVE_INFINITY,
  level: null,
  at: 0,
  way: 0,
  bits: 0,
  count: 0,
})

/**
 * What a board's program does, for a controller: reads what it holds off its pins and tells what has changed. Contacts
 * count at once and are then let bounce; axes are levels of 0 to 1023 with all the parts of one that they give.
 */
export class GivenSlots {
  private held: Held[] = []
  /** By pin, the places of what hangs there. */
  private readonly at = new Map<number, number[]>()
  /** What may change although nothing is said: contacts that bounce, an axis that is evened out. */
  private readonly unsettled = new Set<number>()

  constructor(private readonly pins: Pins) {}

  /** Holds these from now on; each is told once as it stands. */
  hold(slots: readonly Slot[]): void {
    this.held = slots.map(fresh)
    this.at.clear()
    this.unsettled.clear()
    for (const [i, slot] of slots.entries())
      for (const pin of pinsOf(slot)) this.at.set(pin, [...(this.at.get(pin) ?? []), i])
  }

  /** Looks at everything, or at what hangs on pins that have changed and what may have settled; gives what is to be told. */
  look(now: Millis, changed?: Iterable<number>): SlotNews[] {
    const news: SlotNews[] = []
    if (changed) {
      for (const pin of changed) for (const i of this.at.get(pin) ?? []) this.lookAt(i, now, news)
      for (const i of [...this.unsettled]) this.lookAt(i, now, news)
    } else for (let i = 0; i < this.held.length; i++) this.lookAt(i, now, news)
    return news
  }

  private lookAt(i: number, now: Millis, news: SlotNews[]): void {
    const held = this.held[i] as Held
    const value = this.read(held, now)
    if (this.settlesAt(held) === null) this.unsettled.delete(i)
    else this.unsettled.add(i)
    if (value === null || value === held.told) return
    held.told = value
    news.push({ slot: i, value })
    // What was just told may be let bounce from here on.
    if (this.settlesAt(held) !== null) this.unsettled.add(i)
  }

  private settlesAt(held: Held): Millis | null {
    const { slot } = held
    if (slot.kind === 'contacts')
      return held.told !== null && this.pins.bits(slot.pins) !== held.told ? held.until : null
    return slot.kind === 'analog' && held.level !== null && this.isUnderWay(held) ? held.at + 4 : null
  }

  /** When something may have changed although nothing new was said, or null. */
  get nextAt(): Millis | null {
    let next: Millis | null = null
    for (const i of this.unsettled) {
      const at = this.settlesAt(this.held[i] as Held)
      if (at !== null) next = Math.min(next ?? at, at)
    }
    return next
  }

  private isUnderWay({ slot, level }: Held): boolean {
    return slot.kind === 'analog' && Math.abs(this.pins.share(slot.pin) * FULL_LEVEL - (level ?? 0)) > SETTLED
  }

  private read(held: Held, now: Millis): number | null {
    const { slot } = held
    switch (slot.kind) {
      case 'contacts':
        return this.readContacts(held, slot.pins, slot.debounceMs, now)
      case 'encoder':
        return this.readKnob(held, slot.pins)
      case 'analog':
        return this.readAxis(held, slot.pin, slot.smoothing, now)
      default:
        // Nothing on a controller can be driven.
        return null
    }
  }

  private readContacts(held: Held, pins: readonly number[], debounceMs: Millis, now: Millis): number | null {
    if (now < held.until) return held.told
    const bits = this.pins.bits(pins)
    if (held.told !== null && bits !== held.told) held.until = now + debounceMs
    return bits
  }

  private readKnob(held: Held, pins: readonly number[]): number {
    const bits = this.pins.bits(pins)
    if (held.told !== null) {
      const steps = (ring.indexOf(bits) - ring.indexOf(held.bits) + 4) % 4
      if (steps === 1) held.count++
      else if (steps === 3) held.count--
    }
    held.bits = bits
    return held.count & 0xffff
  }

  private readAxis(held: Held, pin: number, smoothing: number, now: Millis): number {
    const goal = this.pins.share(pin) * FULL_LEVEL
    const slowMs = 2 ** smoothing - 1
    const from = held.level
    const share = slowMs === 0 || from === null ? 1 : 1 - Math.exp(-Math.max(0, now - held.at) / slowMs)
    const moved = from === null ? goal : from + (goal - from) * share
    held.level = Math.abs(goal - moved) <= SETTLED ? goal : moved
    held.at = now
    const { told } = held
    if (told === null) return held.level
    const { least = 0, most = FULL_LEVEL } = this.pins.rangeOf(pin) ?? {}
    const count = FULL_LEVEL / Math.max(1, most - least)
    const by = held.level - told
    const back = Math.max(TURNS_BACK_COUNTS * count, TURNS_BACK_SHARE * FULL_LEVEL)
    const atEnd = held.level === 0 || held.level === FULL_LEVEL
    if (by === 0 || (!atEnd && Math.sign(by) !== held.way && Math.abs(by) < back)) return told
    held.way = Math.sign(by)
    return held.level
  }
}
