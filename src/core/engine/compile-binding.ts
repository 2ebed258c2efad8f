import { positionsAspect } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import type { Action, BindingSettings, ControlSettings, LampSettings } from '../rig/binding'
import { type Rig, rowsOf } from '../rig/rig'
import type { BindingRow } from '../rig/rows'
import { type CatalogueIndex, similarName } from '../rig/simulator-catalogue'
import type { Scope } from '../signal/expression/checked'
import { type Compiled, compile, type Evaluate, type Values, type Wanted } from '../signal/expression/compile'
import { ExpressionError, type Span } from '../signal/expression/expression-error'
import { boolean, text, typeOfVariable, type ValueType } from '../signal/expression/value-type'

/** The station of a path a mistake belongs to, so that it is shown where it can be mended. */
export type Station = 'part' | 'pin' | 'board' | 'shaping' | 'onlyWhile' | 'simulator'

export interface BindingMistake {
  readonly station: Station
  readonly message: string
  /** Where in the expression, if it is one. */
  readonly span: Span | null
}

export type Target =
  | { readonly do: 'set'; readonly variable: number }
  | { readonly do: 'toggle'; readonly variable: number }
  | {
      readonly do: 'step'
      readonly variable: number
      readonly by: number
      readonly least: number
      readonly most: number
      readonly atEnd: 'stop' | 'wrap'
    }
  | { readonly do: 'event'; readonly event: number }
  | { readonly do: 'pause'; readonly ms: number }

export interface ControlProgram {
  readonly kind: 'control'
  readonly row: BindingRow
  readonly settings: ControlSettings
  readonly value: Compiled | null
  readonly onlyWhile: Compiled | null
  readonly targets: readonly Target[]
  readonly mistakes: readonly BindingMistake[]
}

export interface LampProgram {
  readonly kind: 'lamp'
  readonly row: BindingRow
  readonly settings: LampSettings
  /** The slot `input` is read from, or -1. */
  readonly source: number
  readonly sourceIsText: boolean
  /** The two expressions as plain functions, `shows` being null when the binding is off or has a mistake. */
  readonly shows: Evaluate | null
  readonly condition: Evaluate | null
  readonly show: Compiled | null
  readonly onlyWhile: Compiled | null
  readonly mistakes: readonly BindingMistake[]
}

export type Program = ControlProgram | LampProgram

const noInput: Values = { numbers: new Float64Array(0), texts: [] }

/** Names of this rig and its simulator, for one binding. */
export const scopeFor = (rig: Rig, index: CatalogueIndex, input: ValueType | undefined): Scope => ({
  input,
  variable: (name) => {
    const slot = index.variable.get(name)
    const info = slot === undefined ? undefined : index.catalogue.variables[slot]
    return slot === undefined || !info ? undefined : { slot, type: typeOfVariable(info) }
  },
  curve: (name) => rowsOf(rig, 'curve').find((c) => c.name === name)?.points,
  similar: (name) => similarName(index.variable.keys(), name),
})

/** What `input` is for a binding: the position's id for maintained controls, yes or no for a button, else the variable's value. */
export const inputType = (rig: Rig, row: BindingRow, index: CatalogueIndex): ValueType | undefined => {
  if (row.settings.kind === 'lamp') {
    const slot = index.variable.get(row.settings.variable ?? '')
    const info = slot === undefined ? undefined : index.catalogue.variables[slot]
    return info ? typeOfVariable(info) : undefined
  }
  const part = rig.part[row.partId]
  const kind = part ? partKind(part.kind) : undefined
  const aspect = kind ? positionsAspect(kind) : undefined
  return aspect?.momentary ? boolean : text
}

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

class Mistakes {
  readonly list: BindingMistake[] = []

  say(station: Station, message: string): void {
    this.list.push({ station, message, span: null })
  }

  /** Compiles, or notes the mistake and yields null. */
  expression(
    station: Station,
    source: string | null,
    scope: Scope,
    values: Values,
    wanted: Wanted,
  ): Compiled | null {
    if (source === null) return null
    try {
      return compile(source, scope, values, wanted)
    } catch (error) {
      if (!(error instanceof ExpressionError)) throw error
      this.list.push({ station, message: error.message, span: error.span })
      return null
    }
  }
}

/** Compiles one binding. Whatever is wrong with it becomes a mistake at its station; nothing is thrown. */
export const compileBinding = (
  rig: Rig,
  row: BindingRow,
  index: CatalogueIndex,
  values: Values = noInput,
): Program => {
  const mistakes = new Mistakes()
  const scope = scopeFor(rig, index, inputType(rig, row, index))
  // Without a catalogue no name can be judged: the simulator has never been there.
  if (index.catalogue.variables.length === 0) return blindProgram(row)
  const { settings } = row
  const conditionScope: Scope = { ...scope, input: undefined }
  const onlyWhile = mistakes.expression('onlyWhile', settings.onlyWhile, conditionScope, values, {
    as: 'condition',
  })
  if (settings.kind === 'lamp') {
    const source = settings.variable ? (index.variable.get(settings.variable) ?? -1) : -1
    let show: Compiled | null = null
    if (!settings.variable) mistakes.say('simulator', 'No variable is chosen yet.')
    else if (source < 0) mistakes.say('simulator', unknownVariable(settings.variable, index))
    else show = mistakes.expression('shaping', settings.show, scope, values, { as: 'lamp' })
    const sourceIsText = index.catalogue.variables[source]?.type === 'text'
    const sound = row.on && mistakes.list.length === 0
    return {
      kind: 'lamp',
      row,
      settings,
      source,
      sourceIsText,
      shows: sound ? (show?.evaluate ?? null) : null,
      condition: onlyWhile?.evaluate ?? null,
      show,
      onlyWhile,
      mistakes: mistakes.list,
    }
  }
  const targets = settings.actions.flatMap((action) => targetFor(action, index, mistakes))
  if (settings.actions.length === 0) mistakes.say('simulator', 'No variable or event is chosen yet.')
  if (settings.value === null && settings.actions.some((a) => a.do === 'set')) {
    mistakes.say('shaping', 'Setting a variable needs a value.')
  }
  const wanted = wantedOfControl(settings, index)
  const value = mistakes.expression('shaping', settings.value, scope, values, wanted)
  return { kind: 'control', row, settings, value, onlyWhile, targets, mistakes: mistakes.list }
}

/** An action as the engine takes it, or nothing and a mistake that says why. */
const targetFor = (action: Action, index: CatalogueIndex, mistakes: Mistakes): Target[] => {
  if (action.do === 'pause') return [action]
  if (action.do === 'event') {
    const event = index.event.get(action.event)
    if (event !== undefined) return [{ do: 'event', event }]
    const close = similarName(index.event.keys(), action.event)
    mistakes.say(
      'simulator',
      `This craft has no event “${action.event}”.${close ? ` Did you mean “${close}”?` : ''}`,
    )
    return []
  }
  const variable = index.variable.get(action.variable)
  const info = variable === undefined ? undefined : index.catalogue.variables[variable]
  if (variable === undefined || !info) mistakes.say('simulator', unknownVariable(action.variable, index))
  else if (!info.writable) {
    mistakes.say(
      'simulator',
      `“${action.variable}” can be read but not set. Choose an event or another variable.`,
    )
  } else if (action.do === 'toggle' && info.type !== 'boolean') {
    mistakes.say('simulator', `“${action.variable}” is not a switch, so it cannot be turned over.`)
  } else if (action.do === 'step' && info.type !== 'number') {
    mistakes.say('simulator', `“${action.variable}” is not a number, so it cannot be stepped.`)
  } else if (
    action.do === 'step' &&
    info.range &&
    (action.least < info.range[0] || action.most > info.range[1])
  ) {
    mistakes.say(
      'simulator',
      `“${action.variable}” goes from ${info.range[0]} to ${info.range[1]}; the step's limits lie beyond that.`,
    )
  } else if (action.do === 'step') return [{ ...action, variable }]
  else return [{ do: action.do, variable }]
  return []
}

const unknownVariable = (name: string, index: CatalogueIndex): string => {
  const close = similarName(index.variable.keys(), name)
  return `This craft has no variable “${name}”.${close ? ` Did you mean “${close}”?` : ''}`
}

const blindProgram = (row: BindingRow): Program => {
  const { settings } = row
  return settings.kind === 'lamp'
    ? {
        kind: 'lamp',
        row,
        settings,
        source: -1,
        sourceIsText: false,
        shows: null,
        condition: null,
        show: null,
        onlyWhile: null,
        mistakes: [],
      }
    : { kind: 'control', row, settings, value: null, onlyWhile: null, targets: [], mistakes: [] }
}

/** What a new binding of this part starts as: sensible, complete but for its variable or event. */
export const freshSettings = (rig: Rig, partId: string): BindingSettings | null => {
  const part = rig.part[partId]
  const kind = part ? partKind(part.kind) : undefined
  if (!kind) return null
  const aspect = positionsAspect(kind)
  if (!aspect) return { kind: 'lamp', variable: null, show: 'input', onlyWhile: null, rest: 'out' }
  if (aspect.momentary) return { kind: 'control', when: 'press', value: null, actions: [], onlyWhile: null }
  return {
    kind: 'control',
    when: 'position',
    value: aspect.positions.length === 2 ? 'input == "up"' : null,
    actions: [],
    onlyWhile: null,
  }
}
