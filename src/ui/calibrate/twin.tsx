import { line, scaleLinear } from 'd3'
import { memo, useEffect, useRef, useState } from 'react'
import type { TravelSettings } from '@/core/aspects/travel'
import { matchOf, type Pair, withPair } from '@/core/calibration/twins'
import type { TravelAspect } from '@/core/catalogue/part-kind'
import { travelPlace } from '@/core/engine/travel'
import { changeRow } from '@/core/rig/edit'
import { settingsOf } from '@/core/rig/part-settings'
import { rowsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { put } from '../editors/change-aspect'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { hearTwin, sayTwin } from './probe'

const SIZE = 120
/** Two places are written down where either lever has gone on by so much. */
const APART = 0.004

/** Levers of the same kind, which may be a part's twin. */
const twinsOf = (parts: readonly PartRow[], part: PartRow): PartRow[] =>
  parts.filter((p) => p.id !== part.id && p.kind === part.kind)

/** Two levers that are moved together: how far they are apart, and a curve that makes one follow the other. */
export const Twin = memo(function Twin({ part, aspect }: { part: PartRow; aspect: TravelAspect }) {
  const rig = useStore((s) => s.rig)
  const [twinId, setTwinId] = useState('')
  const [pairs, setPairs] = useState<readonly Pair[]>([])
  const settings: TravelSettings = settingsOf(part.settings, aspect.id, 'travel') ?? { kind: 'travel' }
  const twin = rig.part[twinId]
  const others = twinsOf(rowsOf(rig, 'part'), part)
  const theirs = twin && settingsOf(twin.settings, aspect.id, 'travel')
  const now = useRef({ settings, theirs })
  now.current = { settings, theirs }
  useEffect(() => {
    if (twinId === '') return
    setPairs([])
    sayTwin({ partId: twinId, aspectId: aspect.id })
    hearTwin((mine, twins) => {
      const { match: _, ...unmatched } = now.current.settings
      const pair = { mine: travelPlace(unmatched, mine), twins: travelPlace(now.current.theirs, twins) }
      setPairs((list) => {
        const last = list.at(-1)
        const isNews =
          !last || Math.abs(last.mine - pair.mine) > APART || Math.abs(last.twins - pair.twins) > APART
        return isNews ? withPair(list, pair) : list
      })
    })
    return () => {
      sayTwin(null)
      hearTwin(null)
    }
  }, [twinId, aspect.id])
  if (others.length === 0) return null
  const match = pairs.length > 20 ? matchOf(pairs) : null
  const copy = () => {
    if (!twin) return
    // What is of this one lever alone, its ends and which way it goes, stays with it.
    const { bands, smoothing } = settings
    const own = settingsOf(twin.settings, aspect.id, 'travel') ?? { kind: 'travel' as const }
    const next = { ...own, ...(bands ? { bands } : {}), ...(smoothing === undefined ? {} : { smoothing }) }
    const aspects = { ...twin.settings.aspects, [aspect.id]: next }
    edit(`Copied the bands of “${part.name}” to “${twin.name}”`, [
      changeRow('part', twin, { ...twin, settings: { ...twin.settings, aspects } }),
    ])
  }
  const x = scaleLinear([0, 1], [4, SIZE - 4])
  const y = scaleLinear([0, 1], [SIZE - 4, 4])
  const drawn = line<Pair>()
    .x((p) => x(p.mine))
    .y((p) => y(p.twins))
  return (
    <section aria-label="Its twin" className="mt-3 border-t border-hair pt-2 text-[12px]">
      <p className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">Its twin</span>
          <select value={twinId} onChange={(e) => setTwinId(e.target.value)}>
            <option value="">none chosen</option>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
        {twin && (
          <button
            type="button"
            className="btn"
            onClick={copy}
            title="Bands, smoothing and all that is not of this one lever alone"
          >
            Copy its bands to {twin.name}
          </button>
        )}
        {settings.match && (
          <button
            type="button"
            className="btn"
            onClick={() => {
              const { match: _, ...rest } = settings
              put(part, aspect, rest)
            }}
          >
            Match it no more
          </button>
        )}
      </p>
      {twin && (
        <div className="mt-2 flex gap-4">
          <svg width={SIZE} height={SIZE} className="shrink-0 border border-hair">
            <title>Against its twin: this lever to the right, {twin.name} upwards</title>
            <path d={`M${x(0)} ${y(0)}L${x(1)} ${y(1)}`} stroke="var(--line)" strokeDasharray="3 3" />
            <path d={drawn([...pairs]) ?? ''} fill="none" stroke="var(--accent)" strokeWidth={1.4} />
          </svg>
          <div>
            <p className="text-[15px] leading-5">
              {match
                ? `Up to ${(match.apart * 100).toFixed(1)} % apart at the same place of the hand.`
                : 'Move both together, slowly, from end to end.'}
            </p>
            {match && (
              <button
                type="button"
                className="btn mt-1.5"
                data-strong="true"
                onClick={() => put(part, aspect, { ...settings, match: [...match.curve] })}
              >
                Match it to {twin.name}: {(match.still * 100).toFixed(1)} % are left
              </button>
            )}
          </div>
        </div>
      )}
    </section>
  )
})
