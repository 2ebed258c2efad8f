'use client'
import type { Action, ControlSettings } from '@/core/rig/binding'
import type { VariableInfo } from '@/core/rig/simulator-catalogue'
import { NumberField } from './number-field'

const FAR = 1e9

/** The first of a binding's actions that acts on a variable, with its place. */
const variableAction = (settings: ControlSettings) => {
  const at = settings.actions.findIndex((a) => a.do === 'set' || a.do === 'toggle' || a.do === 'step')
  const action = settings.actions[at]
  return action && 'variable' in action ? { at, action } : null
}

/** The same variable, acted on in another way, with sensible limits to begin with. */
const otherwise = (way: string, variable: string, info: VariableInfo | undefined): Action => {
  if (way === 'toggle') return { do: 'toggle', variable }
  if (way === 'set') return { do: 'set', variable }
  const [least, most] = info?.range ?? [0, 100]
  return { do: 'step', variable, by: 1, least, most, atEnd: 'stop' }
}

/** What a control does with its variable: sets it, turns it over, or steps it within limits. */
export const ActionChoice = ({
  settings,
  info,
  change,
}: {
  settings: ControlSettings
  info: VariableInfo | undefined
  change: (next: ControlSettings) => void
}) => {
  const found = variableAction(settings)
  if (!found) return null
  const { at, action } = found
  const put = (next: Action) =>
    change({ ...settings, actions: settings.actions.map((a, i) => (i === at ? next : a)) })
  return (
    <div className="flex flex-wrap items-center gap-3 border-b border-line px-3 py-2">
      <label className="flex items-center gap-2 text-[12px]">
        <span className="text-ink2">It</span>
        <select
          value={action.do}
          aria-label="What it does"
          onChange={(e) => put(otherwise(e.target.value, action.variable, info))}
        >
          <option value="set">sets the shaped value</option>
          <option value="toggle">turns it over</option>
          <option value="step">steps it</option>
        </select>
      </label>
      {action.do === 'step' && (
        <>
          <NumberField
            label="by"
            unit={info?.unit ?? ''}
            least={-FAR}
            most={FAR}
            value={action.by}
            take={(by) => by !== 0 && put({ ...action, by })}
          />
          <NumberField
            label="from"
            unit=""
            least={-FAR}
            most={action.most}
            value={action.least}
            take={(least) => put({ ...action, least })}
          />
          <NumberField
            label="to"
            unit=""
            least={action.least}
            most={FAR}
            value={action.most}
            take={(most) => put({ ...action, most })}
          />
          <label className="flex items-center gap-1.5 text-[12px]">
            <span className="text-ink2">then</span>
            <select
              value={action.atEnd}
              aria-label="At the end"
              onChange={(e) => put({ ...action, atEnd: e.target.value === 'wrap' ? 'wrap' : 'stop' })}
            >
              <option value="stop">stops</option>
              <option value="wrap">begins anew</option>
            </select>
          </label>
        </>
      )}
    </div>
  )
}
