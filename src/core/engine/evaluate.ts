import type { Compiled } from '../signal/expression/compile'
import type { Variables } from './variables'

/** The value of an expression, or null when something it needs is absent or the result is not a number. */
export const evaluate = (
  c: Compiled,
  variables: Variables,
  input: number | string | null,
): number | string | null => {
  const { needs } = c
  for (let i = 0; i < needs.length; i++) if (!variables.present(needs[i] as number)) return null
  if (c.readsInput && (input === null || Number.isNaN(input))) return null
  const value = c.evaluate(input)
  return typeof value === 'number' && !Number.isFinite(value) ? null : value
}

/** Whether a condition holds; one that cannot be told does not. No condition always holds. */
export const holds = (c: Compiled | null, variables: Variables): boolean =>
  c === null || evaluate(c, variables, null) === 1
