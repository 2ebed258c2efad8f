import type { Micros } from '../units-of-measure'
import type { Note } from './note'

/** Which way two contacts a quarter apart have gone, by their states before and after; null for a jump over a state. */
const WAY: readonly (readonly (0 | 1 | -1 | null)[])[] = [
  // To open, A, B, both; bit 0 is A.
  [0, 1, -1, null],
  [-1, 0, null, 1],
  [1, null, 0, -1],
  [null, -1, 1, 0],
]

/** A change of a knob's two contacts. */
export interface StateChange {
  readonly at: Micros
  /** Clockwise above zero; null for a jump over a state, whose way nobody can know. */
  readonly way: 1 | -1 | null
  /** Both contacts after it, A lowest. */
  readonly state: number
}

/** The contact changes of a knob, as they came, bounces included. */
export const changesOf = (notes: readonly Note[]): StateChange[] => {
  const changes: StateChange[] = []
  let before: number | null = null
  for (const { at, value } of notes) {
    const state = value & 3
    if (before !== null && state !== before) {
      const way = WAY[before]?.[state] as 1 | -1 | null
      changes.push({ at, way, state })
    }
    before = state
  }
  return changes
}

/** Movements with a pause between them: how far each went, from where to where in time, and what did not come clean. */
export interface Turn {
  readonly from: Micros
  readonly to: Micros
  /** Contact changes, clockwise above zero. */
  readonly net: number
  readonly jumps: number
  /** Changes that were taken back: twice the bounces. */
  readonly back: number
}

/** Splits changes into turns with at least `pauseUs` between them. */
export const turnsOf = (changes: readonly StateChange[], pauseUs: Micros): Turn[] => {
  const turns: Turn[] = []
  let from = 0
  for (let i = 1; i <= changes.length; i++) {
    const next = changes[i]
    if (next && next.at - (changes[i - 1] as StateChange).at < pauseUs) continue
    const part = changes.slice(from, i)
    from = i
    const net = part.reduce((sum, c) => sum + (c.way ?? 0), 0)
    const jumps = part.filter((c) => c.way === null).length
    turns.push({
      from: (part[0] as StateChange).at,
      to: (part.at(-1) as StateChange).at,
      net,
      jumps,
      back: part.length - jumps - Math.abs(net),
    })
  }
  return turns
}

/**
 * How long a knob's contacts bounce: the longest time from a change to one that took it back, and was itself taken back
 * within the movement of the hand. A hand does not turn to and fro within `quickUs`.
 */
export const knobBounceUs = (changes: readonly StateChange[], quickUs: Micros = 10_000): Micros => {
  let longest = 0
  let began: StateChange | null = null
  for (let i = 1; i < changes.length; i++) {
    const before = changes[i - 1] as StateChange
    const now = changes[i] as StateChange
    const isBack =
      now.way !== null && before.way !== null && now.way === -before.way && now.at - before.at < quickUs
    if (!isBack) {
      began = null
      continue
    }
    began ??= before
    longest = Math.max(longest, now.at - began.at)
  }
  return longest
}
