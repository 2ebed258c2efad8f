import type { Micros } from '../units-of-measure'
import type { StateChange } from './quadrature'
import { knobBounceUs, turnsOf } from './quadrature'

export type ChangesPerClick = 1 | 2 | 4
const kinds: readonly ChangesPerClick[] = [1, 2, 4]

/** What turning a knob so many clicks one way and as many back has told of it. */
export interface EncoderMeasure {
  readonly changesPerClick: ChangesPerClick
  /** Turned clockwise it counted down: its A and B are exchanged. */
  readonly reverse: boolean
  /** Contact changes on the way there, as counted, and back. */
  readonly there: number
  readonly back: number
  /** Changes by which it does not stand where it stood: lost or won on the way. */
  readonly lost: number
  /** Jumps over a state: changes that came too quickly to be seen, or not at all. */
  readonly jumps: number
  readonly bounceUs: Micros
}

export type EncoderProblem =
  | { readonly problem: 'not turned' }
  /** One contact moved and the other did not. */
  | { readonly problem: 'one contact'; readonly which: 'A' | 'B' }
  | { readonly problem: 'same way'; readonly there: number; readonly back: number }
  /** So many changes in so many clicks fit no kind. */
  | { readonly problem: 'no kind'; readonly changes: number; readonly clicks: number }

/** A count may be one click off before it is no kind's: a first click is easily begun in the middle. */
const OFF = 1.2

const kindFor = (changes: number, clicks: number): ChangesPerClick | null => {
  const fitting = kinds.filter((k) => Math.abs(Math.abs(changes) - k * clicks) <= k * OFF)
  return fitting.length === 1 ? (fitting[0] as ChangesPerClick) : null
}

const onlyOne = (changes: readonly StateChange[]): 'A' | 'B' | null => {
  let seen = 0
  for (let i = 1; i < changes.length; i++)
    seen |= (changes[i] as StateChange).state ^ (changes[i - 1] as StateChange).state
  return seen === 1 ? 'B' : seen === 2 ? 'A' : null
}

/**
 * From the changes of two movements, `clicks` clicks clockwise and as many back, to what kind of knob it is. Bounces
 * cancel each other in the count, and jumps over a state are told. Both ways have to agree on the kind.
 */
export const measureEncoder = (
  there: readonly StateChange[],
  back: readonly StateChange[],
  clicks: number,
): EncoderMeasure | EncoderProblem => {
  const all = [...there, ...back]
  if (all.length < clicks) return { problem: 'not turned' }
  const still = onlyOne(all)
  if (still) return { problem: 'one contact', which: still }
  const [out] = turnsOf(there, Number.POSITIVE_INFINITY)
  const [home] = turnsOf(back, Number.POSITIVE_INFINITY)
  const n = out?.net ?? 0
  const m = home?.net ?? 0
  if (n === 0 || m === 0) return { problem: 'not turned' }
  if (Math.sign(n) === Math.sign(m)) return { problem: 'same way', there: n, back: m }
  const kind = kindFor(n, clicks) ?? kindFor(m, clicks)
  if (kind === null) return { problem: 'no kind', changes: Math.abs(n), clicks }
  return {
    changesPerClick: kind,
    reverse: n < 0,
    there: Math.abs(n),
    back: Math.abs(m),
    lost: Math.abs(n + m),
    jumps: (out?.jumps ?? 0) + (home?.jumps ?? 0),
    bounceUs: Math.max(knobBounceUs(there), knobBounceUs(back)),
  }
}

/** How many clicks a second a knob was turned, from each click to the next while it was not left alone for a second. */
export const clickRates = (changes: readonly StateChange[], per: ChangesPerClick): number[] => {
  const rates: number[] = []
  let sum = 0
  let clicked: { at: Micros; way: number } | null = null
  for (const c of changes) {
    sum += c.way ?? 0
    if (Math.abs(sum) < per) continue
    const way = Math.sign(sum)
    sum -= way * per
    if (clicked && clicked.way === way && c.at - clicked.at < 1_000_000)
      rates.push(1_000_000 / (c.at - clicked.at))
    clicked = { at: c.at, way }
  }
  return rates
}
