import { kindOf } from '../catalogue/own-kind'
import { isControl } from '../catalogue/part-kind'
import { connectionKind } from '../connections/connections'
import { isBound } from '../rig/binding'
import { bindingsOf, boardsOf, connectionsOf, leadsOf, panelsOf, type Rig, rowsOf } from '../rig/rig'
import type { BindingRow, PartRow } from '../rig/rows'
import { isWired, wiringsOf } from './wiring'

/** What lies between an empty rig and a lamp that follows a control, in the order in which it is done. */
export const firstSteps = [
  'panel',
  'control',
  'lamp',
  'board',
  'wires',
  'loaded',
  'source',
  'act',
  'show',
  'seen',
] as const
export type FirstStep = (typeof firstSteps)[number]

/** What is known of the bench beside the rig. */
export interface BenchNow {
  /** Whether what a drawn board holds is what is drawn. */
  readonly holds: (boardId: string) => boolean
  readonly proven: (bindingId: string) => boolean
}

export interface FirstLight {
  readonly done: ReadonlySet<FirstStep>
  /** The first control and the first lamp that are drawn. */
  readonly control: PartRow | null
  readonly lamp: PartRow | null
  /** Drawn boards on which they hang, or all while they hang on none. */
  readonly boardIds: readonly string[]
}

/** How far a rig is from its first light, and which parts will be it. */
export const firstLight = (rig: Rig, now: BenchNow): FirstLight => {
  const parts = rowsOf(rig, 'part')
  const control = parts.find((p) => kindOf(p)?.aspects.some(isControl)) ?? null
  const lamp = parts.find((p) => kindOf(p)?.aspects.some((a) => a.kind === 'lamp')) ?? null
  const both = [...new Set([control, lamp])].filter((p) => p !== null)
  const hangsOn = new Set(both.flatMap((p) => leadsOf(rig, p.id).flatMap((l) => l.boardId ?? [])))
  const boardIds = hangsOn.size > 0 ? [...hangsOn] : boardsOf(rig).map((b) => b.id)
  const bound = (part: PartRow | null, acts: boolean): BindingRow[] =>
    part === null
      ? []
      : bindingsOf(rig, part.id).filter(
          (b) => b.on && isBound(b.settings) && (b.settings.kind === 'control') === acts,
        )
  const [act, show] = [bound(control, true), bound(lamp, false)]
  const wired = both.length > 0 && both.every((p) => wiringsOf(rig, p).every((w) => isWired(w.wiring)))
  const is: Readonly<Record<FirstStep, boolean>> = {
    panel: panelsOf(rig).length > 0,
    control: control !== null,
    lamp: lamp !== null,
    board: boardsOf(rig).length > 0,
    wires: control !== null && lamp !== null && wired,
    loaded: wired && boardIds.length > 0 && boardIds.every(now.holds),
    source: connectionsOf(rig).some((c) => c.on && connectionKind(c.settings.kind).carries === 'source'),
    act: act.length > 0,
    show: show.length > 0,
    seen: act.length > 0 && show.length > 0 && [...act, ...show].every((b) => now.proven(b.id)),
  }
  return { done: new Set(firstSteps.filter((s) => is[s])), control, lamp, boardIds }
}
