'use client'
import { useState } from 'react'
import type { BindingSettings } from '@/core/rig/binding'
import { turnedRound, unknownName, withNames, withStep, withUnit } from '@/core/rig/binding-change'
import { changeRow, sameValue } from '@/core/rig/edit'
import type { BindingRow } from '@/core/rig/rows'
import type { SimulatorCatalogue } from '@/core/rig/simulator-catalogue'
import { units } from '@/core/signal/unit'
import { type NamePattern, NamePatternFields } from '../editors/name-pattern'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

type Way = 'step' | 'unit' | 'names'

const wayWords: Record<Way, string> = { step: 'Step size', unit: 'Unit', names: 'Names' }

/** What would become of the marked bindings: those that would change, and the first name the craft does not have. */
const preview = (
  marked: readonly BindingRow[],
  change: (s: BindingSettings) => BindingSettings | null,
  catalogue: SimulatorCatalogue,
): { changed: [BindingRow, BindingSettings][]; missing: string | null } => {
  const changed: [BindingRow, BindingSettings][] = []
  let missing: string | null = null
  for (const row of marked) {
    const next = change(row.settings)
    if (next === null || sameValue(next, row.settings)) continue
    changed.push([row, next])
    missing ??= unknownName(next, catalogue)
  }
  return { changed, missing }
}

/** Changes all marked bindings at once: on and off, sign, step, unit, names by pattern. */
export const ManyEdit = ({ marked }: { marked: readonly BindingRow[] }) => {
  const { catalogue } = useStore((s) => s.catalogue)
  const [way, setWay] = useState<Way>('names')
  const [by, setBy] = useState('1')
  const [unit, setUnit] = useState('ft')
  const [pattern, setPattern] = useState<NamePattern>({ from: '', to: '' })
  const size = Number(by.replace(',', '.'))
  const ways: Record<Way, (s: BindingSettings) => BindingSettings | null> = {
    step: (s) => (Number.isFinite(size) ? withStep(s, size) : null),
    unit: (s) => withUnit(s, unit),
    names: (s) => withNames(s, pattern.from, pattern.to),
  }
  const { changed, missing } = preview(marked, ways[way], catalogue)
  const counted = (n: number) => (n === 1 ? 'a binding' : `${n} bindings`)
  const turn = (on: boolean) =>
    edit(
      `Turned ${counted(marked.length)} ${on ? 'on' : 'off'}`,
      marked.map((b) => changeRow('binding', b, { ...b, on })),
    )
  const put = (sentence: string, list: readonly (readonly [BindingRow, BindingSettings])[]) =>
    edit(
      sentence,
      list.map(([b, settings]) => changeRow('binding', b, { ...b, settings })),
    )
  const flip = preview(marked, (s) => turnedRound(s, catalogue), catalogue).changed
  return (
    <div className="flex h-11 items-center gap-2 border-b border-line bg-raised px-3 text-[12px]">
      <b className="whitespace-nowrap">{marked.length} marked</b>
      <button type="button" className="btn" disabled={marked.every((b) => b.on)} onClick={() => turn(true)}>
        Turn on
      </button>
      <button type="button" className="btn" disabled={marked.every((b) => !b.on)} onClick={() => turn(false)}>
        Turn off
      </button>
      <button
        type="button"
        className="btn"
        title="Steps get the other sign, events their opposite"
        disabled={flip.length === 0}
        onClick={() => put(`Turned ${counted(flip.length)} round`, flip)}
      >
        Turn round
      </button>
      <span className="mx-1 h-5 border-l border-line" />
      <select aria-label="What to change" value={way} onChange={(e) => setWay(e.target.value as Way)}>
        {Object.entries(wayWords).map(([id, word]) => (
          <option key={id} value={id}>
            {word}
          </option>
        ))}
      </select>
      {way === 'step' && (
        <input
          aria-label="New step size"
          className="mono w-[72px]"
          value={by}
          onChange={(e) => setBy(e.target.value)}
        />
      )}
      {way === 'unit' && (
        <select aria-label="New unit" value={unit} onChange={(e) => setUnit(e.target.value)}>
          {units.map((u) => (
            <option key={u.symbol}>{u.symbol}</option>
          ))}
        </select>
      )}
      {way === 'names' && <NamePatternFields pattern={pattern} change={setPattern} />}
      <button
        type="button"
        className="btn"
        disabled={changed.length === 0 || missing !== null}
        onClick={() =>
          put(`Changed the ${wayWords[way].toLowerCase()} of ${counted(changed.length)}`, changed)
        }
      >
        Change
      </button>
      <span className={`min-w-0 truncate ${missing ? 'text-fault' : 'text-ink2'}`} role="status">
        {missing ? `This craft has no “${missing}”.` : `${changed.length} of ${marked.length} would change`}
      </span>
    </div>
  )
}
