import { sameNumber } from '../../signal/same-number'
import type { Millis } from '../../units-of-measure'

/** How long a value that was sent is taken for true before the simulator has told it back. */
const BELIEVED_MS = 250

/**
 * What variables will be once the simulator has done what it was told: quick clicks step from that, not from a value
 * that is about to be old. As soon as the simulator tells another value than those on their way, it is believed.
 */
export class Beliefs {
  /** By variable: the values on their way, oldest first. */
  private readonly onTheirWay = new Map<number, { values: number[]; until: Millis }>()

  /** What to step from. */
  present(variable: number, told: number, now: Millis): number {
    const belief = this.onTheirWay.get(variable)
    return belief && belief.until > now ? (belief.values.at(-1) ?? told) : told
  }

  sent(variable: number, value: number, now: Millis): void {
    const values = this.onTheirWay.get(variable)?.values ?? []
    values.push(value)
    this.onTheirWay.set(variable, { values, until: now + BELIEVED_MS })
  }

  /** The simulator tells a value. */
  heard(variable: number, told: number): void {
    const belief = this.onTheirWay.get(variable)
    if (!belief) return
    const at = belief.values.findIndex((v) => sameNumber(v, told))
    if (at >= 0 && at < belief.values.length - 1) belief.values.splice(0, at + 1)
    else this.onTheirWay.delete(variable)
  }

  forget(isGone: (variable: number) => boolean): void {
    for (const variable of this.onTheirWay.keys()) if (isGone(variable)) this.onTheirWay.delete(variable)
  }
}
