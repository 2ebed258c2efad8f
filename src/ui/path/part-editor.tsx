'use client'
import { useState } from 'react'
import { positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { changeRow } from '@/core/rig/edit'
import type { PartRow } from '@/core/rig/rows'
import { edit } from '../live/edits'

/** A part's name, and what its positions are called on the panel. */
export const PartEditor = ({ part, close }: { part: PartRow; close: () => void }) => {
  const kind = partKind(part.kind)
  const aspect = kind ? positionsAspect(kind) : undefined
  const named = aspect && !aspect.momentary ? aspect.positions.map((p) => p.id) : []
  const [name, setName] = useState(part.name)
  const [labels, setLabels] = useState<Record<string, string>>(part.settings.labels ?? {})
  const problem = name.trim() === '' ? 'A part needs a name.' : null
  const take = () => {
    if (problem) return
    const kept = Object.fromEntries(Object.entries(labels).filter(([, v]) => v.trim() !== ''))
    const settings = named.length > 0 ? { ...part.settings, labels: kept } : part.settings
    edit(`Renamed “${part.name}”${name.trim() === part.name ? '’s positions' : ` to “${name.trim()}”`}`, [
      changeRow('part', part, { ...part, name: name.trim(), settings }),
    ])
    close()
  }
  const keyDown = (e: React.KeyboardEvent) => {
    if (e.key === 'Enter') take()
  }
  return (
    <div className="flex w-[300px] flex-col gap-2 p-3">
      <label className="grid grid-cols-[90px_1fr] items-center gap-2">
        <span className="text-ink2">Name</span>
        {/* biome-ignore lint/a11y/noAutofocus: the popover was opened to type here */}
        <input autoFocus value={name} onChange={(e) => setName(e.target.value)} onKeyDown={keyDown} />
      </label>
      {named.map((id) => (
        <label key={id} className="grid grid-cols-[90px_1fr] items-center gap-2">
          <span className="text-ink2">{id} is called</span>
          <input
            value={labels[id] ?? ''}
            placeholder={id}
            onChange={(e) => setLabels({ ...labels, [id]: e.target.value })}
            onKeyDown={keyDown}
          />
        </label>
      ))}
      {problem && <p className="text-[12px] text-fault">{problem}</p>}
      <div>
        <button type="button" className="btn" disabled={problem !== null} onClick={take}>
          Take it <span className="key">Enter</span>
        </button>
      </div>
    </div>
  )
}
