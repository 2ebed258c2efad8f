import type { FromHub } from '@/core/live/feed'

export type Probed = Extract<FromHub, { say: 'probed' }>

let hears: ((m: Probed) => void) | null = null

/** Who is told what is noted of the control that is measured; one at a time, as one is measured. */
export const listen = (take: ((m: Probed) => void) | null): void => {
  hears = take
}

/** The hub tells what was noted of the control that is measured. */
export const hearProbed = (m: Probed): void => hears?.(m)
