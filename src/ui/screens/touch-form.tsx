'use client'
import { type TouchKind, type TouchSettings, touchKinds } from '@/core/elements/touch'
import { removedWithPart } from '@/core/layout/arrange'
import { touchedPart } from '@/core/layout/things'
import { apply, changeRow, type Diff } from '@/core/rig/edit'
import { bindingsOf, type Rig } from '@/core/rig/rig'
import type { ElementRow } from '@/core/rig/rows'
import { addingTouch } from '@/core/screens/touch'
import { select } from '../live/connection'
import { edit } from '../live/edits'
import { newIdentity } from '../live/simulate'
import { notify, useStore } from '../live/store'

const words: Readonly<Record<TouchKind, string>> = {
  button: 'a button',
  slider: 'a slider',
  knob: 'a knob that turns without end',
}

/** An element for fingers becomes a control of the rig, or another one than before. */
export const becoming = (rig: Rig, row: ElementRow, is: TouchKind): Diff | null => {
  const screen = rig.screen[row.screenId]
  const before = touchedPart(rig, row)
  if (!screen) return null
  const gone = before ? removedWithPart(rig, before) : []
  const made = addingTouch(apply(rig, gone), screen, is, row.name, () => crypto.randomUUID(), newIdentity)
  if ('problem' in made) {
    notify(made.problem)
    return null
  }
  const settings = { ...row.settings, is, part: made.part.id } as ElementRow['settings']
  const change = changeRow('element', row, { ...row, settings })
  return [...gone, ...made.diff, ...(change ? [change] : [])]
}

/** What an element for fingers is, and the way to what it does. */
export const TouchForm = ({ rig, row, settings }: { rig: Rig; row: ElementRow; settings: TouchSettings }) => {
  const part = touchedPart(rig, row)
  const bound = part ? bindingsOf(rig, part.id).length : 0
  const become = (is: TouchKind) => {
    const diff = becoming(rig, row, is)
    if (diff) edit(`“${row.name}” is ${words[is]}`, diff)
  }
  return (
    <section aria-label="Control" className="flex flex-col gap-1.5 border-t border-line pt-1.5 text-[12px]">
      <label className="flex items-center gap-1.5">
        <span className="text-ink2">is</span>
        <select
          aria-label="What it is"
          className="flex-1"
          value={settings.is}
          onChange={(e) => become(e.target.value as TouchKind)}
        >
          {touchKinds.map((k) => (
            <option key={k} value={k}>
              {words[k]}
            </option>
          ))}
        </select>
      </label>
      {part ? (
        <button
          type="button"
          className="btn self-start"
          title="Its paths lie at the bottom, as those of any part"
          onClick={() => {
            select(part.id)
            useStore.setState({ opening: { partId: part.id, station: 'simulator' } })
          }}
        >
          {bound === 0 ? 'Bind it' : 'What it does'} <span className="key">V</span>
        </button>
      ) : (
        <>
          <p className="text-ink2">It is no control of the rig yet: a finger on it does nothing.</p>
          <button type="button" className="btn self-start" onClick={() => become(settings.is)}>
            Make it a control
          </button>
        </>
      )}
    </section>
  )
}
