import { controlKind } from '../aspects/aspects'
import type { ControlUnit } from './units'

/** Tells a control that is operated from one that only trembles: a level stays within a band that goes along with it. */
export class Trembling {
  /** The lower end of the band in which each control stands. */
  private readonly bands = new Map<string, number>()

  /**
   * Whether a hand has operated a control that stood at `from` and tells `to` now, both as its pins tell it; null where nobody
   * knew, since what is told first is no operation.
   */
  isOperated({ unit, aspect }: ControlUnit, from: number | null, to: number): boolean {
    const unrest = controlKind(aspect.kind).unrest(aspect)
    // Contacts tell nothing but what a hand does.
    if (unrest === 0) return from !== null && from !== to
    const key = JSON.stringify([unit.part.id, aspect.id])
    if (from === null) {
      this.bands.set(key, to - unrest / 2)
      return false
    }
    // Where it stood lies in the band, however it was learnt.
    const low = Math.min(from, Math.max(from - unrest, this.bands.get(key) ?? from - unrest / 2))
    const next = to < low ? to : to > low + unrest ? to - unrest : low
    this.bands.set(key, next)
    return next !== low
  }
}
