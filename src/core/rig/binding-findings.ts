import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { type Action, aspectFor, type ControlSettings } from './binding'
import { bindingsOf, layersOf, type Rig, rowsOf } from './rig'
import type { BindingRow, PartRow } from './rows'
import type { CatalogueIndex } from './simulator-catalogue'

/** Something about what parts are bound to that is most likely a slip: of copying, or of the hand. */
export interface BindingFinding {
  /** The same for the same finding in each version of a rig. */
  readonly id: string
  readonly kind: 'two on one' | 'twin' | 'position' | 'value'
  readonly words: string
  readonly partIds: readonly string[]
  readonly bindingIds: readonly string[]
}

const partOf = (rig: Rig, b: BindingRow): PartRow | undefined => rig.part[b.partId]

/** Everything of this kind in a rig. */
export const bindingFindings = (rig: Rig, index: CatalogueIndex): BindingFinding[] => {
  const bindings = rowsOf(rig, 'binding').filter((b) => b.on && partOf(rig, b))
  return [
    ...twoOnOne(rig, bindings),
    ...twins(rig, bindings),
    ...missingPositions(rig, bindings),
    ...values(rig, bindings, index),
  ]
}

/** The variables that a binding sets to where its control stands: two controls that both do so fight over them. */
const setsWhereItStands = (s: ControlSettings): string[] =>
  s.when === 'position' || s.when === 'move'
    ? s.actions.flatMap((a) => (a.do === 'set' && a.variable !== '' ? [a.variable] : []))
    : []

const groupedBy = <T>(items: readonly T[], key: (item: T) => string): T[][] => {
  const groups = new Map<string, T[]>()
  for (const item of items) {
    const group = groups.get(key(item))
    if (group) group.push(item)
    else groups.set(key(item), [item])
  }
  return [...groups.values()]
}

/** Two parts that each set one variable to where they stand: whichever was moved last has it. */
const twoOnOne = (rig: Rig, bindings: readonly BindingRow[]): BindingFinding[] => {
  const uses = bindings.flatMap((b) =>
    b.settings.kind === 'control' && b.settings.onlyWhile === null
      ? setsWhereItStands(b.settings).map((variable) => ({
          variable,
          b,
          layer: `${b.settings.layer ?? ''} ${b.settings.craftSet ?? ''}`.trim(),
        }))
      : [],
  )
  return groupedBy(uses, (u) => `${u.variable} ${u.layer}`).flatMap((group): BindingFinding[] => {
    const parts = [...new Set(group.map((u) => u.b.partId))]
    const [first] = group
    if (parts.length < 2 || !first) return []
    const names = parts.map((id) => `“${rig.part[id]?.name}”`).join(' and ')
    return [
      {
        id: `two on one ${first.variable} ${first.layer}`,
        kind: 'two on one',
        words: `${names} each set ${first.variable} to where they stand, so they never agree: one of them is most likely a copy that still has the other's target.`,
        partIds: parts,
        bindingIds: group.map((u) => u.b.id),
      },
    ]
  })
}

/** What an indicator shows, as it would be compared: the same thing twice is seldom meant. */
const shownBy = (b: BindingRow): string | null => {
  const { settings } = b
  if (settings.kind === 'control' || settings.kind === 'text' || settings.variable === null) return null
  return `${settings.kind} ${settings.variable} ${settings.show} ${settings.onlyWhile} ${settings.layer ?? ''} ${settings.craftSet ?? ''}`
}

/** Two indicators of one panel that show just the same. */
const twins = (rig: Rig, bindings: readonly BindingRow[]): BindingFinding[] => {
  const shown = bindings.flatMap((b) => {
    const what = shownBy(b)
    const panel = partOf(rig, b)?.panelId
    return what === null || panel === undefined ? [] : [{ b, what: `${panel} ${what}` }]
  })
  return groupedBy(shown, (s) => s.what).flatMap((group): BindingFinding[] => {
    const parts = [...new Set(group.map((s) => s.b.partId))]
    const [first] = group
    if (parts.length < 2 || !first || first.b.settings.kind === 'control') return []
    const names = parts.map((id) => `“${rig.part[id]?.name}”`).join(' and ')
    return [
      {
        id: `twin ${parts.join(' ')}`,
        kind: 'twin',
        words: `${names} show just the same of ${first.b.settings.variable}: one of them is most likely a copy whose target was not changed.`,
        partIds: parts,
        bindingIds: group.map((s) => s.b.id),
      },
    ]
  })
}

/** The cases of a value that tells them apart: `match(input, "up", 0, …)` without one for everything else. */
const casesOf = (value: string | null): Set<string> | null => {
  const found = /^\s*match\(\s*input\s*,(.*)\)\s*$/s.exec(value ?? '')?.[1]
  if (found === undefined) return null
  const cases = [...found.matchAll(/"([^"]*)"\s*,\s*([^,]+?)\s*(?:,|$)/g)]
  // One result more than cases is for everything else.
  const pieces = found.split(',').length
  return pieces === cases.length * 2 ? new Set(cases.map((c) => c[1] as string)) : null
}

/** A switch with a value for some of its positions and none for another. */
const missingPositions = (rig: Rig, bindings: readonly BindingRow[]): BindingFinding[] =>
  bindings.flatMap((b): BindingFinding[] => {
    const part = partOf(rig, b)
    const { settings } = b
    if (!part || settings.kind !== 'control' || settings.when !== 'position') return []
    const aspects = partKind(part.kind)?.aspects ?? []
    const aspect = aspectFor(aspects, settings)
    const cases = casesOf(settings.value)
    if (!aspect || !isControl(aspect) || aspect.kind !== 'positions' || !cases) return []
    const own = part.settings.aspects?.[aspect.id]
    const skips = own?.kind === 'positions' ? (own.skips ?? []) : []
    const called = (id: string) => part.settings.labels?.[id] ?? id
    const without = aspect.positions.filter((p) => !cases.has(p.id) && !skips.includes(p.id))
    const strange = [...cases].filter((c) => !aspect.positions.some((p) => p.id === c))
    const found: BindingFinding[] = []
    const at = { partIds: [part.id], bindingIds: [b.id] }
    if (without.length > 0 && without.length < aspect.positions.length)
      found.push({
        ...{ id: `position ${b.id}`, kind: 'position', ...at },
        words: `“${part.name}” does nothing in ${without.map((p) => `“${called(p.id)}”`).join(', ')}: there is no value for ${without.length === 1 ? 'that position' : 'those positions'}.`,
      })
    if (strange.length > 0)
      found.push({
        ...{ id: `no position ${b.id}`, kind: 'position', ...at },
        words: `“${part.name}” has no position ${strange.map((c) => `“${c}”`).join(', ')}; it has ${aspect.positions.map((p) => `“${p.id}”`).join(', ')}.`,
      })
    return found
  })

/** Numbers that a value gives as they stand in it. */
const numbersGiven = (value: string | null): number[] => {
  if (value === null) return []
  if (/^\s*-?\d+(\.\d+)?\s*$/.test(value)) return [Number(value)]
  return [...value.matchAll(/"[^"]*"\s*,\s*(-?\d+(?:\.\d+)?)\s*(?=,|\))/g)].map((m) => Number(m[1]))
}

const variableSet = (actions: readonly Action[]): string | null => {
  const set = actions.find((a) => a.do === 'set')
  return set?.do === 'set' ? set.variable : null
}

/** Values outside what their variable takes. */
const values = (rig: Rig, bindings: readonly BindingRow[], index: CatalogueIndex): BindingFinding[] =>
  bindings.flatMap((b): BindingFinding[] => {
    const { settings } = b
    if (settings.kind !== 'control') return []
    const info = index.catalogue.variables[index.variable.get(variableSet(settings.actions) ?? '') ?? -1]
    const range = info?.range
    if (!info || !range) return []
    const beyond = numbersGiven(settings.value).filter((n) => n < range[0] || n > range[1])
    if (beyond.length === 0) return []
    const unit = info.unit ? ` ${info.unit}` : ''
    return [
      {
        id: `value ${b.id}`,
        kind: 'value',
        words: `“${partOf(rig, b)?.name}” gives ${info.name} ${beyond.join(', ')}, which takes ${range[0]} to ${range[1]}${unit}.`,
        partIds: [b.partId],
        bindingIds: [b.id],
      },
    ]
  })

/** What concerns one part. */
export const findingsOfPart = (findings: readonly BindingFinding[], partId: string): BindingFinding[] =>
  findings.filter((f) => f.partIds.includes(partId))

/** Parts like this one come first: on the same panel, of the same kind, without a binding of their own. */
export const byLikeness = (rig: Rig, part: PartRow, others: readonly PartRow[]): PartRow[] => {
  const rank = (p: PartRow) =>
    Number(p.kind !== part.kind) * 4 +
    Number(bindingsOf(rig, p.id).length > 0) * 2 +
    Number(p.panelId !== part.panelId)
  return others
    .filter((p) => p.id !== part.id)
    .map((p, i) => ({ p, i }))
    .sort((a, b) => rank(a.p) - rank(b.p) || a.i - b.i)
    .map(({ p }) => p)
}

/** Layers in the order of a list, beside positions in theirs: by name where names are the same, else in order. */
export const layersForPositions = (
  rig: Rig,
  setId: string,
  positions: readonly { readonly id: string; readonly label: string }[],
): (string | null)[] => {
  const layers = layersOf(rig, setId)
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()
  const named = positions.map(
    (p) => layers.find((l) => same(l.name, p.label) || same(l.name, p.id))?.name ?? null,
  )
  return named.every((n) => n === null) ? positions.map((_, i) => layers[i]?.name ?? null) : named
}
