import { addRow, type Change, changeRow, removeRow } from './edit'
import { bindingsOf, byPosition, type Rig, rowsOf } from './rig'
import type { BindingRow, CraftSetRow } from './rows'

export const craftSetsOf = (rig: Rig): CraftSetRow[] => rowsOf(rig, 'craftSet').sort(byPosition)

/** How a set is chosen: by what the sources say that they fly, none of them, or one by hand. */
export type CraftChoice = 'by craft' | 'none' | { readonly set: string }

/** Whether a craft’s name is one that a pattern means: `*` stands for anything, and capitals do not count. */
export const isMeant = (pattern: string, craft: string): boolean => {
  const name = craft.trim().toLowerCase()
  const [first = '', ...others] = pattern.trim().toLowerCase().split('*')
  const last = others.pop()
  if (last === undefined) return first !== '' && name === first
  if (!name.startsWith(first)) return false
  // Each piece at the first place where it fits: no name makes this take long.
  let at = first.length
  for (const piece of others) {
    const found = name.indexOf(piece, at)
    if (found < 0) return false
    at = found + piece.length
  }
  return name.length - last.length >= at && name.endsWith(last)
}

/** The set that holds now, or null for none: by hand, or the first with a pattern for one of the crafts that are there. */
export const setInForce = (rig: Rig, choice: CraftChoice, crafts: readonly string[]): string | null => {
  if (choice === 'none') return null
  if (choice !== 'by craft') return rig.craftSet[choice.set] ? choice.set : null
  const meant = craftSetsOf(rig).find((s) =>
    s.settings.patterns.some((p) => crafts.some((c) => isMeant(p, c))),
  )
  return meant?.id ?? null
}

/**
 * The bindings of a part that hold while a set does: those for every craft and those of the set. A set that replaces leaves
 * out those for every craft on each part that it has bindings of its own for.
 */
export const bindingsInForce = (rig: Rig, partId: string, set: string | null): readonly BindingRow[] => {
  const all = bindingsOf(rig, partId)
  if (all.every((b) => b.settings.craftSet === undefined)) return all
  const own = all.filter((b) => set !== null && b.settings.craftSet === set)
  if (own.length > 0 && set !== null && rig.craftSet[set]?.settings.replaces) return own
  return all.filter((b) => b.settings.craftSet === undefined || b.settings.craftSet === set)
}

/** Parts that have bindings of some craft set: all that may do something else when another is chosen. */
export const partsOfSets = (rig: Rig): Set<string> =>
  new Set(rowsOf(rig, 'binding').flatMap((b) => (b.settings.craftSet === undefined ? [] : [b.partId])))

/** A binding for one set only, or for every craft (null). */
export const inSet = (b: BindingRow, set: string | null): BindingRow => {
  const { craftSet: _, ...settings } = b.settings
  return {
    ...b,
    settings: (set === null ? settings : { ...settings, craftSet: set }) as BindingRow['settings'],
  }
}

/** What makes a set go, with the bindings that were only for it. */
export const removeCraftSet = (rig: Rig, set: CraftSetRow): Change[] => [
  ...rowsOf(rig, 'binding')
    .filter((b) => b.settings.craftSet === set.id)
    .map((b) => removeRow('binding', b)),
  removeRow('craftSet', set),
]

/**
 * A set begun by copying: each binding that holds for `from` (null for those for every craft), on each of these parts, once more
 * for the set, with its names put through `renamed`; null from there leaves a binding out.
 */
export const copiedInto = (
  rig: Rig,
  set: string,
  from: string | null,
  partIds: readonly string[],
  renamed: (s: BindingRow['settings']) => BindingRow['settings'] | null,
  freshId: () => string,
): Change[] =>
  partIds.flatMap((partId) => {
    const all = bindingsOf(rig, partId)
    let last = Math.max(0, ...all.map((b) => b.position))
    return all
      .filter((b) => (b.settings.craftSet ?? null) === from)
      .flatMap((b) => {
        const settings = renamed(b.settings)
        return settings === null
          ? []
          : [addRow('binding', inSet({ ...b, id: freshId(), position: ++last, settings }, set))]
      })
  })

/** Changes that put a binding into a set, or out of all. */
export const putInSet = (b: BindingRow, set: string | null): Change | null =>
  changeRow('binding', b, inSet(b, set))
