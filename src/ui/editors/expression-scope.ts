import { controlKind, indicatorKind } from '@/core/aspects/aspects'
import { isButton } from '@/core/aspects/positions'
import { type ControlAspect, isControl } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { inputOfWhen, wantedOfControl } from '@/core/engine/compile-binding'
import { levelWanted } from '@/core/engine/lighting'
import { layerKey, type OwnSlots, partKey, scopeFor, withInput } from '@/core/engine/scope'
import { aspectFor } from '@/core/rig/binding'
import { layersOf, type Rig, rowsOf } from '@/core/rig/rig'
import type { BindingRow } from '@/core/rig/rows'
import type { CatalogueIndex } from '@/core/rig/simulator-catalogue'
import type { Scope } from '@/core/signal/expression/checked'
import { compile, type Values, type Wanted } from '@/core/signal/expression/compile'
import { formatNumber } from '@/core/signal/format'
import { lampWords } from '@/core/signal/lamp-state'
import { parts, useStore, values } from '../live/store'

/** What an expression of a binding is for. */
export type Use = 'shaping' | 'condition' | 'number' | 'level' | 'choice'

export interface ExpressionPlace {
  readonly scope: Scope
  readonly wanted: Wanted
  /** The binding whose `input` it is, if it has one. */
  readonly binding: BindingRow | null
}

const wantedOf: Record<Exclude<Use, 'shaping'>, Wanted> = {
  condition: { as: 'condition' },
  number: { as: 'number' },
  level: levelWanted,
  choice: { as: 'any' },
}

/** Names and wanted result where an expression stands. */
export const placeOf = (
  rig: Rig,
  index: CatalogueIndex,
  binding: BindingRow,
  use: Use,
  slots?: OwnSlots,
  /** What its shaping has to give, where that is not for its binding to say. */
  asked?: Wanted,
): ExpressionPlace => {
  if (use !== 'shaping') {
    const wanted = wantedOf[use]
    return { scope: scopeFor(rig, index, undefined, slots), wanted, binding: null }
  }
  const { settings } = binding
  const scope = withInput(scopeFor(rig, index, undefined, slots), rig, binding, index)
  if (settings.kind !== 'control')
    return { scope, wanted: asked ?? indicatorKind(settings.kind).wanted, binding }
  const input = inputOfWhen(settings, scope)
  return {
    scope: { ...scope, ...(input ? { input } : {}) },
    wanted: wantedOfControl(settings, index),
    binding,
  }
}

/** Values as this page knows them, with room for positions and layers that an expression asks for. */
class PageValues implements Values, OwnSlots {
  readonly numbers: Float64Array
  readonly texts: (string | null)[]
  readonly isText: Uint8Array
  private readonly own = new Map<string, number>()

  constructor(private readonly index: CatalogueIndex) {
    const { variables } = index.catalogue
    const size = variables.length + 64
    this.numbers = new Float64Array(size).fill(Number.NaN)
    this.texts = new Array<string | null>(size).fill(null)
    this.isText = new Uint8Array(size)
    for (const [i, v] of variables.entries()) {
      const value = values.get(v.name)
      this.isText[i] = v.type === 'text' ? 1 : 0
      if (typeof value === 'number') this.numbers[i] = value
      else if (typeof value === 'string') this.texts[i] = value
    }
  }

  slot(key: string, isText: boolean): number {
    const known = this.own.get(key)
    if (known !== undefined) return known
    const slot = this.index.catalogue.variables.length + this.own.size
    this.own.set(key, slot)
    this.isText[slot] = isText ? 1 : 0
    const value = ownValue(key)
    if (typeof value === 'number') this.numbers[slot] = value
    else this.texts[slot] = value
    return slot
  }
}

/** What a control stands at, or which layer is active, as this page was told. */
const ownValue = (key: string): number | string | null => {
  const { rig, layers } = useStore.getState()
  for (const set of rowsOf(rig, 'layerSet')) {
    if (layerKey(set.id) !== key) continue
    const active = layers[set.id]?.active
    return layersOf(rig, set.id).find((l) => l.id === active)?.name ?? null
  }
  for (const part of rowsOf(rig, 'part')) {
    for (const aspect of partKind(part.kind)?.aspects ?? []) {
      if (isControl(aspect) && partKey(part.id, aspect.id) === key) return standingOf(part.id, aspect)
    }
  }
  return null
}

const standingOf = (partId: string, aspect: ControlAspect): number | string | null => {
  const told = parts.get(partId)?.aspects[aspect.id]?.told ?? null
  if (aspect.kind !== 'positions' || !isButton(aspect) || told === null) return told
  return Number(told !== aspect.positions[0].id)
}

const inputNow = (rig: Rig, binding: BindingRow): number | string | null => {
  const { settings, partId } = binding
  if (settings.kind !== 'control')
    return settings.variable === null ? null : (values.get(settings.variable) ?? null)
  const kind = partKind(rig.part[partId]?.kind ?? '')
  const aspect = kind ? aspectFor(kind.aspects, settings) : undefined
  if (!aspect || !isControl(aspect)) return null
  // Of a knob that turns without end it is the click.
  if (!controlKind(aspect.kind).isReadable) return 1
  return standingOf(partId, aspect)
}

/** What a sound expression gives just now, in words. */
export const resultNow = (source: string, binding: BindingRow, use: Use, asked?: Wanted): string => {
  const { rig, catalogue: index } = useStore.getState()
  const page = new PageValues(index)
  const { scope, wanted } = placeOf(rig, index, binding, use, page, asked)
  const compiled = compile(source, scope, page, wanted)
  const value = compiled.evaluate(use === 'shaping' ? inputNow(rig, binding) : null)
  if (value === null || (typeof value === 'number' && !Number.isFinite(value))) return 'no value just now'
  if (typeof value === 'string') return `“${value}”`
  const { type } = compiled
  if (type.is === 'lamp') return lampWords(value)
  if (type.is === 'boolean') return value !== 0 ? 'yes' : 'no'
  return `${formatNumber(value)}${type.is === 'number' && type.unit ? ` ${type.unit.symbol}` : ''}`
}
