/** One press is no kind of its own. */
const LEAST = 3

/**
 * The border between two kinds of something that is measured by a positive number, as short presses from long ones or slow
 * turns from quick ones: the border on a logarithmic scale that leaves the least variance within both (Otsu, 1979), midway
 * between its neighbours. Null where there are not two kinds: fewer than three of either, or kinds that are no further apart
 * than `ratio`.
 */
export const borderBetween = (values: readonly number[], ratio = 1.8): number | null => {
  const logs = values
    .filter((v) => v > 0)
    .map(Math.log)
    .sort((a, b) => a - b)
  const all = logs.reduce((sum, v) => sum + v, 0)
  let best: { at: number; between: number } | null = null
  let below = 0
  for (let i = 1; i < logs.length; i++) {
    below += logs[i - 1] as number
    if (i < LEAST || logs.length - i < LEAST) continue
    const apart = (all - below) / (logs.length - i) - below / i
    const between = i * (logs.length - i) * apart * apart
    if (apart >= Math.log(ratio) && (best === null || between > best.between)) best = { at: i, between }
  }
  if (!best) return null
  return Math.exp(((logs[best.at - 1] as number) + (logs[best.at] as number)) / 2)
}

/** How many values lie in each of so many stretches of equal ratio between two ends; what lies beyond is in the last. */
export const histogram = (
  values: readonly number[],
  from: number,
  to: number,
  stretches: number,
): number[] => {
  const counts = new Array<number>(stretches).fill(0)
  for (const v of values) {
    const at = Math.floor((Math.log(v / from) / Math.log(to / from)) * stretches)
    const i = Math.min(stretches - 1, Math.max(0, at))
    counts[i] = (counts[i] as number) + 1
  }
  return counts
}
