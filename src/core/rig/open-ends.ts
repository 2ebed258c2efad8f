import { partKind } from '../catalogue/parts'
import { isWired, wiringOf } from '../harness/configuration'
import { targetOf } from './binding'
import { bindingsOf, leadsOf, type Rig, rowsOf } from './rig'
import type { PartRow } from './rows'

/** Something unfinished: what, of which part, and at which station of its path it is mended. */
export interface OpenEnd {
  readonly partId: string
  readonly station: 'pin' | 'simulator'
  readonly what: string
}

/** Everything unfinished in a rig, part by part. */
export const openEnds = (rig: Rig): OpenEnd[] => rowsOf(rig, 'part').flatMap((part) => endsOfPart(rig, part))

const endsOfPart = (rig: Rig, part: PartRow): OpenEnd[] => {
  const ends: OpenEnd[] = []
  const kind = partKind(part.kind)
  const leads = leadsOf(rig, part.id)
  for (const terminal of kind?.terminals ?? []) {
    if (leads.some((l) => l.terminal === terminal.id)) continue
    ends.push({ partId: part.id, station: 'pin', what: `terminal “${terminal.name}” has no lead` })
  }
  const bindings = bindingsOf(rig, part.id)
  if (bindings.length === 0) ends.push({ partId: part.id, station: 'simulator', what: 'nothing bound yet' })
  for (const b of bindings) {
    if (targetOf(b.settings) === null)
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

/** How far a panel is: its parts, how many of them are wired to a pin, how many are bound to something. */
export const progressOf = (rig: Rig, parts: readonly PartRow[]): Progress => ({
  parts: parts.length,
  wired: parts.filter((p) => isWired(wiringOf(rig, p))).length,
  bound: parts.filter((p) => bindingsOf(rig, p.id).some((b) => b.on && targetOf(b.settings) !== null)).length,
})
