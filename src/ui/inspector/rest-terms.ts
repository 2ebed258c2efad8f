import { partKind } from '@/core/catalogue/parts'
import type { Rig } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'

/** What the rest of each binding of an indicator is called: told from its others by its side, its craft set, or a number. */
export const restTerms = (
  rig: Rig,
  part: PartRow,
  bindings: readonly BindingRow[],
): ReadonlyMap<string, string> => {
  const several = (partKind(part.kind)?.aspects.length ?? 0) > 1
  const terms = bindings.flatMap(({ id, settings }): [string, string][] => {
    if (settings.kind === 'control') return []
    const craftSet = rig.craftSet[settings.craftSet ?? '']?.name
    const of = [several ? settings.aspect : undefined, craftSet].filter((w) => w !== undefined)
    return [[id, of.length > 0 ? `Rest, ${of.join(', ')}` : 'Rest state']]
  })
  return new Map(
    terms.map(([id, term], i) => {
      const alike = (list: typeof terms) => list.filter(([, t]) => t === term).length
      return [id, alike(terms) > 1 ? `${term} ${alike(terms.slice(0, i)) + 1}` : term]
    }),
  )
}
