import type { AspectSettings } from '../aspects/aspects'
import { type Band, FULL_LEVEL, type TravelSettings } from '../aspects/travel'
import type { Aspect } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { isWired, wiringOf } from '../harness/wiring'
import { changeRow, type Diff } from '../rig/edit'
import { settingsOf } from '../rig/part-settings'
import { bindingsOf, type Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { Millis } from '../units-of-measure'
import type { ContactsFound } from './contacts-guide'
import type { EncoderMeasure } from './encoder-measure'
import type { ShownEdge, TravelFound } from './travel-guide'

/** When, of what kind and where: what a measurement is worth later depends on it. */
export interface Then {
  readonly at: string
  readonly kind: string
  readonly place: string
}

/** A measurement that is made now, of a part as it is drawn. */
export const thenOf = (rig: Rig, part: PartRow, aspect: Aspect, now: Date): Then => {
  const wiring = wiringOf(rig, part, aspect)
  const place = isWired(wiring) ? `${rig.board[wiring.boardId]?.name ?? '?'} ${wiring.pins.join(' ')}` : ''
  return { at: now.toISOString(), kind: part.kind, place: place.slice(0, 200) }
}

/** When a part was measured last, what it was then and where, for one of its aspects. */
export const measuredOf = (part: PartRow, aspect: Aspect): Then | undefined => {
  const own = part.settings.aspects?.[aspect.id]
  return own && 'measured' in own ? own.measured : undefined
}

/** What is otherwise than when a part was measured, in words: it hangs elsewhere, or is another kind of part. */
export const changedSince = (then: Then, now: Then): string[] => [
  ...(then.kind === now.kind
    ? []
    : [
        `it was ${partKind(then.kind)?.name ?? then.kind} then, and is ${partKind(now.kind)?.name ?? now.kind} now`,
      ]),
  ...(then.place === now.place
    ? []
    : [`it hung on ${then.place || 'nothing'}, and hangs on ${now.place || 'nothing'} now`]),
]

const changed = (...changes: readonly (Diff[number] | null)[]): Diff => changes.filter((c) => c !== null)

const withAspect = (part: PartRow, aspectId: string, own: AspectSettings): PartRow => ({
  ...part,
  settings: { ...part.settings, aspects: { ...part.settings.aspects, [aspectId]: own } },
})

/** Sets a switch as it was found: its debounce, and what it measured. */
export const setContacts = (part: PartRow, aspect: Aspect, found: ContactsFound, then: Then): Diff => {
  const own = settingsOf(part.settings, aspect.id, 'positions') ?? { kind: 'positions' as const }
  const { movements, usualUs, longestUs } = found.bounce
  const measured = { ...then, movements, usualUs: Math.round(usualUs), longestUs: Math.round(longestUs) }
  const next = withAspect(part, aspect.id, { ...own, debounceMs: found.debounceMs, measured })
  return changed(changeRow('part', part, next))
}

/** Sets where the positions of a ladder of resistors stand. */
export const setLevels = (
  part: PartRow,
  aspect: Aspect,
  levels: Readonly<Record<string, number>>,
  then: Then,
): Diff => {
  const own = settingsOf(part.settings, aspect.id, 'positions') ?? { kind: 'positions' as const }
  return changed(changeRow('part', part, withAspect(part, aspect.id, { ...own, levels, measured: then })))
}

/** Every binding of a control that tells short presses from long ones takes this for long. */
export const setLong = (rig: Rig, part: PartRow, aspect: Aspect, longMs: Millis | null): Diff =>
  bindingsOf(rig, part.id).flatMap((row) => {
    const s = row.settings
    if (longMs === null || s.kind !== 'control' || !tellsLong(s.when)) return []
    if ((s.aspect ?? aspect.id) !== aspect.id || s.timing?.longMs === longMs) return []
    return changed(changeRow('binding', row, { ...row, settings: { ...s, timing: { ...s.timing, longMs } } }))
  })

export const tellsLong = (when: string): boolean => when === 'short' || when === 'long'

/** Sets a knob as it was found. */
export const setKnob = (part: PartRow, aspect: Aspect, found: EncoderMeasure, then: Then): Diff => {
  const own = settingsOf(part.settings, aspect.id, 'encoder') ?? { kind: 'encoder' as const }
  const { changesPerClick, reverse, there, back, lost, jumps, bounceUs } = found
  const measured = { ...then, changes: there + back, lost: lost + jumps, bounceUs: Math.round(bounceUs) }
  return changed(
    changeRow('part', part, withAspect(part, aspect.id, { ...own, changesPerClick, reverse, measured })),
  )
}

/**
 * Some bands with the edges that a hand has shown. Where they have been changed meanwhile, so that the edges do not fit any
 * more, they stay as they are.
 */
export const withEdges = (bands: readonly Band[], edges: readonly ShownEdge[]): Band[] => {
  const moved = bands.map((band, i) => ({
    ...band,
    from: edges.find((e) => e.begins === i)?.at ?? band.from,
    to: edges.find((e) => e.ends === i)?.at ?? band.to,
  }))
  const fits =
    edges.every((e) => (e.begins ?? e.ends ?? 0) < bands.length) &&
    moved.every((b, i) => b.from < b.to && b.from >= (moved[i - 1]?.to ?? 0))
  return fits ? moved : [...bands]
}

/** Sets a lever as it was found; what it was matched with is matched with the old ends, and goes. */
export const setTravel = (part: PartRow, aspect: Aspect, found: TravelFound, then: Then): Diff => {
  const { match: _before, ...own } = settingsOf(part.settings, aspect.id, 'travel') ?? {
    kind: 'travel' as const,
  }
  const { noise, ends, invert, smoothing, edges } = found
  const round = (x: number) => Number(x.toFixed(2))
  const next: TravelSettings = {
    ...own,
    ...{ ends, invert, smoothing },
    ...(own.bands ? { bands: withEdges(own.bands, edges) } : {}),
    measured: {
      ...then,
      ...{ sigma: round(noise.sigma), peak: round(noise.peak) },
      ...{ low: round(ends.low * FULL_LEVEL), high: round(ends.high * FULL_LEVEL) },
    },
  }
  return changed(changeRow('part', part, withAspect(part, aspect.id, next)))
}
