import { aspectWord } from '../aspects/aspects'
import { isControl } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { aspectFor, isBound } from '../rig/binding'
import { bindingsOf, leadsOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { bareTerminals } from './bare-terminals'
import { isWired, wiringsOf } from './wiring'

/** Something unfinished: what, of which part, and at which station of its path it is mended. */
export interface OpenEnd {
  readonly partId: string
  /** Where it stands for all parts of a panel that are only drawn so far. */
  readonly panelId?: string
  readonly station: 'pin' | 'simulator'
  /** The terminal that has no wire. */
  readonly terminal?: string
  readonly what: string
}

/** Everything unfinished in a rig, part by part. */
export const openEnds = (rig: Rig): OpenEnd[] => {
  const spoken = spokenOf(rig)
  const drawn = onlyDrawn(rig)
  const ends = rowsOf(rig, 'part').flatMap((part) =>
    drawn.get(part.panelId)?.includes(part) ? [] : endsOfPart(rig, part, spoken),
  )
  for (const [panelId, [first, ...more]] of drawn) {
    if (!first) continue
    const what = `${more.length + 1} parts drawn, not wired or bound yet`
    ends.push({ partId: first.id, panelId, station: 'pin', what })
  }
  return ends
}

/** By panel, the parts of which nothing but the drawing is there, where there are several: one thing to do, not many. */
const onlyDrawn = (rig: Rig): ReadonlyMap<string, readonly PartRow[]> => {
  const found = new Map<string, PartRow[]>()
  for (const part of rowsOf(rig, 'part')) {
    const does = (partKind(part.kind)?.aspects.length ?? 0) > 0
    if (!does || leadsOf(rig, part.id).length > 0 || bindingsOf(rig, part.id).length > 0) continue
    const list = found.get(part.panelId)
    if (list) list.push(part)
    else found.set(part.panelId, [part])
  }
  return new Map([...found].filter(([, parts]) => parts.length > 1))
}

/** Names of parts whose position some expression reads: they do something though nothing is bound to them. */
const spokenOf = (rig: Rig): ReadonlySet<string> => {
  const tables = ['binding', 'layerSet', 'lighting', 'screen', 'element'] as const
  const said = tables.flatMap((t) => rowsOf(rig, t).map((r) => JSON.stringify(r.settings)))
  return new Set(said.flatMap((s) => [...s.matchAll(/part\(\\?["'](.+?)\\?["']/g)].map((m) => m[1] ?? '')))
}

const endsOfPart = (rig: Rig, part: PartRow, spoken: ReadonlySet<string>): OpenEnd[] => {
  const ends: OpenEnd[] = []
  const kind = partKind(part.kind)
  for (const terminal of bareTerminals(rig, part)) {
    ends.push({
      partId: part.id,
      station: 'pin',
      terminal: terminal.id,
      what: `terminal “${terminal.name}” has no lead`,
    })
  }
  if (part.settings.leftTo !== undefined) return ends
  const bindings = bindingsOf(rig, part.id)
  const aspects = kind?.aspects ?? []
  for (const aspect of aspects) {
    if (bindings.some((b) => aspectFor(aspects, b.settings)?.id === aspect.id)) continue
    if (spoken.has(part.name) && isControl(aspect)) continue
    // The sensor of a needle is there for the needle.
    if (aspect.kind === 'positions' && aspect.senses !== undefined) continue
    const which = aspects.length > 1 ? ` to its ${aspectWord(aspect)} “${aspect.id}”` : ''
    ends.push({ partId: part.id, station: 'simulator', what: `nothing bound yet${which}` })
  }
  for (const b of bindings) {
    if (!isBound(b.settings))
      ends.push({ partId: part.id, station: 'simulator', what: 'its binding has no target' })
    if (!b.on) ends.push({ partId: part.id, station: 'simulator', what: 'its binding is off' })
  }
  return ends
}

export interface Progress {
  readonly parts: number
  readonly wired: number
  readonly bound: number
}

/** How far a panel is: its parts that do something, how many of them are wired to a pin, how many are bound to something. */
export const progressOf = (rig: Rig, parts: readonly PartRow[]): Progress => {
  const spoken = spokenOf(rig)
  const isUsed = (p: PartRow) =>
    p.settings.leftTo !== undefined ||
    spoken.has(p.name) ||
    bindingsOf(rig, p.id).some((b) => b.on && isBound(b.settings))
  const live = parts.filter((p) => partKind(p.kind)?.aspects.length !== 0)
  return {
    parts: live.length,
    wired: live.filter((p) => wiringsOf(rig, p).every((w) => isWired(w.wiring))).length,
    bound: live.filter(isUsed).length,
  }
}
