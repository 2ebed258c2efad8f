import { create } from 'zustand'
import type { FromHub, HuntGuess, HuntMark } from '@/core/live/feed'

interface HuntState {
  readonly marks: readonly HuntMark[]
  readonly partId: string | null
  readonly restless: number
  readonly guesses: readonly HuntGuess[]
  /** The row of the guess that the builder has chosen; null for whichever comes first. */
  readonly chosen: number | null
  /** What was set by hand for the positions of the part, in place of what was seen. */
  readonly values: Readonly<Record<string, number>>
}

export const nothing: HuntState = {
  marks: [],
  partId: null,
  restless: 0,
  guesses: [],
  chosen: null,
  values: {},
}

export const useHunt = create<HuntState>()(() => nothing)

export const hearHunt = (m: Extract<FromHub, { say: 'hunt' }>): void =>
  useHunt.setState((s) => ({
    marks: m.marks,
    partId: m.part?.id ?? null,
    restless: m.restless,
    guesses: m.guesses,
    // Another part has other positions.
    values: (m.part?.id ?? null) === s.partId ? s.values : {},
    // One that is no guess any more is not chosen any more.
    chosen: m.guesses.some((g) => g.row === s.chosen) ? s.chosen : null,
  }))

/** Where the guess that is looked at stands among them: a hunt that goes on may move it. */
export const placeOfGuess = ({ guesses, chosen }: Pick<HuntState, 'guesses' | 'chosen'>): number =>
  Math.max(
    0,
    guesses.findIndex((g) => g.row === chosen),
  )

/** Looks at a guess, or at the next one or the one before. */
export const lookAt = (row: number): void => useHunt.setState({ chosen: row, values: {} })
export const nextGuess = (by: 1 | -1): void => {
  const state = useHunt.getState()
  const next = state.guesses[placeOfGuess(state) + by]
  if (next) lookAt(next.row)
}
