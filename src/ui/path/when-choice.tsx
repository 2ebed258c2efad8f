'use client'
import { gestureDefaults } from '@/core/engine/controls'
import type { ControlSettings } from '@/core/rig/binding'
import { NumberField } from './number-field'

const words: Record<Exclude<ControlSettings['when'], 'position'>, string> = {
  press: 'press',
  release: 'release',
  short: 'short press',
  long: 'long press',
  double: 'double press',
  repeat: 'press, repeated while held',
}

type Timing = NonNullable<ControlSettings['timing']>

/** Which of a gesture's times matter, and between what they lie. */
const times: Record<
  keyof typeof words,
  readonly { key: keyof Timing; label: string; least: number; most: number }[]
> = {
  press: [],
  release: [],
  short: [{ key: 'longMs', label: 'at most', least: 150, most: 5000 }],
  long: [{ key: 'longMs', label: 'after', least: 150, most: 5000 }],
  double: [{ key: 'doubleMs', label: 'within', least: 100, most: 1000 }],
  repeat: [
    { key: 'delayMs', label: 'after', least: 100, most: 5000 },
    { key: 'intervalMs', label: 'every', least: 30, most: 5000 },
  ],
}

/** On what gesture a button's binding acts, with its times. */
export const WhenChoice = ({
  settings,
  change,
}: {
  settings: ControlSettings
  change: (next: ControlSettings) => void
}) => {
  const { when } = settings
  if (when === 'position') return null
  return (
    <div className="flex items-center gap-3">
      <label className="flex items-center gap-2 text-[12px]">
        <span className="text-ink2">It happens on</span>
        <select
          value={when}
          onChange={(e) => change({ ...settings, when: e.target.value as ControlSettings['when'] })}
        >
          {Object.entries(words).map(([id, word]) => (
            <option key={id} value={id}>
              {word}
            </option>
          ))}
        </select>
      </label>
      {times[when].map(({ key, label, least, most }) => (
        <NumberField
          key={key}
          label={label}
          unit="ms"
          least={least}
          most={most}
          value={settings.timing?.[key] ?? gestureDefaults[key]}
          take={(ms) => change({ ...settings, timing: { ...settings.timing, [key]: Math.round(ms) } })}
        />
      ))}
    </div>
  )
}
