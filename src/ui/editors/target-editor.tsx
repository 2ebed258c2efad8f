'use client'
import { useState } from 'react'
import { freshSettings } from '@/core/engine/compile-binding'
import {
  type Action,
  type BindingSettings,
  type ControlSettings,
  firstTold,
  retarget,
  targetOf,
} from '@/core/rig/binding'
import { addRow } from '@/core/rig/edit'
import { bindingsOf } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { ActionList } from './action-list'
import { change } from './change-binding'
import type { Found } from './search-variables'
import { SimulatorPicker } from './simulator-picker'

/** What a path ends in: everything a control does, or the variable an indicator reads. */
export const TargetEditor = ({
  part,
  aspectId,
  binding,
  close,
}: {
  part: PartRow
  aspectId: string
  binding: BindingRow | undefined
  close: () => void
}) => {
  const rig = useStore((s) => s.rig)
  const settings = binding?.settings ?? freshSettings(rig, part.id, aspectId)
  const [at, setAt] = useState(() => firstTarget(settings))
  if (!settings)
    return <p className="p-3 text-ink2">This kind of part is not known here, so it cannot be bound.</p>
  const current = currentName(settings, at)
  const choose = (found: Found) => {
    const to = found.is === 'variable' ? { variable: found.info.name } : { event: found.info.name }
    const next =
      settings.kind === 'control' && settings.actions.length > 1
        ? withAction(settings, at, found)
        : begun(retarget(settings, to), found)
    if (binding) change(binding, `Bound “${part.name}” to ${found.info.name}`, next)
    else addBinding(part, `Bound “${part.name}” to ${found.info.name}`, next)
    close()
  }
  return (
    <>
      {binding && settings.kind === 'control' && (
        <ActionList
          settings={settings}
          at={at}
          choose={setAt}
          change={(next) => change(binding, `Changed what “${part.name}” does`, next)}
        />
      )}
      <SimulatorPicker forControl={settings.kind === 'control'} current={current} choose={choose} />
    </>
  )
}

/** A further binding of a part, after those it has. */
export const addBinding = (part: PartRow, sentence: string, settings: BindingSettings): void => {
  const { rig } = useStore.getState()
  const position = Math.max(0, ...bindingsOf(rig, part.id).map((b) => b.position)) + 1
  const row: BindingRow = { id: crypto.randomUUID(), partId: part.id, position, on: true, settings }
  edit(sentence, [addRow('binding', row)])
}

const firstTarget = (settings: BindingSettings | null): number => {
  if (settings?.kind !== 'control') return 0
  const first = firstTold(settings.actions)
  return first ? settings.actions.indexOf(first) : 0
}

const currentName = (settings: BindingSettings, at: number): string | null => {
  if (settings.kind === 'control') {
    const action = settings.actions[at]
    if (action && 'variable' in action) return action.variable
    return action?.do === 'event' ? action.event : null
  }
  const now = targetOf(settings)
  return now && 'variable' in now ? now.variable : null
}

/** The action at a place, acting on what was found in the way that suits it. */
const withAction = (settings: ControlSettings, at: number, found: Found): ControlSettings => {
  const before = settings.actions[at]
  const action: Action =
    found.is === 'event'
      ? { do: 'event', event: found.info.name }
      : before && 'variable' in before
        ? { ...before, variable: found.info.name }
        : {
            do: settings.value === null && found.info.type === 'boolean' ? 'toggle' : 'set',
            variable: found.info.name,
          }
  return { ...settings, actions: settings.actions.with(at, action) }
}

/** A button that gets a switch to work turns it over, and a knob steps its number, unless a value is to be set. */
const begun = (settings: BindingSettings, found: Found): BindingSettings => {
  if (settings.kind !== 'control' || settings.value !== null || settings.when === 'position') return settings
  if (found.is !== 'variable') return settings
  const { type, range, name } = found.info
  const turning = ['turn', 'clockwise', 'counter'].includes(settings.when)
  const [least, most] = range ?? [0, 100]
  const better: Action | null =
    type === 'boolean'
      ? { do: 'toggle', variable: name }
      : turning && type === 'number'
        ? { do: 'step', variable: name, by: 1, least, most, atEnd: 'stop' }
        : null
  if (!better) return settings
  return { ...settings, actions: settings.actions.map((a) => (a.do === 'set' ? better : a)) }
}
