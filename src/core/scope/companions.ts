import { type Aspect, isControl, isIndicator } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { freshSettings } from '../engine/compile-binding'
import { aspectFor, type BindingSettings } from '../rig/binding'
import { bindingsOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { VariableInfo } from '../rig/simulator-catalogue'

/** An indicator that belongs to a control, and shows nothing yet. */
export interface Companion {
  readonly part: PartRow
  readonly aspect: Aspect
}

/** What a part is, not what it is for. */
const kindWords = new Set(
  'lamp light led window digits display readout gauge needle switch toggle button key knob encoder lever selector rotary rocker'.split(
    ' ',
  ),
)

/** What a part is for, as its name says it: its words without what it is, in any order. */
const purpose = (name: string): string =>
  name
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w !== '' && !kindWords.has(w))
    .sort()
    .join(' ')

const freeIndicators = (rig: Rig, part: PartRow): Companion[] => {
  const aspects = partKind(part.kind)?.aspects ?? []
  const bound = new Set(bindingsOf(rig, part.id).map((b) => aspectFor(aspects, b.settings)?.id))
  return aspects.filter((a) => isIndicator(a) && !bound.has(a.id)).map((aspect) => ({ part, aspect }))
}

/**
 * Indicators of the same thing as a control: its own, and on its panel those of parts that are named for the same and have no
 * control of their own. Only what shows nothing yet.
 */
export const companionsOf = (rig: Rig, part: PartRow): Companion[] => {
  const same = purpose(part.name)
  const others = rowsOf(rig, 'part').filter(
    (p) =>
      p.id !== part.id &&
      p.panelId === part.panelId &&
      same !== '' &&
      purpose(p.name) === same &&
      !partKind(p.kind)?.aspects.some(isControl),
  )
  return [part, ...others].flatMap((p) => freeIndicators(rig, p))
}

/** The binding by which an indicator shows a value whose least level is known: a lamp is lit above it. Null where it cannot. */
export const companionBinding = (
  rig: Rig,
  { part, aspect }: Companion,
  info: VariableInfo,
  levels: readonly number[],
): BindingSettings | null => {
  const fresh = freshSettings(rig, part.id, aspect.id)
  if (!fresh || fresh.kind === 'control' || !('variable' in fresh) || info.type === 'text') return null
  const settings = { ...fresh, variable: info.name }
  if (settings.kind !== 'lamp' || info.type === 'boolean') return settings
  const least = levels.length > 0 ? Math.min(...levels) : (info.range?.[0] ?? 0)
  return { ...settings, show: `input > ${least} ? on : off` }
}

/** How a companion of a part is called beside it. */
export const companionName = (part: PartRow, companion: Companion): string =>
  companion.part.id === part.id ? `its own ${companion.aspect.kind}` : companion.part.name
