import { turns } from '../aspects/encoder'
import type { Aspect, PositionsAspect } from '../catalogue/part-kind'
import type { Action, BindingSettings, ControlSettings } from './binding'
import type { VariableInfo } from './simulator-catalogue'

/** A step that suits a range: one, or a hundredth of a range that is no more than a few wide. */
export const suitedStep = (range: VariableInfo['range'], choices?: readonly string[]): number => {
  if (!range || choices) return 1
  const span = range[1] - range[0]
  if (!(span > 0) || span > 10) return 1
  // The first of 1, 2, 5, 10 … that is at least a twentieth of it.
  const decade = 10 ** Math.floor(Math.log10(span / 20) + 1e-9)
  const times = [1, 2, 5, 10].find((t) => t * decade >= (span / 20) * 0.999) ?? 10
  return Number((times * decade).toPrecision(3))
}

/** From the variable's present value, within its own range, and round where that is a full circle. */
export const suitedAction = (way: 'set' | 'toggle' | 'step' | 'choose', info: VariableInfo): Action => {
  const { name: variable, range, choices } = info
  const [least, most] = range ?? (choices ? [0, Math.max(1, choices.length - 1)] : [0, 100])
  const round = info.unit === 'deg' && (most - least === 360 || most - least === 359)
  switch (way) {
    case 'toggle':
      return { do: 'toggle', variable }
    case 'step': {
      const by = suitedStep(range, choices)
      return { do: 'step', variable, by, least, most, atEnd: round ? 'wrap' : 'stop' }
    }
    case 'choose': {
      const values = choices ? choices.map((_, i) => i) : [least, most]
      return { do: 'choose', variable, values, by: 1, atEnd: 'stop' }
    }
    default:
      return { do: 'set', variable }
  }
}

/** Words that mean the same place on a switch and among a variable's choices. */
const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase()

/**
 * A value for each position of a switch: by name where its positions and the variable's choices have the same names,
 * else in order where there are as many of them.
 */
export const positionValues = (
  positions: readonly { readonly id: string; readonly label?: string | undefined }[],
  choices: readonly string[],
): readonly number[] | null => {
  const byName = positions.map((p) => choices.findIndex((c) => same(c, p.label ?? p.id) || same(c, p.id)))
  if (byName.every((i) => i >= 0) && new Set(byName).size === positions.length) return byName
  return positions.length === choices.length ? positions.map((_, i) => i) : null
}

/** A switch that is bound to a number comes with a value for each of its positions. */
const withPositions = (s: ControlSettings, aspect: PositionsAspect, info: VariableInfo): ControlSettings => {
  if (s.when !== 'position' || info.type !== 'number') return s
  const { range, choices } = info
  const whole = range && Number.isInteger(range[0]) && range[1] - range[0] === aspect.positions.length - 1
  const values =
    positionValues(aspect.positions, choices ?? []) ??
    (whole ? aspect.positions.map((_, i) => (range as readonly [number, number])[0] + i) : null)
  if (!values) return s
  const cases = aspect.positions.map((p, i) => `${JSON.stringify(p.id)}, ${values[i]}`)
  return { ...s, value: `match(input, ${cases.join(', ')})` }
}

/**
 * A binding that has just been given its variable, in the way that suits it: a button turns a switch over, a knob
 * steps a number within its range, a switch with several positions sets a value for each.
 */
export const suited = (
  settings: BindingSettings,
  info: VariableInfo,
  aspect: Aspect | undefined,
): BindingSettings => {
  if (settings.kind !== 'control') return settings
  if (settings.when === 'position' && aspect?.kind === 'positions')
    return withPositions(settings, aspect, info)
  if (settings.value !== null) return settings
  const turning = (turns as readonly string[]).includes(settings.when)
  const way = info.type === 'boolean' ? 'toggle' : turning && info.type === 'number' ? 'step' : null
  const better = way && suitedAction(way, info)
  return {
    ...settings,
    actions: settings.actions.map((a) => (a.do === 'set' ? (better ?? a) : within(a, info))),
  }
}

/** A step that was made for another variable goes as far as this one does; how far it goes at once stays where it can. */
const within = (action: Action, info: VariableInfo): Action => {
  const { range } = info
  if (action.do !== 'step' || action.variable !== info.name || !range) return action
  if (action.least >= range[0] && action.most <= range[1]) return action
  const fresh = suitedAction('step', info)
  return Math.abs(action.by) <= (range[1] - range[0]) / 2 ? ({ ...fresh, by: action.by } as Action) : fresh
}
