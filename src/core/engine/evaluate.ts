import type { Compiled } from '../signal/expression/compile'

/** The value of an expression, or null when something it needs is absent or the result is not a number. May throw. */
export const evaluated = (c: Compiled, input: number | string | null): number | string | null => {
  const value = c.evaluate(input)
  return typeof value === 'number' && !Number.isFinite(value) ? null : value
}

/** The same for those who only look: what throws has no value. */
export const evaluate = (c: Compiled, input: number | string | null): number | string | null => {
  try {
    return evaluated(c, input)
  } catch {
    return null
  }
}

/** Whether a condition holds; one that cannot be told does not. No condition always holds. */
export const holds = (c: Compiled | null): boolean => c === null || evaluate(c, null) === 1

/** What was thrown, in words. */
export const faultWords = (error: unknown): string => (error instanceof Error ? error.message : String(error))
