'use client'
import type { EncoderAspect } from '@/core/catalogue/part-kind'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { put } from './change-aspect'

/** What belongs to a knob itself. */
export const EncoderForm = ({ part, aspect }: { part: PartRow; aspect: EncoderAspect }) => {
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
