import { controlKind, ownSettings } from '../aspects/aspects'
import { type Aspect, aspectOf, type ControlAspect, isControl, type PartKind } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { aspectFor } from '../rig/binding'
import { layerSetsOf, layersOf, type Rig, rowsOf } from '../rig/rig'
import type { BindingRow, PartRow } from '../rig/rows'
import { type CatalogueIndex, similarAmong, similarName } from '../rig/simulator-catalogue'
import type { Readable, Scope } from '../signal/expression/checked'
import { text, typeOfVariable, type ValueType } from '../signal/expression/value-type'
import type { Memories } from './memories'

/** Where values of the rig's own are found: what a control stands at, which layer is active. */
export interface OwnSlots {
  slot(key: string, isText: boolean): number
  /** Where a function with a memory keeps what it gives, where something is remembered. */
  readonly memory?: Memories['place']
}

export const partKey = (partId: string, aspectId: string): string => `part ${partId} ${aspectId}`
export const layerKey = (setId: string): string => `layer ${setId}`

/** Slots for those who only want to know whether an expression is sound. */
export const noSlots: OwnSlots = { slot: () => 0 }

/** What a control stands at, as expressions see it. */
export const standsAt = (part: PartRow, aspect: ControlAspect): ValueType =>
  controlKind(aspect.kind).type(aspect, ownSettings(part.settings, aspect))

/** Whether expressions can read where it stands. */
const isReadable = (aspect: Aspect): aspect is ControlAspect =>
  isControl(aspect) && controlKind(aspect.kind).isReadable

const controlOf = (kind: PartKind, aspect: string | undefined): ControlAspect | undefined => {
  const named = aspect === undefined ? undefined : aspectOf(kind, aspect)
  if (aspect !== undefined) return named && isControl(named) ? named : undefined
  return kind.aspects.find(isReadable)
}

const readPart = (rig: Rig, slots: OwnSlots, name: string, aspect: string | undefined): Readable => {
  const named = rowsOf(rig, 'part').filter((p) => p.name === name)
  const [part] = named
  if (!part) {
    const close = similarName(
      rowsOf(rig, 'part').map((p) => p.name),
      name,
    )
    return { problem: `There is no part “${name}”.${close ? ` Did you mean “${close}”?` : ''}` }
  }
  if (named.length > 1)
    return { problem: `Several parts are called “${name}”; give this one a name of its own.` }
  const kind = partKind(part.kind)
  const control = kind ? controlOf(kind, aspect) : undefined
  if (!control || !isReadable(control)) {
    const has = kind?.aspects.filter(isReadable).map((a) => `“${a.id}”`) ?? []
    const which = has.length > 0 ? ` It has ${has.join(', ')}.` : ''
    return { problem: `“${name}” has no ${aspect ? `“${aspect}”` : 'position'} that could be read.${which}` }
  }
  const type = standsAt(part, control)
  return { slot: slots.slot(partKey(part.id, control.id), type.is === 'text'), type }
}

const readLayer = (rig: Rig, slots: OwnSlots, name: string): Readable => {
  const set = layerSetsOf(rig).find((s) => s.name === name)
  if (!set) return { problem: `There is no layer set “${name}”.` }
  const choices = layersOf(rig, set.id).map((l) => l.name)
  return { slot: slots.slot(layerKey(set.id), true), type: { is: 'text', choices } }
}

/** Names of this rig and its simulator, for one expression. */
export const scopeFor = (
  rig: Rig,
  index: CatalogueIndex,
  input: ValueType | undefined,
  slots: OwnSlots = noSlots,
): Scope => ({
  ...(input ? { input } : {}),
  variable: (name) => {
    const slot = index.variable.get(name)
    const info = slot === undefined ? undefined : index.catalogue.variables[slot]
    return slot === undefined || !info ? undefined : { slot, type: typeOfVariable(info) }
  },
  curve: (name) => rowsOf(rig, 'curve').find((c) => c.name === name)?.points,
  part: (name, aspect) => readPart(rig, slots, name, aspect),
  layer: (name) => readLayer(rig, slots, name),
  similar: (name) => similarAmong(index.variable, name),
  memory:
    slots.memory ??
    // Whoever only wants to know whether it is sound remembers nothing.
    ((name, _, type) => ({ slot: slots.slot(`memory ${name}`, type.is === 'text'), type })),
})

/** What `input` is for a binding: what its control stands at or its clicks, else its variable's value. */
export const inputType = (rig: Rig, row: BindingRow, index: CatalogueIndex): ValueType | undefined => {
  const { settings } = row
  if (settings.kind !== 'control') {
    const info = index.catalogue.variables[index.variable.get(settings.variable ?? '') ?? -1]
    return info ? typeOfVariable(info) : undefined
  }
  const part = rig.part[row.partId]
  const kind = part ? partKind(part.kind) : undefined
  const aspect = kind ? aspectFor(kind.aspects, settings) : undefined
  return part && aspect && isControl(aspect) ? standsAt(part, aspect) : text
}

/** The same scope with what `input` is for a binding, and where it lies, where it is a variable's value. */
export const withInput = (scope: Scope, rig: Rig, row: BindingRow, index: CatalogueIndex): Scope => {
  const { settings } = row
  const input = inputType(rig, row, index)
  const slot = settings.kind === 'control' ? undefined : index.variable.get(settings.variable ?? '')
  return { ...scope, ...(input ? { input } : {}), ...(slot === undefined ? {} : { inputSlot: slot }) }
}

/** The layer a binding belongs to, and where the active one of its set is read. */
export interface CompiledLayer {
  readonly setId: string
  readonly layerId: string
  readonly name: string
  readonly slot: number
}

/** What is said of a name that the craft does not have. */
export const unknownVariable = (name: string, index: CatalogueIndex): string => {
  const close = similarAmong(index.variable, name)
  return `This craft has no variable “${name}”.${close ? ` Did you mean “${close}”?` : ''}${untoldWords(index)}`
}

/** That a name that is not known may be one of a source that has not been there yet. */
export const untoldWords = ({ untold }: CatalogueIndex): string =>
  untold.length === 0
    ? ''
    : ` ${untold.map((n) => `“${n}”`).join(', ')} ${untold.length === 1 ? 'has' : 'have'} told no names yet.`
