'use client'
import { useMemo } from 'react'
import { isControl, isIndicator } from '@/core/catalogue/part-kind'
import { changeRow, removeRow } from '@/core/rig/edit'
import { aspectUi, indicatorUi } from '../aspects/aspects'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { aspectOfBinding, type BindingEditorProps, change } from './change-binding'
import { CopyForm } from './copy-form'
import { ExpressionField } from './expression-field'
import { placeOf } from './expression-scope'
import { ShapingSteps } from './shaping-steps'
import { WhenChoice } from './when-choice'

/** What happens to a value on its way: when, in simple steps, as an expression, and how it is shown. */
export const ShapingEditor = ({ part, binding, close }: BindingEditorProps) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const place = useMemo(() => placeOf(rig, index, binding, 'shaping'), [rig, index, binding])
  const { settings } = binding
  const aspect = aspectOfBinding(part, settings)
  const source =
    settings.kind === 'control' ? settings.value : settings.kind === 'text' ? null : settings.show
  const take = (text: string | null) => {
    const sentence = `Changed the shaping of “${part.name}”`
    if (settings.kind === 'control') change(binding, sentence, { ...settings, value: text })
    else if (settings.kind !== 'text') change(binding, sentence, { ...settings, show: text ?? 'input' })
  }
  const flip = () =>
    edit(`Turned a binding of “${part.name}” ${binding.on ? 'off' : 'on'}`, [
      changeRow('binding', binding, { ...binding, on: !binding.on }),
    ])
  const remove = () => {
    edit(`Removed a binding of “${part.name}”`, [removeRow('binding', binding)])
    close()
  }
  const ui = aspect && aspectUi(aspect)
  const Shows = settings.kind === 'control' ? undefined : indicatorUi(settings.kind).Shows
  return (
    <div className="flex max-h-[62vh] w-[600px] flex-col gap-2 overflow-y-auto p-3">
      <div className="flex items-center gap-2">
        <span className="cap flex-1">Shaping of {part.name}</span>
        <button type="button" className="btn" aria-pressed={binding.on} onClick={flip}>
          Binding is {binding.on ? 'on' : 'off'} · turn {binding.on ? 'off' : 'on'}
        </button>
        <button type="button" className="btn" onClick={remove}>
          Remove
        </button>
      </div>
      {settings.kind === 'control' && aspect && isControl(aspect) && (
        <WhenChoice
          part={part}
          aspect={aspect}
          settings={settings}
          change={(next) => change(binding, `Changed when “${part.name}” acts`, next)}
        />
      )}
      {settings.kind !== 'text' && (
        <>
          {source !== null && <ShapingSteps source={source} place={place} take={take} />}
          <ExpressionField
            binding={binding}
            use="shaping"
            label="Shaping"
            value={source ?? ''}
            emptyMeans={settings.kind === 'control' ? 'no value goes along' : null}
            take={(text) => {
              take(text)
              close()
            }}
          />
        </>
      )}
      {settings.kind !== 'control' && Shows && aspect && isIndicator(aspect) && (
        <Shows
          binding={binding}
          settings={settings}
          aspect={aspect}
          change={(next) => change(binding, `Changed how “${part.name}” shows it`, next)}
        />
      )}
      <p className="text-[11px] leading-[15px] text-ink2">{ui?.hint}</p>
      <CopyForm part={part} binding={binding} close={close} />
    </div>
  )
}
