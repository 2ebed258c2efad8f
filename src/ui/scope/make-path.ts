import type { Aspect } from '@/core/catalogue/part-kind'
import { isControl } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { aspectFor, type BindingSettings, isBound } from '@/core/rig/binding'
import { changeRow } from '@/core/rig/edit'
import { type Rig, rowsOf } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import type { VariableInfo } from '@/core/rig/simulator-catalogue'
import { companionBinding, companionName, companionsOf } from '@/core/scope/companions'
import { huntBinding } from '@/core/scope/hunt-binding'
import { newBindings } from '../editors/target-editor'
import { edit } from '../live/edits'

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

/** What came of binding a part: the names of those that show the same now as well, or what stands in the way. */
export type MadePath = { readonly also: readonly string[] } | { readonly problem: string }

/** Binds a part to what was found, and what shows the same thing on its panel along with it, in one edit. */
export const makePath = (
  rig: Rig,
  part: PartRow,
  info: VariableInfo,
  values: Readonly<Record<string, number>> | null,
  levels: readonly number[],
): MadePath => {
  const aspect = huntedAspect(part)
  if (!aspect) return { problem: `${part.name} is no control` }
  if (info.type === 'text') return { problem: `${info.name} is a text, which no position stands for` }
  if (!info.writable) return { problem: `the simulator lets nobody write ${info.name}` }
  const settings = huntBinding(aspect, info, values)
  if (!settings)
    return { problem: 'fewer levels were seen than it has positions: go through all of them once' }
  const old = boundAlready(rig, part, aspect)
  // One that waits for its target is what the hunt is for, with the layer, condition and craft set that it has.
  const waiting = old.find((b) => !isBound(b.settings))
  const set = waiting?.settings.craftSet
  const own = waiting
    ? ({
        ...settings,
        onlyWhile: waiting.settings.onlyWhile,
        ...(waiting.settings.layer === undefined ? {} : { layer: waiting.settings.layer }),
        ...(set === undefined ? {} : { craftSet: set }),
      } as BindingSettings)
    : settings
  if (
    old.some(
      (b) =>
        b.settings.kind === 'control' &&
        b.settings.actions.some((a) => 'variable' in a && a.variable === info.name),
    )
  )
    return { problem: `${part.name} is bound to ${info.name} already` }
  const along = companionsOf(rig, part).flatMap((companion) => {
    const shown = companionBinding(rig, companion, info, levels)
    return shown
      ? [
          {
            part: companion.part,
            settings: set === undefined ? shown : { ...shown, craftSet: set },
            called: companionName(part, companion),
          },
        ]
      : []
  })
  const also = along.map((c) => c.called)
  edit(
    [`Bound ${part.name} to ${info.name}`, ...(also.length > 0 ? [`shown on ${also.join(', ')}`] : [])].join(
      ', ',
    ),
    waiting
      ? [changeRow('binding', waiting, { ...waiting, settings: own }), ...newBindings(rig, along)].filter(
          (c) => c !== null,
        )
      : newBindings(rig, [{ part, settings: own }, ...along]),
  )
  return { also }
}
