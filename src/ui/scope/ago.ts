/** How long ago, short enough for a column: in tenths of a second, then in seconds, minutes, hours. */
export const agoWords = (ms: number): string => {
  const s = Math.max(0, ms) / 1000
  if (s < 10) return `${s.toFixed(1)} s`
  if (s < 100) return `${Math.floor(s)} s`
  const min = Math.floor(s / 60)
  if (min < 100) return `${min} min`
  return `${Math.floor(min / 60)} h`
}
