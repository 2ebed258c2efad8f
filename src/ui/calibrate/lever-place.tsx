'use client'
import { useCallback } from 'react'
import {
  type Band,
  FULL_LEVEL,
  MOST_SMOOTHING,
  type TravelSettings,
  USUAL_SMOOTHING,
} from '@/core/aspects/travel'
import { setTravel, thenOf } from '@/core/calibration/calibrated'
import { delayOf } from '@/core/calibration/noise'
import { TravelGuide } from '@/core/calibration/travel-guide'
import type { Flaw } from '@/core/calibration/travel-measure'
import type { TravelAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import { formatNumber } from '@/core/signal/format'
import { put } from '../editors/change-aspect'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { AskingFor } from './asking'
import { BandTable } from './band-table'
import { Figure } from './figure'
import { LeverChart } from './lever-chart'
import { useMeasuring, useOnce } from './probe'
import { Twin } from './twin'
import type { CalibrateProps } from './work-props'
import { Workplace } from './workplace'

const PLAIN: TravelSettings = { kind: 'travel' }
const NO_BANDS: readonly Band[] = []
const smoothings = Array.from({ length: MOST_SMOOTHING + 1 }, (_, n) => n)
const counts = (n: number): string => formatNumber(Number(n.toFixed(1)))

/** A lever or pot: its ends, its noise, its bands, and what is wrong along its way. */
export const LeverPlace = ({ part, aspect }: CalibrateProps<TravelAspect>) => {
  const rig = useStore((s) => s.rig)
  const settings: TravelSettings = settingsOf(part.settings, aspect.id, 'travel') ?? PLAIN
  const measuring = useMeasuring(
    { partId: part.id, aspectId: aspect.id },
    () => new TravelGuide(settings.bands ?? []),
  )
  const { guide, last } = measuring
  const { result } = guide
  useOnce(guide, result !== null && guide.isDone, () => {
    if (result)
      edit(`Measured “${part.name}”`, setTravel(part, aspect, result, thenOf(rig, part, aspect, new Date())))
  })
  const recent = useCallback(() => guide.seen, [guide])
  const putBands = useCallback(
    (bands: readonly Band[]) => put(part, aspect, { ...settings, bands: [...bands] }),
    [part, aspect, settings],
  )
  const bands = settings.bands ?? NO_BANDS
  const { measured } = settings
  const noise = result?.noise
  const n = settings.smoothing ?? USUAL_SMOOTHING
  return (
    <Workplace
      part={part}
      aspect={aspect}
      steps={guide.steps}
      asking={<AskingFor {...measuring} />}
      figures={
        <>
          <Figure word="At rest it trembles by">
            {noise || measured ? `±${counts(noise?.peak ?? measured?.peak ?? 0)} of ${FULL_LEVEL}` : '–'}
          </Figure>
          <div className="mb-2">
            <dt className="text-[12px] text-ink2">
              <label htmlFor="smoothing">Smoothing, and what it costs</label>
            </dt>
            <dd>
              <select
                id="smoothing"
                value={n}
                onChange={(e) => put(part, aspect, { ...settings, smoothing: Number(e.target.value) })}
              >
                {smoothings.map((k) => (
                  <option key={k} value={k}>
                    {k === 0 ? 'none · 0 ms' : `1/${2 ** k} · ${delayOf(k)} ms`}
                    {result?.smoothing === k ? ' · enough' : ''}
                  </option>
                ))}
              </select>
            </dd>
          </div>
          <Figure word="Its ends give">
            {settings.ends
              ? `${Math.round(settings.ends.low * FULL_LEVEL)} … ${Math.round(settings.ends.high * FULL_LEVEL)}`
              : `0 … ${FULL_LEVEL}`}
          </Figure>
          <Figure word="Turned round">
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={settings.invert ?? false}
                onChange={(e) => put(part, aspect, { ...settings, invert: e.target.checked })}
              />
              {settings.invert ? 'yes' : 'no'}
            </label>
          </Figure>
          <Figure word="Its track">
            {guide.isDone ? <Flaws flaws={result?.flaws ?? []} settings={settings} /> : '–'}
          </Figure>
        </>
      }
    >
      <LeverChart settings={settings} last={last} recent={recent} putBands={putBands} />
      <BandTable bands={bands} put={putBands} />
      <Twin part={part} aspect={aspect} />
    </Workplace>
  )
}

const Flaws = ({ flaws, settings }: { flaws: readonly Flaw[]; settings: TravelSettings }) => {
  if (flaws.length === 0) return <>whole</>
  const { low, high } = settings.ends ?? { low: 0, high: 1 }
  const percent = (level: number) => Math.round(((level / FULL_LEVEL - low) / (high - low)) * 100)
  return (
    <ul className="text-[12px] leading-4 text-warn">
      {flaws.map((f) => (
        <li key={`${f.kind} ${f.from}`}>
          {f.kind} at {percent(f.from)} to {percent(f.to)} %: clean it, or change it
        </li>
      ))}
    </ul>
  )
}
