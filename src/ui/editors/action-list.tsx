'use client'
import { ArrowUp, X } from 'lucide-react'
import type { Action, ControlSettings } from '@/core/rig/binding'
import { layerSetsOf, type Rig } from '@/core/rig/rig'
import type { CatalogueIndex, VariableInfo } from '@/core/rig/simulator-catalogue'
import { suitedAction } from '@/core/rig/suited'
import { useStore } from '../live/store'
import { LayerFields } from './layer-fields'
import { NumberField } from './number-field'
import { ChooseFields, StepFields } from './step-fields'

const doWords: Record<Action['do'], string> = {
  set: 'sets the shaped value',
  toggle: 'turns it over',
  step: 'steps it',
  choose: 'goes along a list',
  event: 'sends the event',
  pause: 'waits',
  layer: 'changes the layer',
}

/** Ways of acting on one variable. */
const onVariable = ['set', 'toggle', 'step', 'choose'] as const

/** The same variable, acted on in another way, as suits its range, unit and choices. */
const otherwise = (way: string, variable: string, info: VariableInfo | undefined): Action =>
  suitedAction(onVariable.find((w) => w === way) ?? 'set', info ?? { ...unknownInfo, name: variable })

const unknownInfo: VariableInfo = {
  ...{ name: '', type: 'number', unit: null, writable: true, range: null, description: '', group: '' },
}

/** Everything a control's binding does, in order; the one whose target is being chosen is marked. */
export const ActionList = ({
  settings,
  at,
  choose,
  change,
}: {
  settings: ControlSettings
  /** The action whose variable or event the picker below chooses. */
  at: number
  choose: (at: number) => void
  change: (next: ControlSettings) => void
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const { actions } = settings
  const put = (next: readonly Action[]) => change({ ...settings, actions: [...next] })
  const add = (word: string) => {
    const [set] = layerSetsOf(rig)
    const fresh: Record<string, Action | null> = {
      pause: { do: 'pause', ms: 200 },
      layer: set ? { do: 'layer', set: set.id, to: 'next' } : null,
      another: { do: 'event', event: '' },
    }
    const action = fresh[word]
    if (!action) return
    put([...actions, action])
    if (word === 'another') choose(actions.length)
  }
  return (
    <div className="flex max-w-[600px] flex-col border-b border-line px-3 py-1.5">
      <ol aria-label="What it does">
        {actions.map((action, i) => (
          <li
            key={i}
            data-action={action.do}
            className={`flex min-h-8 flex-wrap items-center gap-2 py-0.5 text-[12px] ${i > 0 ? 'border-t border-hair' : ''}`}
          >
            <span className="mono w-4 text-ink3">{i + 1}</span>
            <ActionFields
              action={action}
              rig={rig}
              index={index}
              put={(next) => put(actions.with(i, next))}
            />
            <span className="ml-auto flex items-center gap-0.5">
              {('variable' in action || action.do === 'event') && actions.length > 1 && (
                <button type="button" className="btn" aria-pressed={i === at} onClick={() => choose(i)}>
                  {i === at ? 'chosen below' : 'choose'}
                </button>
              )}
              {i > 0 && (
                <button
                  type="button"
                  className="p-1 text-ink3 hover:text-ink"
                  aria-label={`Do ${i + 1} earlier`}
                  onClick={() => put(actions.with(i, actions[i - 1] as Action).with(i - 1, action))}
                >
                  <ArrowUp size={13} />
                </button>
              )}
              {actions.length > 1 && (
                <button
                  type="button"
                  className="p-1 text-ink3 hover:text-ink"
                  aria-label={`Remove what it does ${i + 1}`}
                  onClick={() => put(actions.filter((_, k) => k !== i))}
                >
                  <X size={13} />
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
      {actions.length < 8 && (
        <select
          aria-label="Then it also"
          className="w-[190px] text-[12px]"
          value=""
          onChange={(e) => add(e.target.value)}
        >
          <option value="">{actions.length === 0 ? 'It also …' : 'Then it also …'}</option>
          <option value="another">acts on another variable</option>
          <option value="pause">waits</option>
          <option value="layer" disabled={layerSetsOf(rig).length === 0}>
            changes a layer{layerSetsOf(rig).length === 0 ? ' (there is no layer set yet)' : ''}
          </option>
        </select>
      )}
    </div>
  )
}

interface FieldsProps {
  readonly action: Action
  readonly rig: Rig
  readonly index: CatalogueIndex
  readonly put: (next: Action) => void
}

const ActionFields = ({ action, rig, index, put }: FieldsProps) => {
  switch (action.do) {
    case 'pause':
      return (
        <NumberField
          label="waits"
          unit="ms"
          least={10}
          most={10_000}
          value={action.ms}
          take={(ms) => put({ ...action, ms: Math.round(ms) })}
        />
      )
    case 'event':
      return (
        <>
          <span className="text-ink2">{doWords.event}</span>
          <span className="mono">{action.event || 'none chosen yet'}</span>
        </>
      )
    case 'layer':
      return (
        <>
          <span className="text-ink2">{doWords.layer}</span>
          <LayerFields action={action} rig={rig} put={put} />
        </>
      )
    default: {
      const info = index.catalogue.variables[index.variable.get(action.variable) ?? -1]
      return (
        <>
          <select
            value={action.do}
            aria-label="What it does"
            onChange={(e) => put(otherwise(e.target.value, action.variable, info))}
          >
            {onVariable.map((way) => (
              <option key={way} value={way}>
                {doWords[way]}
              </option>
            ))}
          </select>
          <span className="mono max-w-[220px] truncate" title={action.variable}>
            {action.variable}
          </span>
          {action.do === 'step' && <StepFields action={action} info={info} put={put} />}
          {action.do === 'choose' && <ChooseFields action={action} info={info} put={put} />}
        </>
      )
    }
  }
}
