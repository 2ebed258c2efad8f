'use client'
import type { ControlSettings } from '@/core/rig/binding'
import { NumberField } from './number-field'

/** Larger steps while the knob is turned quickly. */
export const CoarseForm = ({
  settings,
  change,
}: {
  settings: ControlSettings
  change: (next: ControlSettings) => void
}) => {
  const { coarse, ...plain } = settings
  return (
    <div className="flex items-center gap-3 text-[12px]">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={coarse !== undefined}
          onChange={(e) =>
            change(e.target.checked ? { ...plain, coarse: { perSecond: 12, times: 10 } } : plain)
          }
        />
        coarse when turned fast
      </label>
      {coarse && (
        <>
          <NumberField
            label="×"
            unit=""
            least={2}
            most={1000}
            value={coarse.times}
            take={(times) => change({ ...settings, coarse: { ...coarse, times: Math.round(times) } })}
          />
          <NumberField
            label="from"
            unit="clicks/s"
            least={2}
            most={100}
            value={coarse.perSecond}
            take={(perSecond) => change({ ...settings, coarse: { ...coarse, perSecond } })}
          />
        </>
      )}
    </div>
  )
}
