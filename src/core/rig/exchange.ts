import type { OwnKind } from '../catalogue/own-kind'
import type { PartKind } from '../catalogue/part-kind'
import { partKind, partKinds } from '../catalogue/parts'
import { aspectFor } from './binding'
import { type Change, changeRow, removeRow, sameValue } from './edit'
import { bindingsOf, leadsOf, type Rig, rowsOf } from './rig'
import type { PartRow } from './rows'

/** What an exchange does, and what it could not keep, in sentences. */
export interface Exchange {
  readonly changes: readonly Change[]
  readonly lost: readonly string[]
}

/** The kinds a part may be exchanged for: the others of its family, in the catalogue's order. */
export const exchangesFor = (part: PartRow): readonly PartKind[] => {
  const own = partKind(part.kind)
  return own ? partKinds.filter((k) => k.family === own.family && (k.id !== own.id || part.settings.own)) : []
}

/**
 * Puts another kind, or one of the builder's own makes of it, in a part's place. Position, name, legends and whatever fits stay: leads of terminals with the
 * same name and use, bindings and settings of aspects of the same kind, names of positions that there still are.
 */
export const exchanged = (rig: Rig, part: PartRow, to: PartKind, own?: OwnKind): Exchange => {
  const lost: string[] = []
  const changes: (Change | null)[] = []
  const before = partKind(part.kind)
  for (const lead of leadsOf(rig, part.id)) {
    const old = before?.terminals.find((t) => t.id === lead.terminal)
    const fits = to.terminals.some((t) => t.id === lead.terminal && (!old || t.role === old.role))
    if (fits) continue
    changes.push(removeRow('lead', lead))
    lost.push(`wire ${lead.number} (${old?.name ?? lead.terminal}) has no terminal on it`)
  }
  for (const binding of bindingsOf(rig, part.id)) {
    const old = before && aspectFor(before.aspects, binding.settings)
    const now = aspectFor(to.aspects, binding.settings)
    if (now && (!old || now.kind === old.kind)) continue
    changes.push(removeRow('binding', binding))
    lost.push(`a binding of its ${old?.id ?? 'part'} fits nothing on it`)
  }
  const positions = new Set(
    to.aspects.flatMap((a) => (a.kind === 'positions' ? a.positions.map((p) => p.id) : [])),
  )
  const { labels, aspects, own: _measures, ...rest } = part.settings
  const keptLabels = Object.entries(labels ?? {}).filter(([id]) => positions.has(id))
  const keptAspects = Object.entries(aspects ?? {}).filter(([id, s]) =>
    to.aspects.some((a) => a.id === id && a.kind === s.kind),
  )
  for (const [id, label] of Object.entries(labels ?? {}))
    if (!positions.has(id)) lost.push(`it has no position for “${label}”`)
  const settings = {
    ...rest,
    ...(own === undefined ? {} : { own }),
    ...(keptLabels.length > 0 ? { labels: Object.fromEntries(keptLabels) } : {}),
    ...(keptAspects.length > 0 ? { aspects: Object.fromEntries(keptAspects) } : {}),
  }
  changes.push(changeRow('part', part, { ...part, kind: to.id, settings }))
  return { changes: changes.filter((c) => c !== null), lost }
}

/** The builder's own makes of parts that are used somewhere in the rig, each once. */
export const ownMakes = (rig: Rig): readonly OwnKind[] => {
  const makes: OwnKind[] = []
  for (const { settings } of rowsOf(rig, 'part')) {
    const { own } = settings
    if (own && !makes.some((m) => sameValue(m, own))) makes.push(own)
  }
  return makes
}
