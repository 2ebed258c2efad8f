'use client'
import type { DigitsSettings } from '@/core/rig/binding'
import { ExtraExpression, type IndicatorFormProps } from './extra-expression'
import { NumberField } from './number-field'

/** How a number is written in a digit window. */
export const DigitsForm = ({ binding, settings, change }: IndicatorFormProps<DigitsSettings>) => {
  const { brightness: _b, powered: _p, ...bare } = settings
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-3">
        <NumberField
          label="decimals"
          unit=""
          least={0}
          most={7}
          value={settings.decimals}
          take={(d) => change({ ...settings, decimals: Math.round(d) })}
        />
        <label className="flex items-center gap-1.5 text-[12px]">
          <span className="text-ink2">filled with</span>
          <select
            value={settings.leading}
            onChange={(e) =>
              change({ ...settings, leading: e.target.value === 'zeros' ? 'zeros' : 'blanks' })
            }
          >
            <option value="blanks">blanks</option>
            <option value="zeros">zeros</option>
          </select>
        </label>
        <label className="flex items-center gap-1.5 text-[12px]">
          <span className="text-ink2">sign</span>
          <select
            value={settings.sign}
            onChange={(e) => change({ ...settings, sign: e.target.value === 'never' ? 'never' : 'minus' })}
          >
            <option value="minus">minus below zero</option>
            <option value="never">none</option>
          </select>
        </label>
      </div>
      <ExtraExpression
        binding={binding}
        label="brightness"
        use="number"
        value={settings.brightness}
        emptyMeans="full"
        take={(t) =>
          change(
            t === null
              ? { ...bare, ...(settings.powered ? { powered: settings.powered } : {}) }
              : { ...settings, brightness: t },
          )
        }
      />
      <ExtraExpression
        binding={binding}
        label="powered while"
        use="condition"
        value={settings.powered}
        emptyMeans="always"
        take={(t) =>
          change(
            t === null
              ? { ...bare, ...(settings.brightness ? { brightness: settings.brightness } : {}) }
              : { ...settings, powered: t },
          )
        }
      />
    </div>
  )
}
