import { sameNumber } from '../signal/same-number'
import type { Millis } from '../units-of-measure'
import type { ControlState } from './units'

/** How soon after a step a second one is taken for another program's answer to the same movement. */
const WATCH_MS = 500

interface Watched {
  readonly from: number
  readonly to: number
  /** Where a second step of the same kind would lead. */
  readonly second: number
  readonly at: Millis
  readonly state: ControlState
  reached: boolean
}

/**
 * Watches what the simulator makes of each step. When the variable goes one step further than was sent, or back
 * at once, something else acts on the same control: most often the simulator's own assignment.
 */
export class SecondSteps {
  private readonly watched = new Map<number, Watched>()

  sent(variable: number, w: Omit<Watched, 'reached'>): void {
    this.watched.set(variable, { ...w, reached: false })
  }

  watches(variable: number): boolean {
    return this.watched.has(variable)
  }

  /** A watched variable has changed. */
  heard(variable: number, value: number, name: string, now: Millis): void {
    const w = this.watched.get(variable)
    if (!w) return
    if (now - w.at > WATCH_MS) {
      this.watched.delete(variable)
      return
    }
    if (sameNumber(value, w.to)) {
      w.reached = true
      return
    }
    const again = w.second !== w.to && sameNumber(value, w.second)
    if (!again || (w.second === w.from && !w.reached)) return
    w.state.doubled = { at: now, words: `${name} went on from ${w.to} to ${value} by itself` }
    this.watched.delete(variable)
  }

  forget(isGone: (variable: number) => boolean): void {
    for (const variable of this.watched.keys()) if (isGone(variable)) this.watched.delete(variable)
  }
}
