import type { Target } from '../compile-binding'
import type { Variables } from '../variables'

/** What stands against sending a value to a target, in words, or null. */
export const beyondLimits = (
  variables: Variables,
  target: Target,
  value: number | string | null,
): string | null => {
  if (target.do !== 'set' || typeof value !== 'number') return null
  const info = variables.index.catalogue.variables[target.variable]
  if (!info?.range || (value >= info.range[0] && value <= info.range[1])) return null
  return `${value} is outside ${info.range[0]} to ${info.range[1]}${info.unit ? ` ${info.unit}` : ''} of ${info.name}`
}
