import type { Compiled } from '../signal/expression/compile'

/** The value of an expression, or null when something it needs is absent or the result is not a number. */
export const evaluate = (c: Compiled, input: number | string | null): number | string | null => {
  const value = c.evaluate(input)
  return typeof value === 'number' && !Number.isFinite(value) ? null : value
}

/** Whether a condition holds; one that cannot be told does not. No condition always holds. */
export const holds = (c: Compiled | null): boolean => c === null || c.evaluate(null) === 1
