'use client'
import type { Aspect, EncoderAspect, PositionsAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { put } from './change-aspect'
import { NeedleForm } from './needle-form'
import { NumberField } from './number-field'
import { TravelForm } from './travel-form'

/** What belongs to a control or needle itself, whatever it is bound to. */
export const AspectForm = ({ part, aspect }: { part: PartRow; aspect: Aspect }) => {
  switch (aspect.kind) {
    case 'positions':
      return aspect.momentary ? null : <PositionsForm part={part} aspect={aspect} />
    case 'encoder':
      return <EncoderForm part={part} aspect={aspect} />
    case 'travel':
      return <TravelForm part={part} aspect={aspect} />
    case 'needle':
      return <NeedleForm part={part} aspect={aspect} />
    default:
      return null
  }
}

const PositionsForm = ({ part, aspect }: { part: PartRow; aspect: PositionsAspect }) => {
  const settings = settingsOf(part.settings, aspect.id, 'positions') ?? { kind: 'positions' as const }
  const skips = settings.skips ?? []
  return (
    <div className="flex flex-col gap-1.5 text-[12px]">
      {aspect.positions.length > 2 && (
        <fieldset className="flex flex-wrap items-center gap-x-3 gap-y-1">
          <legend className="float-left mr-3 text-ink2">Only passed through</legend>
          {aspect.positions.map((p) => (
            <label key={p.id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={skips.includes(p.id)}
                onChange={(e) =>
                  put(part, aspect, {
                    ...settings,
                    skips: e.target.checked ? [...skips, p.id] : skips.filter((s) => s !== p.id),
                  })
                }
              />
              {part.settings.labels?.[p.id] ?? p.id}
            </label>
          ))}
        </fieldset>
      )}
      <NumberField
        label="A position counts after resting"
        unit="ms"
        least={0}
        most={2000}
        value={settings.restMs ?? 0}
        take={(ms) => put(part, aspect, { ...settings, restMs: Math.round(ms) })}
      />
    </div>
  )
}

const EncoderForm = ({ part, aspect }: { part: PartRow; aspect: EncoderAspect }) => {
  const settings = settingsOf(part.settings, aspect.id, 'encoder') ?? { kind: 'encoder' as const }
  return (
    <div className="flex flex-wrap items-center gap-3 text-[12px]">
      <label className="flex items-center gap-1.5">
        <span className="text-ink2">{aspect.id}: contact changes a click</span>
        <select
          value={settings.changesPerClick ?? aspect.changesPerClick}
          onChange={(e) =>
            put(part, aspect, { ...settings, changesPerClick: Number(e.target.value) as 1 | 2 | 4 })
          }
        >
          {[1, 2, 4].map((n) => (
            <option key={n}>{n}</option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={settings.reverse ?? false}
          onChange={(e) => put(part, aspect, { ...settings, reverse: e.target.checked })}
        />
        reversed
      </label>
    </div>
  )
}
