import type { MeasuredContacts, MeasuredKnob, MeasuredTravel } from '../aspects/measured'
import { FULL_LEVEL } from '../aspects/travel'
import type { Degrees, Micros, Millis } from '../units-of-measure'
import { bouncesOf } from './bounce'
import { isStill, noiseOf } from './noise'
import type { Note } from './note'
import { changesOf, type StateChange } from './quadrature'

/** What a part does worse than when it was measured, with both measurements. */
export type Drifted =
  | { readonly is: 'bounces longer'; readonly was: Micros; readonly now: Micros }
  /** Changes lost of a thousand. */
  | { readonly is: 'loses steps'; readonly was: number; readonly now: number }
  /** Standard deviations at rest, in counts. */
  | { readonly is: 'noisier'; readonly was: number; readonly now: number }
  /** Levels at the end that is not reached any more. */
  | {
      readonly is: 'end not reached'
      readonly end: 'low' | 'high'
      readonly was: number
      readonly now: number
    }
  | ZeroLost

/** A needle that its sensor does not see where it should, or sees where it should not: so often in a row. */
interface ZeroLost {
  readonly is: 'zero lost'
  readonly seen: boolean
  readonly times: number
}

/** Watches one control for as long as it is used. What was found stays until it is measured anew. */
export interface DriftWatch {
  take(notes: readonly Note[]): void
  readonly found: Drifted | null
}

const middleOf = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

/** Movements that are looked at together; two such rows have to agree, so that it is told within twice as many. */
export const MOVEMENTS_LOOKED_AT = 40
/** So much longer than the longest there was; less is what contacts do from day to day. */
const LONGER = 2
const LONGER_US: Micros = 1500

/** Contacts that bounce longer than they did: nine of ten movements beyond twice the longest, in two rows of forty. */
export class ContactsWatch implements DriftWatch {
  found: Drifted | null = null
  private readonly notes: Note[][]
  private row: Micros[] = []
  private before: Micros | null = null

  constructor(
    private readonly measured: MeasuredContacts,
    contacts: number,
  ) {
    this.notes = Array.from({ length: contacts }, () => [])
  }

  take(notes: readonly Note[]): void {
    for (const [bit, kept] of this.notes.entries()) {
      kept.push(...notes)
      const bounces = bouncesOf(kept, bit, notes.at(-1)?.at)
      for (const b of bounces) this.add(b.us)
      const last = bounces.at(-1)
      // What is over is not looked at again; a contact that never rests is looked at in pieces.
      if (last) kept.splice(0, Math.max(0, kept.findIndex((n) => n.at > last.at + last.us) - 1))
      if (kept.length > 400) kept.splice(0, kept.length - 1)
    }
  }

  private add(us: Micros): void {
    this.row.push(us)
    if (this.row.length < MOVEMENTS_LOOKED_AT) return
    const usual = [...this.row].sort((a, b) => a - b)[Math.ceil(MOVEMENTS_LOOKED_AT * 0.9) - 1] as Micros
    this.row = []
    const { longestUs } = this.measured
    const isLonger = usual > Math.max(LONGER * longestUs, longestUs + LONGER_US)
    if (isLonger && this.before !== null)
      this.found = { is: 'bounces longer', was: longestUs, now: Math.min(usual, this.before) }
    this.before = isLonger ? usual : null
  }
}

/** Changes of a knob that are looked at together; two such rows have to agree. */
export const CHANGES_LOOKED_AT = 400
const LEAST_LOST = 4
const MORE = 3
/** A change that was taken back later than contacts bounce is one that the other contact missed. */
const SLIP_US: Micros = 3000
const ONE_TURN_US: Micros = 100_000

/** How many changes have to follow one before it is judged: a bounce may still take the last of them back. */
const FOLLOWING = 5

/** A knob that loses steps: jumps over a state, and clicks in which one contact stayed open, three times as many as there were. */
export class KnobWatch implements DriftWatch {
  found: Drifted | null = null
  private last: Note | null = null
  /** Changes without bounces, those that are not judged yet. */
  private clean: StateChange[] = []
  private changes = 0
  private lost = 0
  private before: number | null = null

  constructor(private readonly measured: MeasuredKnob) {}

  take(notes: readonly Note[]): void {
    const slip = Math.max(SLIP_US, 3 * this.measured.bounceUs)
    for (const c of changesOf(this.last ? [this.last, ...notes] : notes)) {
      const before = this.clean.at(-1)
      const isBounce = c.way !== null && before?.way === -c.way && c.at - before.at <= slip
      if (isBounce) this.clean.pop()
      else this.clean.push(c)
    }
    this.last = notes.at(-1) ?? this.last
    while (this.clean.length > FOLLOWING) this.judge(this.clean.shift() as StateChange, this.clean)
    if (this.changes >= CHANGES_LOOKED_AT) this.endRow()
  }

  /** One change with those that follow it: where the second goes back and the third on again, the other contact was missed. */
  private judge(a: StateChange, [b, c, d]: readonly StateChange[]): void {
    this.changes++
    if (a.way === null) this.lost++
    if (!a.way || !b || !c || !d || d.at - a.at > ONE_TURN_US) return
    if (b.way === -a.way && c.way === a.way && d.way === a.way) this.lost++
  }

  private endRow(): void {
    const { changes, lost } = this
    this.changes = 0
    this.lost = 0
    const before = this.measured.lost / Math.max(1, this.measured.changes)
    const isMore = lost >= LEAST_LOST && lost / changes > MORE * before
    const now = (1000 * lost) / changes
    if (isMore && this.before !== null)
      this.found = { is: 'loses steps', was: 1000 * before, now: Math.min(now, this.before) }
    this.before = isMore ? now : null
  }
}

/** Moments of rest that are looked at together, and visits to an end. */
export const RESTS_LOOKED_AT = 12
export const VISITS_LOOKED_AT = 12
const NOISIER = 2
const NOISIER_COUNTS = 1.5
/** As shares of the travel: where a visit to an end begins, how short it falls, and how alike visits are that meet a stop. */
const NEAR = 0.08
const SHORT = 0.015
const ALIKE = 0.01

/** A lever whose noise has doubled, in the middle of twelve moments of rest; or that stops short of an end, twelve times alike. */
export class TravelWatch implements DriftWatch {
  found: Drifted | null = null
  private sigmas: number[] = []
  private readonly visits = { low: [] as number[], high: [] as number[] }
  private visiting: { end: 'low' | 'high'; extreme: number } | null = null

  constructor(private readonly measured: MeasuredTravel) {}

  /** A second or so of samples, as they came. */
  take(notes: readonly Note[]): void {
    const levels = notes.map((n) => n.value)
    if (!isStill(levels, Math.max(2, 3 * this.measured.peak))) return
    const noise = noiseOf(levels)
    // At either end the converter cuts its noise off.
    if (!noise || noise.middle < 3 * noise.peak + 2 || noise.middle > FULL_LEVEL - 3 * noise.peak - 2) return
    this.sigmas.push(noise.sigma)
    if (this.sigmas.length < RESTS_LOOKED_AT) return
    const now = middleOf(this.sigmas)
    this.sigmas = []
    const { sigma } = this.measured
    if (now > Math.max(NOISIER * sigma, sigma + NOISIER_COUNTS))
      this.found = { is: 'noisier', was: sigma, now }
  }

  /** Where it is told to stand, as it is used. */
  moved(level: number): void {
    const { low, high } = this.measured
    const place = (level - low) / (high - low)
    const end = place < NEAR ? 'low' : place > 1 - NEAR ? 'high' : null
    const { visiting } = this
    if (visiting && visiting.end !== end) {
      this.visiting = null
      this.visited(visiting.end, visiting.extreme)
    }
    if (end === null) return
    const further = end === 'low' ? Math.min : Math.max
    this.visiting = { end, extreme: this.visiting ? further(this.visiting.extreme, place) : place }
  }

  private visited(end: 'low' | 'high', extreme: number): void {
    const list = this.visits[end]
    list.push(extreme)
    if (list.length > VISITS_LOOKED_AT) list.shift()
    if (list.length < VISITS_LOOKED_AT) return
    const [least, most] = [Math.min(...list), Math.max(...list)]
    const isShort = end === 'low' ? least > SHORT : most < 1 - SHORT
    if (!isShort || most - least > ALIKE) return
    const { low, high } = this.measured
    const now = Math.round(low + middleOf(list) * (high - low))
    this.found = { is: 'end not reached', end, was: end === 'low' ? low : high, now }
  }
}

/** How far from its zero a needle is seen for certain, and how far it has to be so as not to be, in tenths of a degree. */
const SEEN_TENTHS = 15
const UNSEEN_TENTHS = 120
const TURN_TENTHS = 3600
/** A needle that rests for longer is looked at again after so much. */
const LOOK_AGAIN_MS: Millis = 30_000
const SETTLES_MS: Millis = 2000
/** How quickly a motor looks for its sensor. */
const HOMING_DEG_PER_S = 100
/** So many looks in a row have to be wrong. */
export const LOOKS = 3

/** A needle as its board was told it and as its sensor sees it. */
export interface NeedleLook {
  /** Tenths of a degree from its zero, and since when. */
  readonly told: number
  readonly since: Millis
  /** Whether its sensor sees it. */
  readonly seen: boolean
  /** How long it takes over all of its travel, as quickly as it may. */
  readonly takesMs: Millis
  /** Another number after each start of its board: it looks for its zero then. */
  readonly boot: number | null
}

/** A needle that has lost its zero: where it rests, its sensor should see it, or should not, three times in a row. */
export class NeedleWatch {
  found: ZeroLost | null = null
  private boot: number | null = null
  private quietUntil: Millis = 0
  private wrong = 0

  constructor(private readonly travelDeg: Degrees) {}

  look({ told, since, seen, takesMs, boot }: NeedleLook, now: Millis): void {
    if (boot !== this.boot) {
      // Until it has found its zero, nothing can be said; what was wrong may be right now.
      this.boot = boot
      this.wrong = 0
      this.found = null
      this.quietUntil = now + ((this.travelDeg + 360) / HOMING_DEG_PER_S) * 1000 + takesMs
    }
    if (now < Math.max(since + takesMs + SETTLES_MS, this.quietUntil)) return
    this.quietUntil = now + LOOK_AGAIN_MS
    const fromZero = Math.min(told % TURN_TENTHS, TURN_TENTHS - (told % TURN_TENTHS))
    const isDue = fromZero <= SEEN_TENTHS ? true : fromZero >= UNSEEN_TENTHS ? false : null
    if (isDue === null) return
    this.wrong = seen === isDue ? 0 : this.wrong + 1
    this.found = this.wrong >= LOOKS ? { is: 'zero lost', seen, times: this.wrong } : null
  }
}
