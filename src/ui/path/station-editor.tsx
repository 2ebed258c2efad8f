'use client'
import type { Station } from '@/core/engine/compile-binding'
import { freshSettings } from '@/core/engine/compile-binding'
import type { TraceRow } from '@/core/engine/trace'
import { type Action, type BindingSettings, retarget, targetOf } from '@/core/rig/binding'
import { addRow, changeRow, removeRow } from '@/core/rig/edit'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { ActionChoice } from './action-choice'
import { ExpressionField } from './expression-field'
import { PartEditor } from './part-editor'
import { PinEditor } from './pin-editor'
import type { Found } from './search-variables'
import { SimulatorPicker } from './simulator-picker'
import { WhenChoice } from './when-choice'

/** The editor of one station, in place; what it changes takes effect at once and can be undone. */
export const StationEditor = ({
  part,
  row,
  station,
  close,
}: {
  part: PartRow
  row: TraceRow
  station: Station
  close: () => void
}) => {
  const binding = useStore((s) => (row.bindingId === null ? undefined : s.rig.binding[row.bindingId]))
  switch (station) {
    case 'part':
      return <PartEditor part={part} close={close} />
    case 'pin':
    case 'board':
      return <PinEditor part={part} close={close} />
    case 'shaping':
      return binding ? <ShapingEditor part={part} binding={binding} close={close} /> : <Unbound />
    case 'onlyWhile':
      return binding ? <ConditionEditor part={part} binding={binding} close={close} /> : <Unbound />
    case 'simulator':
      return <TargetEditor part={part} binding={binding} close={close} />
  }
}

const Unbound = () => <p className="p-3 text-ink2">Choose a variable first, at the right end of the path.</p>

const change = (binding: BindingRow, sentence: string, settings: BindingSettings): void =>
  edit(sentence, [changeRow('binding', binding, { ...binding, settings })])

const TargetEditor = ({
  part,
  binding,
  close,
}: {
  part: PartRow
  binding: BindingRow | undefined
  close: () => void
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const fresh = binding ? null : freshSettings(rig, part.id)
  const settings = binding?.settings ?? fresh
  if (!settings)
    return <p className="p-3 text-ink2">This kind of part is not known here, so it cannot be bound.</p>
  const now = targetOf(settings)
  const current = now === null ? null : 'variable' in now ? now.variable : now.event
  const choose = (found: Found) => {
    const to = found.is === 'variable' ? { variable: found.info.name } : { event: found.info.name }
    const next = begun(retarget(settings, to), found)
    if (binding) change(binding, `Bound “${part.name}” to ${found.info.name}`, next)
    else {
      const row: BindingRow = {
        id: crypto.randomUUID(),
        partId: part.id,
        position: 1,
        on: true,
        settings: next,
      }
      edit(`Bound “${part.name}” to ${found.info.name}`, [addRow('binding', row)])
    }
    close()
  }
  const info = index.catalogue.variables[index.variable.get(current ?? '') ?? -1]
  return (
    <>
      {binding && settings.kind === 'control' && (
        <ActionChoice
          settings={settings}
          info={info}
          change={(next) => change(binding, `Changed what “${part.name}” does`, next)}
        />
      )}
      <SimulatorPicker forControl={settings.kind === 'control'} current={current} choose={choose} />
    </>
  )
}

/** A button that gets a switch to work turns it over, unless it has a value to set. */
const begun = (settings: BindingSettings, found: Found): BindingSettings => {
  if (settings.kind !== 'control' || settings.value !== null || settings.when === 'position') return settings
  if (found.is !== 'variable' || found.info.type !== 'boolean') return settings
  const actions = settings.actions.map(
    (a): Action => (a.do === 'set' ? { do: 'toggle', variable: a.variable } : a),
  )
  return { ...settings, actions }
}

const ShapingEditor = ({
  part,
  binding,
  close,
}: {
  part: PartRow
  binding: BindingRow
  close: () => void
}) => {
  const { settings } = binding
  const take = (text: string | null) => {
    const sentence = `Changed the shaping of “${part.name}”`
    if (settings.kind === 'lamp') change(binding, sentence, { ...settings, show: text ?? 'input' })
    else change(binding, sentence, { ...settings, value: text })
    close()
  }
  const flip = () =>
    edit(`Turned a binding of “${part.name}” ${binding.on ? 'off' : 'on'}`, [
      changeRow('binding', binding, { ...binding, on: !binding.on }),
    ])
  const remove = () => {
    edit(`Removed a binding of “${part.name}”`, [removeRow('binding', binding)])
    close()
  }
  return (
    <div className="flex w-[520px] flex-col gap-2 p-3">
      <div className="flex items-center gap-2">
        <span className="cap flex-1">Shaping of {part.name}</span>
        <button type="button" className="btn" aria-pressed={binding.on} onClick={flip}>
          Binding is {binding.on ? 'on' : 'off'} · turn {binding.on ? 'off' : 'on'}
        </button>
        <button type="button" className="btn" onClick={remove}>
          Remove
        </button>
      </div>
      {settings.kind === 'control' && (
        <WhenChoice
          settings={settings}
          change={(next) => change(binding, `Changed when “${part.name}” acts`, next)}
        />
      )}
      <ExpressionField
        binding={binding}
        use="shaping"
        value={(settings.kind === 'lamp' ? settings.show : settings.value) ?? ''}
        emptyMeans={settings.kind === 'lamp' ? null : 'no value goes along'}
        take={take}
      />
      <p className="text-[11px] leading-[15px] text-ink2">
        {settings.kind === 'lamp'
          ? 'input is the variable. A lamp takes on, off, a brightness from 0 to 1, or blink(times a second).'
          : 'input is where the control stands. match(input, "up", 0, "down", 2) gives a value for each position.'}
      </p>
    </div>
  )
}

const ConditionEditor = ({
  part,
  binding,
  close,
}: {
  part: PartRow
  binding: BindingRow
  close: () => void
}) => (
  <div className="flex w-[480px] flex-col gap-2 p-3">
    <span className="cap">Only while · {part.name}</span>
    <ExpressionField
      binding={binding}
      use="onlyWhile"
      value={binding.settings.onlyWhile ?? ''}
      emptyMeans="always"
      take={(text) => {
        change(binding, `Changed when “${part.name}” may act`, { ...binding.settings, onlyWhile: text })
        close()
      }}
    />
    <p className="text-[11px] leading-[15px] text-ink2">
      A yes or no from variables, such as elec.bus.main.volts &gt; 20. Empty means always.
    </p>
  </div>
)
