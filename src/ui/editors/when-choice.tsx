'use client'
import type { ControlAspect } from '@/core/catalogue/part-kind'
import { gestureDefaults } from '@/core/engine/controls/gesture-defaults'
import type { ControlSettings } from '@/core/rig/binding'
import type { PartRow } from '@/core/rig/rows'
import type { When } from '../aspects/aspect-ui'
import { controlUi } from '../aspects/aspects'
import { NumberField } from './number-field'

const words: Record<When, string> = {
  position: 'every change of position',
  press: 'press',
  release: 'release',
  short: 'short press',
  long: 'long press',
  double: 'double press',
  repeat: 'press, repeated while held',
  hold: 'press and release, held on between',
  turn: 'every click, either way',
  clockwise: 'every click clockwise',
  counter: 'every click counterclockwise',
  move: 'every movement',
}

type Time = keyof typeof gestureDefaults

/** Which of a gesture's times matter, and between what they lie. */
const times: Partial<Record<When, readonly { key: Time; label: string; least: number; most: number }[]>> = {
  short: [{ key: 'longMs', label: 'at most', least: 150, most: 5000 }],
  long: [{ key: 'longMs', label: 'after', least: 150, most: 5000 }],
  double: [{ key: 'doubleMs', label: 'within', least: 100, most: 1000 }],
  repeat: [
    { key: 'delayMs', label: 'after', least: 100, most: 5000 },
    { key: 'intervalMs', label: 'every', least: 20, most: 5000 },
  ],
}

/** On what movement a control's binding acts, with its times. */
export const WhenChoice = ({
  part,
  aspect,
  settings,
  change,
}: {
  part: PartRow
  aspect: ControlAspect
  settings: ControlSettings
  change: (next: ControlSettings) => void
}) => {
  const { when } = settings
  const { whens, Tuning } = controlUi(aspect.kind)
  const choices = whens(aspect)
  if (choices.length === 1) return null
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <label className="flex items-center gap-2 text-[12px]">
        <span className="text-ink2">It happens on</span>
        <select value={when} onChange={(e) => change({ ...settings, when: e.target.value as When })}>
          {choices.map((id) => (
            <option key={id} value={id}>
              {words[id]}
            </option>
          ))}
        </select>
      </label>
      {aspect.kind === 'positions' && aspect.positions.length > 2 && when !== 'position' && (
        <label className="flex items-center gap-2 text-[12px]">
          <span className="text-ink2">at</span>
          <select
            aria-label="At which position"
            value={settings.position ?? ''}
            onChange={(e) => change(withPosition(settings, e.target.value))}
          >
            <option value="">any but the first</option>
            {aspect.positions.map((p) => (
              <option key={p.id} value={p.id}>
                {part.settings.labels?.[p.id] ?? p.id}
              </option>
            ))}
          </select>
        </label>
      )}
      {(times[when] ?? []).map(({ key, label, least, most }) => (
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
      {when === 'repeat' && (
        <NumberField
          label="at most"
          unit="times"
          least={1}
          most={10_000}
          value={settings.timing?.most}
          none={{
            shown: 'no limit',
            clear: () => change({ ...settings, timing: { ...settings.timing, most: undefined } }),
          }}
          take={(most) => change({ ...settings, timing: { ...settings.timing, most: Math.round(most) } })}
        />
      )}
      {Tuning && <Tuning settings={settings} change={change} />}
    </div>
  )
}

const withPosition = ({ position: _, ...settings }: ControlSettings, position: string): ControlSettings =>
  position === '' ? settings : { ...settings, position }
