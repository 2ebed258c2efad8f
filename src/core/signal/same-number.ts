/**
 * Half of the last place of a 32-bit float (IEEE 754, 24 significant bits), as a share of the value: what a number
 * can lose on its way through a simulator that keeps such floats.
 */
const FLOAT32_SHARE = 2 ** -24

/** Whether two numbers are one and the same for a simulator that may keep 32-bit floats. */
export const sameNumber = (a: number, b: number): boolean =>
  a === b || Math.abs(a - b) <= FLOAT32_SHARE * 1.000001 * Math.max(Math.abs(a), Math.abs(b)) + 1e-12

/** The decimals a number is written with, at most nine. */
export const decimalsOf = (x: number): number => {
  for (let d = 0; d < 9; d++) if (Number(x.toFixed(d)) === x) return d
  return 9
}

/** The shortest way to write a number that a simulator may keep in 32 bits: 0.1 for 0.10000000149011612. */
export const plainNumber = (x: number): number => {
  for (let decimals = 0; decimals < 9; decimals++) {
    const short = asMeant(x, decimals)
    if (short !== x || Number(x.toFixed(decimals)) === x) return short
  }
  return x
}

/** A number told by a simulator as it was meant: rounded to so many decimals, where no more than that was lost. */
export const asMeant = (x: number, decimals: number): number => {
  const rounded = Number(x.toFixed(decimals))
  return sameNumber(x, rounded) ? rounded : x
}
