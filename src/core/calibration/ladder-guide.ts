import { FULL_LEVEL } from '../aspects/travel'
import type { Millis } from '../units-of-measure'
import type { Asking, Guide, Step } from './guide'
import { Leaving } from './leaving'
import { isStill, noiseOf } from './noise'
import type { Note } from './note'

const STILL_MS: Millis = 800
/** Two positions whose levels are nearer than this cannot be told apart for certain: 2 % of the supply. */
const LEAST_APART = 0.02
const TREMBLE = 8

/** A position of a ladder switch, and what it is called on its part. */
export interface LadderPosition {
  readonly id: string
  readonly label: string
}

/** A switch that is one ladder of resistors, gone through position by position: where each really stands. */
export class LadderGuide implements Guide {
  taken = 0
  objection: string | null = null
  private readonly levels = new Map<string, number>()
  private window: Note[] = []
  private readonly leaving = new Leaving()
  private now: Millis = 0

  constructor(private readonly positions: readonly LadderPosition[]) {}

  private get at(): LadderPosition | undefined {
    return this.positions.find((p) => !this.levels.has(p.id))
  }

  take(notes: readonly Note[]): void {
    for (const n of notes) {
      this.window.push(n)
      this.leaving.take(n.value, (LEAST_APART / 2) * FULL_LEVEL)
    }
  }

  pass(now: Millis): void {
    this.now = now
    const from = (now - STILL_MS) * 1000
    while (this.window[0] && this.window[0].at < from) this.window.shift()
    const { at } = this
    const values = this.window.map((n) => n.value)
    if (!at || !this.leaving.hasLeft || !this.isLong || !isStill(values, TREMBLE)) return
    const middle = noiseOf(values)?.middle ?? 0
    const level = middle / FULL_LEVEL
    const other = this.positions.find((p) => Math.abs((this.levels.get(p.id) ?? 2) - level) < LEAST_APART)
    if (other) {
      this.objection = `That is where ${other.label} is: turn on, or look at the resistor between the two.`
      return
    }
    this.objection = null
    this.levels.set(at.id, Number(level.toFixed(4)))
    this.leaving.standsAt(middle, values.length)
    this.window = []
    this.taken++
  }

  private get isLong(): boolean {
    const [first, last] = [this.window[0], this.window.at(-1)]
    return first !== undefined && last !== undefined && last.at - first.at >= STILL_MS * 900
  }

  /** The share of the supply at which each position stands, once all have been shown. */
  get result(): Readonly<Record<string, number>> | null {
    return this.at === undefined ? Object.fromEntries(this.levels) : null
  }

  get isDone(): boolean {
    return this.at === undefined
  }

  get steps(): readonly Step[] {
    return this.positions.map((p) => ({ id: p.id, words: p.label, done: this.levels.has(p.id) }))
  }

  get asking(): Asking {
    const { at } = this
    if (!at)
      return { says: 'It is measured.', hint: 'Its settings are set; undo takes them back.', share: null }
    const { hasLeft } = this.leaving
    const first = this.window[0]
    const still = first ? Math.min(1, (this.now - first.at / 1000) / STILL_MS) : 0
    return {
      says: `Turn it to ${at.label}.`,
      hint: hasLeft
        ? 'Taken by itself once it rests there.'
        : this.levels.size > 0
          ? 'It is taken once it has moved on and rests there.'
          : 'Taken by itself once it was moved and rests there. If it stands there already, turn it away and back.',
      share: hasLeft && this.objection === null ? still : 0,
    }
  }
}
