'use client'
import { useState } from 'react'
import { boundWords } from '@/core/rig/bound-words'
import { bindingsInForce, partsOfSets } from '@/core/rig/craft-sets'
import { panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { BindingRow, CraftSetRow } from '@/core/rig/rows'
import { select } from '../live/connection'
import { useStore } from '../live/store'

const wordsOf = (rig: Rig, b: BindingRow): string => {
  const name = boundWords(rig, b.settings)
  const when = b.settings.kind === 'control' ? `${b.settings.when} → ` : '← '
  return `${when}${name}${b.on ? '' : ' (off)'}`
}

/** What parts do under two sets, side by side; only those that may differ. */
export const CompareSets = ({ rig, sets }: { rig: Rig; sets: readonly CraftSetRow[] }) => {
  const [left, setLeft] = useState('')
  const [right, setRight] = useState(sets[0]?.id ?? '')
  const concerned = partsOfSets(rig)
  const parts = panelsOf(rig)
    .flatMap((p) => partsOf(rig, p.id))
    .filter((p) => concerned.has(p.id))
  const of = (partId: string, set: string) => bindingsInForce(rig, partId, set === '' ? null : set)
  const choice = (label: string, is: string, choose: (id: string) => void) => (
    <select aria-label={label} className="h-[24px] py-0" value={is} onChange={(e) => choose(e.target.value)}>
      <option value="">no set</option>
      {sets.map((s) => (
        <option key={s.id} value={s.id}>
          {s.name}
        </option>
      ))}
    </select>
  )
  return (
    <section aria-label="Two sets side by side" className="border-t-2 border-line pt-2">
      <div className="grid grid-cols-[180px_minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 pb-1">
        <h3 className="font-bold">Side by side</h3>
        {choice('On the left', left, setLeft)}
        {choice('On the right', right, setRight)}
      </div>
      {parts.length === 0 && <p className="text-ink2">No part does anything else under another set yet.</p>}
      {parts.map((p) => {
        const [a, b] = [of(p.id, left), of(p.id, right)]
        const same = a.map((x) => x.id).join() === b.map((x) => x.id).join()
        return (
          <div
            key={p.id}
            data-compared={p.id}
            className="grid grid-cols-[180px_minmax(0,1fr)_minmax(0,1fr)] gap-3 border-t border-hair py-0.5"
          >
            <button
              type="button"
              className="truncate text-left hover:text-accent"
              onClick={() => {
                select(p.id)
                useStore.setState({ craftSetsOpen: false })
              }}
            >
              {same ? '' : '≠ '}
              {p.name}
            </button>
            {[a, b].map((list, i) => (
              <span key={i} className={`mono ${same ? 'text-ink2' : ''}`}>
                {list.length === 0
                  ? '—'
                  : list.map((x) => (
                      <span key={x.id} className="block truncate" title={wordsOf(rig, x)}>
                        {wordsOf(rig, x)}
                      </span>
                    ))}
              </span>
            ))}
          </div>
        )
      })}
    </section>
  )
}
