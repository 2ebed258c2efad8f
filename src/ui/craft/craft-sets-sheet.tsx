'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { isBound } from '@/core/rig/binding'
import { type CraftChoice, craftSetsOf, isMeant, removeCraftSet } from '@/core/rig/craft-sets'
import { addRow, changeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { type Rig, rowsOf } from '@/core/rig/rig'
import type { BindingRow, CraftSetRow, PartRow } from '@/core/rig/rows'
import { TextField } from '../editors/text-field'
import { sayToHub, select } from '../live/connection'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { Segments } from '../primitives/segments'
import { Sheet } from '../primitives/sheet'
import { huntedAspect } from '../scope/make-path'
import { useScope } from '../scope/scope-store'
import { CompareSets } from './compare-sets'
import { CopyInto } from './copy-into'

/** Which bindings hold for which craft: sets, what chooses them, and one beside another. */
export const CraftSetsSheet = () => {
  const open = useStore((s) => s.craftSetsOpen)
  return (
    <Sheet
      title="Craft sets"
      titleShown
      className="w-[min(980px,calc(100vw-40px))] max-h-[82vh] overflow-y-auto p-4"
      open={open}
      setOpen={(craftSetsOpen) => useStore.setState({ craftSetsOpen })}
    >
      {open && <Sets />}
    </Sheet>
  )
}

const Sets = () => {
  const rig = useStore((s) => s.rig)
  const sets = craftSetsOf(rig)
  return (
    <div className="text-[12px]">
      <div className="mb-2 flex items-start gap-4">
        <p className="text-ink2">
          One panel serves several craft: a binding holds for every craft, or only while a set is flown. Which
          set that is follows from what the sources say that they fly; or it is chosen by hand.
        </p>
        <button type="button" className="btn shrink-0" onClick={() => addSet(rig)}>
          New craft set
        </button>
      </div>
      {sets.length > 0 && <Holds sets={sets} />}
      {sets.map((s) => (
        <SetForm key={s.id} set={s} rig={rig} />
      ))}
      {sets.length === 0 && (
        <p className="border-t border-line py-3 text-[13px] text-ink2">
          There is none yet: all bindings hold for every craft.
        </p>
      )}
      {sets.length > 0 && <CompareSets rig={rig} sets={sets} />}
    </div>
  )
}

const addSet = (rig: Rig): void => {
  const sets = craftSetsOf(rig)
  const flown = useStore.getState().status?.craftSet.crafts ?? []
  // What is flown and nobody means yet is most likely what the set is for.
  const fresh = flown.find((c) => !sets.some((s) => s.settings.patterns.some((p) => isMeant(p, c))))
  const names = new Set(sets.map((s) => s.name))
  const row: CraftSetRow = {
    id: crypto.randomUUID(),
    name: fresh && sets.length > 0 && !names.has(fresh) ? fresh : numbered('Craft', names),
    position: Math.max(0, ...sets.map((s) => s.position)) + 1,
    settings: { patterns: fresh && sets.length > 0 ? [fresh] : [], replaces: true },
  }
  edit(`Added the craft set ${row.name}`, [addRow('craftSet', row)])
}

const choiceText = (choice: CraftChoice): string => (typeof choice === 'string' ? choice : choice.set)

/** Which set holds, and why. */
const Holds = ({ sets }: { sets: readonly CraftSetRow[] }) => {
  const now = useStore((s) => s.status?.craftSet)
  if (!now) return null
  const holds = sets.find((s) => s.id === now.holds)
  const choose = (value: string) => {
    const choice: CraftChoice = value === 'by craft' || value === 'none' ? value : { set: value }
    if (!sayToHub({ say: 'craft set', choice })) notify('The hub is away, so nothing is chosen just now.')
  }
  return (
    <p className="mb-2 flex flex-wrap items-center gap-2 border border-line px-2 py-1.5">
      <Mark shape={holds ? 'ok' : 'none'} words="holds now" />
      <b className="text-[15px]">{holds ? holds.name : 'What is for every craft'}</b>
      <span className="text-ink2">
        holds now; {now.crafts.length === 0 ? 'nobody says what is flown' : `flown: ${now.crafts.join(', ')}`}
      </span>
      <label className="ml-auto flex items-center gap-1.5">
        <span className="text-ink2">chosen</span>
        <select
          aria-label="How the set is chosen"
          className="h-[24px] py-0"
          value={choiceText(now.choice)}
          onChange={(e) => choose(e.target.value)}
        >
          <option value="by craft">by what is flown</option>
          <option value="none">by hand: none</option>
          {sets.map((s) => (
            <option key={s.id} value={s.id}>
              by hand: {s.name}
            </option>
          ))}
        </select>
      </label>
    </p>
  )
}

const SetForm = ({ set, rig }: { set: CraftSetRow; rig: Rig }) => {
  const [copying, setCopying] = useState(false)
  const holds = useStore((s) => s.status?.craftSet.holds === set.id)
  const others = craftSetsOf(rig).filter((s) => s.id !== set.id)
  const mine = rowsOf(rig, 'binding').filter((b) => b.settings.craftSet === set.id)
  const put = (sentence: string, more: Partial<CraftSetRow['settings']>) =>
    edit(`${set.name} ${sentence}`, [
      changeRow('craftSet', set, { ...set, settings: { ...set.settings, ...more } }),
    ])
  return (
    <section aria-label={`Craft set ${set.name}`} className="mb-3 border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-2">
        {holds && <Mark shape="ok" words="holds now" />}
        <TextField
          label="Name of the craft set"
          width={150}
          value={set.name}
          objection={(t) =>
            t.trim() === ''
              ? 'a name is needed'
              : others.some((s) => s.name === t.trim())
                ? 'another set has this name'
                : null
          }
          take={(name) =>
            edit(`Called a craft set ${name.trim()}`, [
              changeRow('craftSet', set, { ...set, name: name.trim() }),
            ])
          }
        />
        <span className="text-ink2">for</span>
        <TextField
          label={`Crafts of ${set.name}`}
          width={230}
          placeholder="Torsk R4, Skerry *"
          value={set.settings.patterns.join(', ')}
          take={(t) =>
            put(`is for ${t.trim() || 'no craft'}`, {
              patterns: t
                .split(',')
                .map((p) => p.trim().slice(0, 120))
                .filter((p) => p !== ''),
            })
          }
        />
        <Segments
          label={`How ${set.name} stands to what is for every craft`}
          words={{ replaces: 'in place of the others, part by part', adds: 'beside the others' }}
          is={set.settings.replaces ? 'replaces' : 'adds'}
          choose={(is) => put(is === 'replaces' ? 'replaces' : 'adds', { replaces: is === 'replaces' })}
        />
        <span className="text-ink2">
          {mine.length} {mine.length === 1 ? 'binding' : 'bindings'}
        </span>
        <span className="ml-auto flex gap-1.5">
          <button type="button" className="btn" aria-expanded={copying} onClick={() => setCopying(!copying)}>
            Copy into it …
          </button>
          <button
            type="button"
            className="btn"
            onClick={() =>
              edit(`Removed the craft set ${set.name} with ${mine.length} bindings`, removeCraftSet(rig, set))
            }
          >
            Remove
          </button>
        </span>
      </div>
      <OpenInSet rig={rig} mine={mine} />
      {copying && <CopyInto set={set} rig={rig} close={() => setCopying(false)} />}
    </section>
  )
}

/** What of a set has no target yet: found by a hunt where it is a control, else chosen. */
const OpenInSet = ({ rig, mine }: { rig: Rig; mine: readonly BindingRow[] }) => {
  const router = useRouter()
  const open = mine.filter((b) => !isBound(b.settings))
  if (open.length === 0) return null
  const parts = [...new Set(open.map((b) => b.partId))].flatMap((id) => rig.part[id] ?? [])
  const hunt = (part: PartRow) => {
    useStore.setState({ craftSetsOpen: false })
    // The hunt is for whatever is selected when it begins.
    select(part.id)
    useScope.setState({ mode: 'hunt' })
    router.push('/scope')
  }
  const chooseFor = (part: PartRow) => {
    useStore.setState({ craftSetsOpen: false, opening: { partId: part.id, station: 'simulator' } })
    select(part.id)
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5 pt-1.5">
      <Mark shape="warn" words="open" />
      <span className="text-ink2">
        {open.length === 1 ? 'One binding waits' : `${open.length} bindings wait`} for a name:
      </span>
      {parts.map((part) => {
        const isHunted = huntedAspect(part) !== null
        return (
          <button
            key={part.id}
            type="button"
            className="btn h-[21px]"
            title={
              isHunted
                ? `Operate it in the craft, and Clavik finds what it moves`
                : 'What only shows something is given its name by hand'
            }
            onClick={() => (isHunted ? hunt(part) : chooseFor(part))}
          >
            {part.name} · {isHunted ? 'hunt' : 'choose'}
          </button>
        )
      })}
    </div>
  )
}
