import type { Aspect } from '../catalogue/part-kind'
import type { ControlSettings } from '../rig/binding'
import type { VariableInfo } from '../rig/simulator-catalogue'
import { suited } from '../rig/suited'

/**
 * Values for the positions of a switch: by the levels that were seen as it stood in each, else in the order of their size.
 * Null where there are fewer levels than positions.
 */
export const valuesFor = (
  positions: readonly { readonly id: string }[],
  levels: readonly number[],
  /** Levels that were seen while the switch on the panel stood somewhere. */
  seen: Readonly<Record<string, number>> = {},
): Readonly<Record<string, number>> | null => {
  const known = positions.every((p) => seen[p.id] !== undefined)
  if (known && new Set(positions.map((p) => seen[p.id])).size === positions.length) return seen
  if (levels.length < positions.length) return null
  const sorted = [...levels].sort((a, b) => a - b)
  return Object.fromEntries(positions.map((p, i) => [p.id, sorted[i] as number]))
}

/** The binding that a hunt ends in: a switch sets the value of each of its positions, anything else what suits it. */
export const huntBinding = (
  aspect: Aspect,
  info: VariableInfo,
  values: Readonly<Record<string, number>> | null,
): ControlSettings | null => {
  // What a text stood at was seen as a number that stands for it, and is no value.
  if (info.type === 'text') return null
  const common = { kind: 'control' as const, aspect: aspect.id, onlyWhile: null }
  const set = [{ do: 'set' as const, variable: info.name }]
  if (aspect.kind === 'positions') {
    if (aspect.momentary)
      return suited({ ...common, when: 'press', value: null, actions: set }, info, aspect) as ControlSettings
    if (!values) return null
    const cases = aspect.positions.map((p) => `${JSON.stringify(p.id)}, ${values[p.id]}`)
    return { ...common, when: 'position', value: `match(input, ${cases.join(', ')})`, actions: set }
  }
  if (aspect.kind === 'encoder')
    return suited({ ...common, when: 'turn', value: null, actions: set }, info, aspect) as ControlSettings
  if (aspect.kind === 'travel') {
    const [least, most] = info.range ?? [0, 1]
    return { ...common, when: 'move', value: `${least} + input * ${most - least}`, actions: set }
  }
  return null
}
