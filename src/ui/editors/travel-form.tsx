'use client'
import type { Band } from '@/core/aspects/travel'
import type { TravelAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { put } from './change-aspect'
import { NumberField } from './number-field'
import { RemoveLine } from './remove-line'

const FAR = 1e9

const smoothings = ['none', 'a little', 'more', 'strong', 'stronger', 'strongest'] as const

/** How a lever or pot is read: smoothing, direction, bands of its travel. */
export const TravelForm = ({ part, aspect }: { part: PartRow; aspect: TravelAspect }) => {
  const settings = settingsOf(part.settings, aspect.id, 'travel') ?? { kind: 'travel' as const }
  const bands = settings.bands ?? []
  const putBands = (next: Band[]) => put(part, aspect, { ...settings, bands: next })
  const add = () => {
    const from = bands.at(-1)?.to ?? 0
    if (from < 0.99) putBands([...bands, { from, to: 1, gives: [0, 1] }])
  }
  return (
    <div className="flex flex-col gap-2 text-[12px]">
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-1.5">
          <span className="text-ink2">Smoothing</span>
          <select
            value={settings.smoothing ?? 1}
            onChange={(e) => put(part, aspect, { ...settings, smoothing: Number(e.target.value) })}
          >
            {smoothings.map((word, i) => (
              <option key={word} value={i}>
                {word}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={settings.invert ?? false}
            onChange={(e) => put(part, aspect, { ...settings, invert: e.target.checked })}
          />
          the other way round
        </label>
      </div>
      <div className="text-ink2">
        {bands.length === 0
          ? 'Without bands it gives its travel from 0 to 1.'
          : 'Bands of its travel, each with what it gives from end to end:'}
      </div>
      {bands.map((band, i) => (
        <div key={i} className="flex items-center gap-2">
          <NumberField
            label="from"
            unit="%"
            least={(bands[i - 1]?.to ?? 0) * 100}
            most={band.to * 100 - 0.1}
            value={Number((band.from * 100).toFixed(2))}
            take={(v) => putBands(bands.with(i, { ...band, from: v / 100 }))}
          />
          <NumberField
            label="to"
            unit="%"
            least={band.from * 100 + 0.1}
            most={(bands[i + 1]?.from ?? 1) * 100}
            value={Number((band.to * 100).toFixed(2))}
            take={(v) => putBands(bands.with(i, { ...band, to: v / 100 }))}
          />
          <NumberField
            label="gives"
            unit=""
            least={-FAR}
            most={FAR}
            value={band.gives[0]}
            take={(v) => putBands(bands.with(i, { ...band, gives: [v, band.gives[1]] }))}
          />
          <NumberField
            label="…"
            unit=""
            least={-FAR}
            most={FAR}
            value={band.gives[1]}
            take={(v) => putBands(bands.with(i, { ...band, gives: [band.gives[0], v] }))}
          />
          <RemoveLine take={() => putBands(bands.filter((_, k) => k !== i))} />
        </div>
      ))}
      <div>
        <button type="button" className="btn" disabled={(bands.at(-1)?.to ?? 0) >= 0.99} onClick={add}>
          Another band
        </button>
      </div>
    </div>
  )
}
