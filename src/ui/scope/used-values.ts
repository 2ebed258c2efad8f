import type { HuntGuess } from '@/core/live/feed'
import { valuesFor } from '@/core/scope/hunt-binding'

/** The value of each position: by hand, as it was seen, or in the order of the levels; null while too few are known. */
export const usedValues = (
  positions: readonly { readonly id: string }[],
  guess: HuntGuess,
  byHand: Readonly<Record<string, number>>,
): Readonly<Record<string, number>> | null => {
  if (positions.length > 0 && positions.every((p) => byHand[p.id] !== undefined)) return byHand
  return valuesFor(positions, guess.levels, guess.seen)
}
