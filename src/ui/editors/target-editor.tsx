'use client'
import { useState } from 'react'
import { partKind } from '@/core/catalogue/parts'
import { freshSettings } from '@/core/engine/compile-binding'
import {
  type Action,
  aspectFor,
  type BindingSettings,
  type ControlSettings,
  firstTold,
  retarget,
  targetOf,
} from '@/core/rig/binding'
import { addRow, type Diff } from '@/core/rig/edit'
import { bindingsOf, type Rig } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { suited } from '@/core/rig/suited'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { ActionList } from './action-list'
import { change } from './change-binding'
import type { FoundName } from './search-variables'
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
  const aspect = aspectFor(partKind(part.kind)?.aspects ?? [], settings)
  const choose = (found: FoundName) => {
    const to = found.is === 'variable' ? { variable: found.info.name } : { event: found.info.name }
    const next =
      settings.kind === 'control' && settings.actions.length > 1
        ? withAction(settings, at, found)
        : found.is === 'variable'
          ? suited(retarget(settings, to), found.info, aspect)
          : retarget(settings, to)
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
      <SimulatorPicker
        forControl={settings.kind === 'control'}
        current={current}
        choose={choose}
        leave={close}
      />
    </>
  )
}

/** A further binding of a part, after those it has. */
export const addBinding = (part: PartRow, sentence: string, settings: BindingSettings): void =>
  edit(sentence, newBindings(useStore.getState().rig, [{ part, settings }]))

/** Further bindings, each behind those that its part has. */
export const newBindings = (
  rig: Rig,
  wanted: readonly { readonly part: PartRow; readonly settings: BindingSettings }[],
): Diff =>
  wanted.map(({ part, settings }, i) => {
    const before = wanted.slice(0, i).filter((w) => w.part.id === part.id).length
    const position = Math.max(0, ...bindingsOf(rig, part.id).map((b) => b.position)) + 1 + before
    return addRow('binding', { id: crypto.randomUUID(), partId: part.id, position, on: true, settings })
  })

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
const withAction = (settings: ControlSettings, at: number, found: FoundName): ControlSettings => {
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
