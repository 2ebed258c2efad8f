'use client'
import { useMemo, useState } from 'react'
import { CopyPlan, meanings } from '@/core/rig/copy-plan'
import { craftSetsOf, isMeant } from '@/core/rig/craft-sets'
import { panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { CraftSetRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** Begins a set, or goes on with it, by copying what another has, with names that are proposed. */
export const CopyInto = ({ set, rig, close }: { set: CraftSetRow; rig: Rig; close: () => void }) => {
  const catalogue = useStore((s) => s.catalogue)
  const sources = useStore((s) => s.sources)
  const [from, setFrom] = useState('')
  const [panel, setPanel] = useState(panelsOf(rig)[0]?.id ?? '')
  const [to, setTo] = useState(
    () =>
      // What the set is for is where its names are from, if it is there.
      (sources.find((s) => set.settings.patterns.some((p) => isMeant(p, s.craft))) ?? sources.at(-1))?.id ??
      '',
  )
  const [chosen, setChosen] = useState<ReadonlyMap<string, string>>(new Map())
  const plan = useMemo(
    () =>
      new CopyPlan(
        rig,
        from === '' ? null : from,
        partsOf(rig, panel).map((p) => p.id),
        catalogue,
        sources.find((s) => s.id === to),
      ),
    [rig, from, panel, catalogue, sources, to],
  )
  const { copied, open, lacks } = plan.outcome(chosen)
  const copy = () => {
    const diff = plan.changes(set, chosen, () => crypto.randomUUID())
    edit(`Copied ${diff.length} bindings for ${set.name}`, diff)
    close()
  }
  return (
    <div className="mt-2 border-2 border-accent p-2">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <span className="text-ink2">what is</span>
        <select
          aria-label="Copied from"
          className="h-[24px] py-0"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        >
          <option value="">for every craft</option>
          {craftSetsOf(rig)
            .filter((s) => s.id !== set.id)
            .map((s) => (
              <option key={s.id} value={s.id}>
                for {s.name}
              </option>
            ))}
        </select>
        <span className="text-ink2">on</span>
        <select
          aria-label="Panel to copy"
          className="h-[24px] py-0"
          value={panel}
          onChange={(e) => setPanel(e.target.value)}
        >
          {panelsOf(rig).map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
        <span className="text-ink2">with names of</span>
        <select
          aria-label="Source of the new names"
          className="h-[24px] py-0"
          value={to}
          onChange={(e) => setTo(e.target.value)}
        >
          {sources.map((s) => (
            <option key={s.id} value={s.id}>
              {s.craft || s.name}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn ml-auto"
          data-strong="true"
          disabled={copied === 0}
          onClick={copy}
        >
          Copy {copied} of {plan.bindings.length}
        </button>
      </div>
      <ul aria-label="Names for the new craft" className="max-h-[232px] overflow-y-auto">
        {plan.names.map((name) => {
          const offer = plan.offers.get(name)
          const meant = plan.meant(name, chosen)
          const likely = offer?.likely ?? []
          const rest = (offer?.all ?? []).filter((n) => !likely.some((l) => l.name === n))
          return (
            <li
              key={name}
              className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 border-t border-hair py-0.5"
            >
              <span className="mono truncate">{name}</span>
              <select
                aria-label={`Name for ${name}`}
                className={`mono h-[24px] py-0 ${lacks.includes(name) ? 'text-warn' : ''}`}
                value={meant}
                onChange={(e) => setChosen(new Map(chosen).set(name, e.target.value))}
              >
                {offer?.isTarget && <option value={meanings.later}>lacks it: to be found later</option>}
                <option value={meanings.left}>lacks it: leave its bindings out</option>
                {!offer?.needed && <option value={meanings.without}>lacks it: without that condition</option>}
                <option value={meanings.stays}>stays {name}</option>
                {likely.map((l) => (
                  <option key={l.name} value={l.name}>
                    {l.name} · {Math.round(l.likeness * 100)} % alike
                  </option>
                ))}
                {rest.map((n) => (
                  <option key={n} value={n}>
                    {n}
                  </option>
                ))}
              </select>
            </li>
          )
        })}
      </ul>
      {lacks.length > 0 && (
        <p className="border-t border-line pt-1 text-warn">
          {lacks.length === 1 ? 'One name has' : `${lacks.length} names have`} nothing like it there.{' '}
          {open > 0 &&
            `${open === 1 ? 'One copy waits' : `${open} copies wait`} for what a hunt finds, or for a name that you choose.`}
        </p>
      )}
    </div>
  )
}
