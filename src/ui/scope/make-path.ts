import type { Aspect } from '@/core/catalogue/part-kind'
import { isControl } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { aspectFor } from '@/core/rig/binding'
import { type Rig, rowsOf } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import type { VariableInfo } from '@/core/rig/simulator-catalogue'
import { huntBinding } from '@/core/scope/hunt-binding'
import { addBinding } from '../editors/target-editor'

/** The control of a part that a hunt binds: its first. */
export const huntedAspect = (part: PartRow | undefined): Aspect | null =>
  partKind(part?.kind ?? '')?.aspects.find(isControl) ?? null

/** Bindings of a part's aspect that stand in the way of another. */
const boundAlready = (rig: Rig, part: PartRow, aspect: Aspect): BindingRow[] =>
  rowsOf(rig, 'binding').filter(
    (b) =>
      b.partId === part.id &&
      b.settings.kind === 'control' &&
      aspectFor(partKind(part.kind)?.aspects ?? [], b.settings)?.id === aspect.id,
  )

/** Binds a part to what was found; what stands in the way is said, else null. */
export const makePath = (
  rig: Rig,
  part: PartRow,
  info: VariableInfo,
  values: Readonly<Record<string, number>> | null,
): string | null => {
  const aspect = huntedAspect(part)
  if (!aspect) return `${part.name} is no control`
  if (info.type === 'text') return `${info.name} is a text, which no position stands for`
  if (!info.writable) return `the simulator lets nobody write ${info.name}`
  const settings = huntBinding(aspect, info, values)
  if (!settings) return 'fewer levels were seen than it has positions: go through all of them once'
  const old = boundAlready(rig, part, aspect)
  if (
    old.some(
      (b) =>
        b.settings.kind === 'control' &&
        b.settings.actions.some((a) => 'variable' in a && a.variable === info.name),
    )
  )
    return `${part.name} is bound to ${info.name} already`
  addBinding(part, `Bound ${part.name} to ${info.name}`, settings)
  return null
}
