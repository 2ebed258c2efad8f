'use client'
import type { PositionsAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { put } from './change-aspect'
import { NumberField } from './number-field'

/** What belongs to a switch itself; a button needs nothing. */
export const PositionsForm = ({ part, aspect }: { part: PartRow; aspect: PositionsAspect }) => {
  if (aspect.momentary) return null
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
