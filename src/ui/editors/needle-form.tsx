'use client'
import { GAINS_DEG_S2, LEAST_GAIN_DEG_S2, type NeedleSettings } from '@/core/aspects/needle'
import { MOST_DEG } from '@/core/aspects/trial'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { put } from './change-aspect'
import { NumberField } from './number-field'
import { RemoveLine } from './remove-line'

const FAR = 1e9

/** The ends of a scale that suits most motors, for a needle that has no points yet. */
export const firstPoints: NeedleSettings['points'] = [
  { value: 0, deg: -120 },
  { value: 100, deg: 120 },
]

/** How quickly a needle may turn, and gain speed. */
export const PaceFields = ({
  aspect,
  dial,
  take,
}: {
  aspect: NeedleAspect
  dial: NeedleSettings
  take: (more: Partial<NeedleSettings>) => void
}) => (
  <>
    {(aspect.drive === 'four-wire' || aspect.drive === 'servo') && (
      <NumberField
        label="at most"
        unit="°/s"
        least={1}
        most={aspect.degPerS}
        value={dial.degPerS ?? aspect.degPerS}
        take={(degPerS) => take({ degPerS })}
      />
    )}
    {aspect.drive === 'four-wire' && (
      <NumberField
        label="gains at most"
        unit="°/s²"
        least={LEAST_GAIN_DEG_S2}
        most={Math.round(GAINS_DEG_S2)}
        value={Math.round(dial.gainsDegPerS2 ?? GAINS_DEG_S2)}
        take={(gainsDegPerS2) => take({ gainsDegPerS2 })}
      />
    )}
  </>
)

/** Where a needle stands for which value, how far and how fast it may go. */
export const NeedleForm = ({ part, aspect }: { part: PartRow; aspect: NeedleAspect }) => {
  const settings: NeedleSettings = settingsOf(part.settings, aspect.id, 'needle') ?? {
    kind: 'needle',
    points: firstPoints,
  }
  const { points } = settings
  const half = aspect.travelDeg / 2
  const take = (more: Partial<NeedleSettings>) => put(part, aspect, { ...settings, ...more })
  return (
    <div className="flex flex-col gap-2 text-[12px]">
      <div className="text-ink2">
        {aspect.id}: value and angle, clockwise from straight up; the motor turns {aspect.travelDeg}°.
      </div>
      {points.map((p, i) => (
        <div key={i} className="flex items-center gap-2">
          <NumberField
            label="value"
            unit=""
            least={(points[i - 1]?.value ?? -FAR) + 1e-9}
            most={(points[i + 1]?.value ?? FAR) - 1e-9}
            value={p.value}
            take={(value) => take({ points: points.with(i, { ...p, value }) })}
          />
          <NumberField
            label="at"
            unit="°"
            least={-MOST_DEG}
            most={MOST_DEG}
            value={p.deg}
            take={(deg) => take({ points: points.with(i, { ...p, deg }) })}
          />
          {points.length > 2 && (
            <RemoveLine take={() => take({ points: points.filter((_, k) => k !== i) })} />
          )}
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="btn"
          onClick={() => {
            const last = points.at(-1) ?? { value: 0, deg: 0 }
            take({ points: [...points, { value: last.value + 10, deg: Math.min(half, last.deg + 10) }] })
          }}
        >
          Another point
        </button>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={settings.smooth ?? false}
            onChange={(e) => take({ smooth: e.target.checked })}
          />
          smooth between them
        </label>
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <NumberField
          label="rests at"
          unit="°"
          least={-MOST_DEG}
          most={MOST_DEG}
          value={settings.homeDeg ?? points[0]?.deg ?? 0}
          take={(homeDeg) => take({ homeDeg })}
        />
        <NumberField
          label="never below"
          unit="°"
          least={-MOST_DEG}
          most={(settings.mostDeg ?? half) - 1}
          value={settings.leastDeg ?? -half}
          take={(leastDeg) => take({ leastDeg })}
        />
        <NumberField
          label="never above"
          unit="°"
          least={(settings.leastDeg ?? -half) + 1}
          most={MOST_DEG}
          value={settings.mostDeg ?? half}
          take={(mostDeg) => take({ mostDeg })}
        />
        <PaceFields aspect={aspect} dial={settings} take={take} />
      </div>
    </div>
  )
}
