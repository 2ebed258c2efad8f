import { useEffect } from 'react'
import type { Trial } from '@/core/aspects/trial'
import type { PartRow } from '@/core/rig/rows'
import { sayToHub } from '../live/connection'

/** An exercise ends by itself; what is held is told again before that. */
const AGAIN_MS = 2000

/** Holds an aspect as it is tried for as long as this is shown; null lets it go. `trial` is the same as long as it says the same. */
export const useHeld = (part: PartRow, aspectId: string, trial: Trial | null): void => {
  const { id } = part
  useEffect(() => {
    if (trial === null) return
    // Said again and again: that the hub is away stands above, and is not said with each.
    const hold = () =>
      void sayToHub({ say: 'exercise', partIds: [id], how: { as: 'trial', aspectId, ...trial } })
    hold()
    const again = setInterval(hold, AGAIN_MS)
    return () => clearInterval(again)
  }, [id, aspectId, trial])
  // Let go without a word: nobody is there to be told that the hub is away.
  useEffect(() => () => void sayToHub({ say: 'exercise', partIds: [id], how: null }), [id])
}
