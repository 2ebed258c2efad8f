import { z } from 'zod'

/** How a dashboard moves in its own time: at most so much a second, and as if behind a spring. */
export const slowness = z.strictObject({
  /** At most so much a second, in the signal's unit. */
  perS: z.number().gt(0).optional(),
  /** How long it takes to go two thirds of its way. */
  lagS: z.number().gt(0).max(60).optional(),
})
export type Slowness = z.infer<typeof slowness>

/** What is as good as there. */
const NEAR = 0.005

/** Where a slow indicator is thought to be after some time, from where it was, being told a value all along. */
export const slowStep = (at: number, told: number, { perS, lagS }: Slowness, seconds: number): number => {
  const wanted = lagS === undefined ? told - at : (told - at) * (1 - Math.exp(-seconds / lagS))
  const most = perS === undefined ? Number.POSITIVE_INFINITY : perS * seconds
  return at + Math.max(-most, Math.min(most, wanted))
}

/** How long it takes until it shows what it is told, to half a hundredth of the way; in seconds. */
export const slowTime = (at: number, told: number, s: Slowness): number => {
  const way = Math.abs(told - at)
  if (way === 0) return 0
  const byLag = s.lagS === undefined ? 0 : s.lagS * Math.log(1 / NEAR)
  const byRate = s.perS === undefined ? 0 : way / s.perS
  return Math.max(byLag, byRate)
}
