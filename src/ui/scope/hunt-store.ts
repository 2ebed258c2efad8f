import { create } from 'zustand'
import type { FromHub, HuntGuess, HuntMark } from '@/core/live/feed'

interface HuntState {
  readonly marks: readonly HuntMark[]
  readonly partId: string | null
  readonly restless: number
  readonly guesses: readonly HuntGuess[]
  /** The guess that is looked at, from 0; a hunt that goes on may put another in its place. */
  readonly at: number
  /** What was set by hand for the positions of the part, in place of what was seen. */
  readonly values: Readonly<Record<string, number>>
}

export const nothing: HuntState = { marks: [], partId: null, restless: 0, guesses: [], at: 0, values: {} }

export const useHunt = create<HuntState>()(() => nothing)

export const hearHunt = (m: Extract<FromHub, { say: 'hunt' }>): void =>
  useHunt.setState((s) => ({
    marks: m.marks,
    partId: m.part?.id ?? null,
    restless: m.restless,
    guesses: m.guesses,
    // Another part has other positions.
    values: (m.part?.id ?? null) === s.partId ? s.values : {},
    at: Math.min(s.at, Math.max(0, m.guesses.length - 1)),
  }))

/** Looks at the next guess, or the one before. */
export const nextGuess = (by: 1 | -1): void =>
  useHunt.setState((s) => ({
    at: Math.min(Math.max(0, s.at + by), Math.max(0, s.guesses.length - 1)),
    values: {},
  }))
