import { controlKind, indicatorKind } from '../aspects/aspects'
import { turns } from '../aspects/encoder'
import { type ControlAspect, isControl, isIndicator } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import {
  type Action,
  aspectFor,
  type BindingSettings,
  bindingSettings,
  type ControlSettings,
} from '../rig/binding'
import { layersOf, type Rig } from '../rig/rig'
import type { BindingRow } from '../rig/rows'
import { type CatalogueIndex, similarAmong } from '../rig/simulator-catalogue'
import type { Scope } from '../signal/expression/checked'
import type { Compiled, Values, Wanted } from '../signal/expression/compile'
import { boolean, plainNumber, typeOfVariable } from '../signal/expression/value-type'
import type { Choice, Stepping } from '../signal/stepping'
import { compileIndicator, type IndicatorProgram } from './compile-indicator'
import { contradiction } from './contradiction'
import { type BindingMistake, Mistakes } from './mistakes'
import {
  type CompiledLayer,
  layerKey,
  noSlots,
  type OwnSlots,
  scopeFor,
  unknownVariable,
  untoldWords,
  withInput,
} from './scope'

export type Target =
  | { readonly do: 'set'; readonly variable: number }
  | { readonly do: 'toggle'; readonly variable: number }
  | { readonly do: 'step'; readonly variable: number; readonly step: Stepping }
  | { readonly do: 'choose'; readonly variable: number; readonly choice: Choice }
  | { readonly do: 'event'; readonly event: number }
  | { readonly do: 'pause'; readonly ms: number }
  | { readonly do: 'layer'; readonly set: string; readonly to: string }

export interface ControlProgram {
  readonly kind: 'control'
  readonly row: BindingRow
  readonly settings: ControlSettings
  readonly aspectId: string
  readonly value: Compiled | null
  readonly onlyWhile: Compiled | null
  readonly layer: CompiledLayer | null
  readonly targets: readonly Target[]
  readonly mistakes: readonly BindingMistake[]
  /** A bit for each source without which it does nothing; `Variables.needs`. */
  needs: number
  /** What it threw, once it has; it is not asked again before it is compiled anew. */
  fault: string | null
}

export type Program = ControlProgram | IndicatorProgram

const noInput: Values = { numbers: new Float64Array(0), texts: [] }

/** What a control's value has to become: what its first target takes. */
export const wantedOfControl = (settings: ControlSettings, index: CatalogueIndex): Wanted => {
  const first = settings.actions.find((a) => a.do === 'set' || a.do === 'event')
  if (first?.do !== 'set' && first?.do !== 'event') return { as: 'any' }
  const info =
    first.do === 'set'
      ? index.catalogue.variables[index.variable.get(first.variable) ?? -1]
      : index.catalogue.events[index.event.get(first.event) ?? -1]?.value
  return info ? { as: 'type', type: typeOfVariable(info) } : { as: 'any' }
}

const layerOf = (
  rig: Rig,
  layerId: string | undefined,
  slots: OwnSlots,
  mistakes: Mistakes,
): CompiledLayer | null => {
  if (layerId === undefined) return null
  const layer = rig.layer[layerId]
  const set = layer ? rig.layerSet[layer.layerSet] : undefined
  if (layer && set)
    return { setId: set.id, layerId, name: layer.name, slot: slots.slot(layerKey(set.id), true) }
  mistakes.say('onlyWhile', 'The layer it belongs to is not there any more. Choose another.')
  return null
}

/** Compiles one binding. Whatever is wrong with it becomes a mistake at its station; nothing is thrown. */
export const compileBinding = (
  rig: Rig,
  row: BindingRow,
  index: CatalogueIndex,
  values: Values = noInput,
  slots: OwnSlots = noSlots,
): Program => {
  const mistakes = new Mistakes()
  const part = rig.part[row.partId]
  const kind = part ? partKind(part.kind) : undefined
  const { settings } = row
  const aspect = kind ? aspectFor(kind.aspects, settings) : undefined
  if (!part || !aspect) {
    mistakes.say('part', `${kind?.name ?? 'This part'} has nothing that such a binding fits.`)
    return blindProgram(row, mistakes.list)
  }
  // Without a catalogue no name can be judged: the simulator has never been there.
  if (index.catalogue.variables.length === 0) return blindProgram(row, [])
  const plainScope = scopeFor(rig, index, undefined, slots)
  const layer = layerOf(rig, settings.layer, slots, mistakes)
  const onlyWhile = mistakes.expression('onlyWhile', settings.onlyWhile, plainScope, values, {
    as: 'condition',
  })
  const scope = withInput(plainScope, rig, row, index)
  if (settings.kind !== 'control') {
    if (!isIndicator(aspect)) return blindProgram(row, mistakes.list)
    const context = { rig, part, row, aspect, index, values, slots, scope }
    return compileIndicator(context, settings, onlyWhile, layer, mistakes)
  }
  if (!isControl(aspect)) return blindProgram(row, mistakes.list)
  checkWhen(settings, aspect, mistakes)
  const targets = settings.actions.flatMap((action) => targetFor(rig, action, index, mistakes))
  if (settings.actions.length === 0) mistakes.say('simulator', 'No variable or event is chosen yet.')
  if (settings.value === null && settings.actions.some((a) => a.do === 'set'))
    mistakes.say('shaping', 'Setting a variable needs a value.')
  const shaped: Scope = { ...scope, input: inputOfWhen(settings, scope) }
  const value = mistakes.expression(
    'shaping',
    settings.value,
    shaped,
    values,
    wantedOfControl(settings, index),
  )
  const against = contradiction(rig, row)
  if (against) mistakes.say('simulator', against)
  return {
    kind: 'control',
    row,
    settings,
    aspectId: aspect.id,
    value,
    onlyWhile,
    layer,
    targets,
    mistakes: mistakes.list,
    needs: 0,
    fault: null,
  }
}

/** `input` of gestures held is whether it is held; of turning, the clicks. */
export const inputOfWhen = (settings: ControlSettings, scope: Scope): Scope['input'] => {
  if (settings.when === 'hold') return boolean
  return (turns as readonly string[]).includes(settings.when) ? plainNumber : scope.input
}

const checkWhen = ({ when, position }: ControlSettings, aspect: ControlAspect, mistakes: Mistakes): void => {
  if (!controlKind(aspect.kind).does(when))
    mistakes.say('shaping', `“${when}” is nothing that this control does.`)
  const known = aspect.kind === 'positions' && aspect.positions.some((p) => p.id === position)
  if (position !== undefined && !known)
    mistakes.say('shaping', `The position “${position}” is not one of this part.`)
}

const layerTarget = (rig: Rig, action: Extract<Action, { do: 'layer' }>, mistakes: Mistakes): Target[] => {
  const set = rig.layerSet[action.set]
  if (!set) {
    mistakes.say('simulator', 'The layer set it changes is not there any more.')
    return []
  }
  const named = ['next', 'previous'].includes(action.to)
  if (named || layersOf(rig, set.id).some((l) => l.id === action.to)) return [action]
  mistakes.say('simulator', `The layer it goes to is not in “${set.name}” any more.`)
  return []
}

/** An action as the engine takes it, or nothing and a mistake that says why. */
const targetFor = (rig: Rig, action: Action, index: CatalogueIndex, mistakes: Mistakes): Target[] => {
  if (action.do === 'pause') return [action]
  if (action.do === 'layer') return layerTarget(rig, action, mistakes)
  if (action.do === 'event') {
    const event = index.event.get(action.event)
    if (event !== undefined) return [{ do: 'event', event }]
    if (action.event === '') {
      mistakes.say('simulator', 'No variable or event is chosen yet.')
      return []
    }
    const close = similarAmong(index.event, action.event)
    mistakes.say(
      'simulator',
      `This craft has no event “${action.event}”.${close ? ` Did you mean “${close}”?` : ''}${untoldWords(index)}`,
    )
    return []
  }
  const variable = index.variable.get(action.variable)
  const info = variable === undefined ? undefined : index.catalogue.variables[variable]
  const refuse = (message: string): Target[] => {
    mistakes.say('simulator', message)
    return []
  }
  if (variable === undefined || !info) return refuse(unknownVariable(action.variable, index))
  if (!info.writable)
    return refuse(`“${info.name}” can be read but not set. Choose an event or another variable.`)
  const beyond = (least: number, most: number) =>
    info.range && (least < info.range[0] || most > info.range[1])
      ? `“${info.name}” goes from ${info.range[0]} to ${info.range[1]}; the step's limits lie beyond that.`
      : null
  switch (action.do) {
    case 'set':
      return [{ do: 'set', variable }]
    case 'toggle':
      if (info.type !== 'boolean')
        return refuse(`“${info.name}” is not a switch, so it cannot be turned over.`)
      return [{ do: 'toggle', variable }]
    case 'step': {
      if (info.type !== 'number') return refuse(`“${info.name}” is not a number, so it cannot be stepped.`)
      const problem = beyond(action.least, action.most)
      return problem ? refuse(problem) : [{ do: 'step', variable, step: action }]
    }
    case 'choose': {
      if (info.type !== 'number') return refuse(`“${info.name}” is not a number, so it cannot be stepped.`)
      const problem = action.every ? null : beyond(action.values[0] as number, action.values.at(-1) as number)
      return problem ? refuse(problem) : [{ do: 'choose', variable, choice: action }]
    }
  }
}

const blindProgram = (row: BindingRow, mistakes: readonly BindingMistake[]): Program => {
  const { settings } = row
  const nothing = { row, onlyWhile: null, layer: null, mistakes, needs: 0, fault: null }
  if (settings.kind === 'control')
    return {
      ...nothing,
      kind: 'control',
      settings,
      aspectId: settings.aspect ?? '',
      value: null,
      targets: [],
    }
  return {
    ...nothing,
    kind: 'indicator',
    settings,
    source: -1,
    sourceIsText: false,
    packs: null,
    state: null,
    showsAbsent: false,
    condition: null,
    dims: null,
    show: null,
    reads: [],
  }
}

/** What something held waits for: the values in its condition, and those without which it cannot be let go. */
export const readsOfHold = ({ onlyWhile, value }: ControlProgram): number[] => [
  ...(onlyWhile?.reads ?? []),
  ...(value?.reads ?? []),
]

/** The events that a control's binding sends. */
export const eventsOfControl = (p: ControlProgram): number[] =>
  p.targets.flatMap((t) => (t.do === 'event' ? [t.event] : []))

/** Variables a control's binding reads or tells. */
export const slotsOfControl = (p: ControlProgram): number[] => [
  ...(p.value?.reads ?? []),
  ...(p.onlyWhile?.reads ?? []),
  ...p.targets.flatMap((t) => ('variable' in t ? [t.variable] : [])),
]

/** What a new binding of this aspect starts as: sensible, complete but for its variable or event. */
export const freshSettings = (rig: Rig, partId: string, aspectId?: string): BindingSettings | null => {
  const part = rig.part[partId]
  const kind = part ? partKind(part.kind) : undefined
  const aspect = kind?.aspects.find((a) => a.id === aspectId) ?? kind?.aspects[0]
  if (!kind || !aspect) return null
  const own = kind.aspects.length > 1 ? { aspect: aspect.id } : {}
  const fresh = isControl(aspect)
    ? { kind: 'control', ...own, ...controlKind(aspect.kind).fresh(aspect), actions: [], onlyWhile: null }
    : {
        kind: aspect.kind,
        ...own,
        variable: null,
        onlyWhile: null,
        rest: 'out',
        ...indicatorKind(aspect.kind).fresh(aspect),
      }
  return bindingSettings.parse(fresh)
}
