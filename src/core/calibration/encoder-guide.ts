import type { Millis } from '../units-of-measure'
import { clickRates, type EncoderMeasure, type EncoderProblem, measureEncoder } from './encoder-measure'
import type { Asking, Guide, Step } from './guide'
import type { Note } from './note'
import { changesOf, type StateChange } from './quadrature'

/** How many clicks are asked for. */
export const CLICKS = 10
/** A knob that was left alone for so long has been turned; a careful hand rests between two clicks, but not for that long. */
const LEFT_MS: Millis = 2000
/** What little was turned is forgotten then. */
const FORGOTTEN_MS: Millis = 8000
/** So many changes, those that were taken back left out, are a turn of ten clicks; fewer were to feel it, or a knock. */
const LEAST_CHANGES = 8
/** So far it is turned away in the check, and for so long it then stands at zero. */
const CHECK_CLICKS = 3
const ZERO_MS: Millis = 1200

/** Nobody turns a knob that often to measure it; what is older is forgotten. */
const MOST_KEPT = 5000

const problemWords = (p: EncoderProblem): string => {
  switch (p.problem) {
    case 'not turned':
      return 'It was hardly turned. Ten clicks clockwise, once more.'
    case 'one contact':
      return `Only one contact moves: ${p.which} stands still. Look at its wire, then turn again.`
    case 'same way':
      return `It was turned the same way twice (${p.there} and ${p.back} changes). Ten clicks clockwise, then ten back.`
    case 'no kind':
      return `${p.changes} changes in ${p.clicks} clicks fit no kind of knob. Count to exactly ten, once more.`
  }
}

/** Turned ten clicks there and ten back: what kind it is; then turned there and back once more, to see that it counts. */
export class EncoderGuide implements Guide {
  taken = 0
  objection: string | null = null
  private notes: Note[] = []
  private all: Note[] = []
  private changes: StateChange[] = []
  private there: readonly StateChange[] | null = null
  private measure: EncoderMeasure | null = null
  private clicks = 0
  private away = 0
  private checked = false
  private now: Millis = 0

  take(notes: readonly Note[]): void {
    this.notes.push(...notes)
    this.all.push(...notes)
    if (this.all.length > MOST_KEPT) this.all.splice(0, this.all.length - MOST_KEPT)
    if (this.notes.length > MOST_KEPT) this.notes.splice(0, this.notes.length - MOST_KEPT)
    this.changes = changesOf(this.notes)
  }

  pass(now: Millis): void {
    this.now = now
    const last = this.changes.at(-1)
    const alone = last ? now - last.at / 1000 : 0
    if (this.measure) this.check(alone)
    else if (alone >= LEFT_MS && Math.abs(this.net) >= LEAST_CHANGES) this.endTurn()
    // A knock, or a few clicks to feel it, are no part of the ten.
    else if (alone >= FORGOTTEN_MS && this.changes.length > 0) this.begin()
  }

  private endTurn(): void {
    const turned = this.changes
    this.begin()
    if (!this.there) {
      this.there = turned
      this.objection = null
      this.taken++
      return
    }
    const found = measureEncoder(this.there, turned, CLICKS)
    if ('problem' in found) {
      this.objection = problemWords(found)
      this.there = null
      return
    }
    this.objection = null
    this.measure = found
    this.taken++
  }

  private begin(): void {
    const last = this.notes.at(-1)
    this.notes = last ? [last] : []
    this.changes = []
  }

  /** The counter must read zero after turning there and back. */
  private check(alone: Millis): void {
    if (!this.measure || this.checked) return
    const { changesPerClick, reverse } = this.measure
    this.clicks = (reverse ? 0 - this.net : this.net) / changesPerClick
    this.away = Math.max(this.away, Math.abs(this.clicks))
    if (this.away < CHECK_CLICKS || alone < ZERO_MS) return
    if (this.clicks === 0) {
      this.objection = null
      this.checked = true
      this.taken++
    } else if (Math.abs(this.clicks) < this.away)
      this.objection = `It reads ${this.clicks} where it should read 0: turn on to where it began, or measure it anew.`
  }

  /** Clicks since the measure was taken, as it counts now. */
  get counter(): number {
    return this.clicks
  }

  /** Contact changes in this step, clockwise above zero: those that bounced are taken back. */
  get net(): number {
    return this.changes.reduce((sum, c) => sum + (c.way ?? 0), 0)
  }

  get seen(): readonly Note[] {
    return this.all
  }

  /** How quickly it was turned, click by click. */
  get rates(): readonly number[] {
    return this.measure ? clickRates(changesOf(this.all), this.measure.changesPerClick) : []
  }

  get result(): EncoderMeasure | null {
    return this.measure
  }

  get isDone(): boolean {
    return this.checked
  }

  get steps(): readonly Step[] {
    return [
      { id: 'there', words: 'Ten clicks clockwise', done: this.there !== null },
      { id: 'back', words: 'Ten clicks back', done: this.measure !== null },
      { id: 'check', words: 'There and back: zero', done: this.checked },
    ]
  }

  get asking(): Asking {
    const left = this.changes.at(-1)
    const alone = left ? Math.max(0, this.now - left.at / 1000) : 0
    const share = Math.abs(this.net) < LEAST_CHANGES ? null : Math.min(1, alone / LEFT_MS)
    const hint =
      this.changes.length === 0
        ? 'Slowly, one click after the other; it is taken when the knob is left alone.'
        : `${Math.abs(this.net)} contact changes so far. Taken when it is left alone for two seconds.`
    if (!this.there) return { says: 'Turn it ten clicks clockwise.', hint, share }
    if (!this.measure) return { says: 'Now ten clicks back.', hint, share }
    if (!this.checked)
      return {
        says: 'There and back: it must read 0.',
        hint: `It reads ${Math.round(this.clicks * 100) / 100} clicks.`,
        share: this.away < CHECK_CLICKS ? null : Math.min(1, alone / ZERO_MS),
      }
    return {
      says: 'It is measured, and it counts.',
      hint: 'Its settings are set; undo takes them back.',
      share: null,
    }
  }
}
