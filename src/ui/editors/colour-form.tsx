'use client'
import type { ColourSettings } from '@/core/rig/binding'
import type { IndicatorFormProps } from './extra-expression'
import { NumberField } from './number-field'
import { RemoveLine } from './remove-line'

const FAR = 1e9

const fills: Record<ColourSettings['fill'], string> = {
  all: 'all lamps alike',
  start: 'filled from the start',
  end: 'filled from the end',
  middle: 'filled from the middle',
}

/** Which colour stands for which value, and how a strip is filled. */
export const ColourForm = ({ settings, change }: IndicatorFormProps<ColourSettings>) => {
  const { stops } = settings
  const { blinkAbove: _, ...still } = settings
  return (
    <div className="flex flex-col gap-2 text-[12px]">
      <div className="flex flex-wrap items-center gap-3">
        <select
          aria-label="How it fills"
          value={settings.fill}
          onChange={(e) => change({ ...settings, fill: e.target.value as ColourSettings['fill'] })}
        >
          {Object.entries(fills).map(([id, word]) => (
            <option key={id} value={id}>
              {word}
            </option>
          ))}
        </select>
        <NumberField
          label="from"
          unit=""
          least={-FAR}
          most={FAR}
          value={settings.least ?? stops[0]?.at ?? 0}
          take={(least) => change({ ...settings, least })}
        />
        <NumberField
          label="to"
          unit=""
          least={-FAR}
          most={FAR}
          value={settings.most ?? stops.at(-1)?.at ?? 1}
          take={(most) => change({ ...settings, most })}
        />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={settings.blend}
            onChange={(e) => change({ ...settings, blend: e.target.checked })}
          />
          blends between the stops
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={settings.blinkAbove !== undefined}
            onChange={(e) =>
              change(e.target.checked ? { ...settings, blinkAbove: stops.at(-1)?.at ?? 1 } : still)
            }
          />
          blinks
        </label>
        {settings.blinkAbove !== undefined && (
          <NumberField
            label="above"
            unit=""
            least={-FAR}
            most={FAR}
            value={settings.blinkAbove}
            take={(blinkAbove) => change({ ...settings, blinkAbove })}
          />
        )}
      </div>
      {stops.map((stop, i) => (
        <div key={i} className="flex items-center gap-2">
          <NumberField
            label="from"
            unit=""
            least={(stops[i - 1]?.at ?? -FAR) + 1e-9}
            most={(stops[i + 1]?.at ?? FAR) - 1e-9}
            value={stop.at}
            take={(at) => change({ ...settings, stops: stops.with(i, { ...stop, at }) })}
          />
          <input
            type="color"
            aria-label={`Colour from ${stop.at}`}
            className="h-6 w-10 p-0"
            value={stop.colour}
            onChange={(e) =>
              change({ ...settings, stops: stops.with(i, { ...stop, colour: e.target.value }) })
            }
          />
          <span className="mono text-ink2">{stop.colour}</span>
          {stops.length > 1 && (
            <RemoveLine
              label={`Remove the stop at ${stop.at}`}
              take={() => change({ ...settings, stops: stops.filter((_s, k) => k !== i) })}
            />
          )}
        </div>
      ))}
      <div>
        <button
          type="button"
          className="btn"
          onClick={() =>
            change({ ...settings, stops: [...stops, { at: (stops.at(-1)?.at ?? 0) + 1, colour: '#ffffff' }] })
          }
        >
          Another stop
        </button>
      </div>
    </div>
  )
}
