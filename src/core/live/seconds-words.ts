import type { Millis } from '../units-of-measure'

/** How long something has been away, in words short enough for a line. */
export const secondsWords = (ms: Millis): string => {
  const s = Math.round(ms / 1000)
  return s < 60 ? `${s} s` : s < 3600 ? `${Math.floor(s / 60)} min` : `${Math.floor(s / 3600)} h`
}
