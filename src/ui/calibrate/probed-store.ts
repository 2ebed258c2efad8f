import { create } from 'zustand'
import type { Nature } from '@/core/aspects/nature'
import type { FromHub, ProbedAspect } from '@/core/live/feed'

export type Probed = Extract<FromHub, { say: 'probed' }>

let hears: ((m: Probed) => void) | null = null

/** What the simulated control that is measured is really like by now, as the hub told last; null before it has. */
export const useToldNature = create<{ told: (ProbedAspect & { readonly nature: Nature | null }) | null }>(
  () => ({ told: null }),
)

/** Who is told what is noted of the control that is measured; one at a time, as one is measured. */
export const listen = (take: ((m: Probed) => void) | null): void => {
  hears = take
  useToldNature.setState({ told: null })
}

/** The hub tells what was noted of the control that is measured. */
export const hearProbed = (m: Probed): void => {
  if (!hears) return
  const { partId, aspectId, nature, problem } = m
  useToldNature.setState({ told: problem === null ? { partId, aspectId, nature } : null })
  hears(m)
}
