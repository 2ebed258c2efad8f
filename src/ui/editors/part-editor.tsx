'use client'
import { useState } from 'react'
import { type Aspect, positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { followRenaming } from '@/core/rig/binding-change'
import { changeRow } from '@/core/rig/edit'
import type { PartRow } from '@/core/rig/rows'
import { aspectUi } from '../aspects/aspects'
import { MeasureLine } from '../calibrate/measure-line'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** A part's name, what its positions are called on the panel, and how it works. */
export const PartEditor = ({
  part,
  aspectId,
  close,
}: {
  part: PartRow
  aspectId: string
  close: () => void
}) => {
  const rig = useStore((s) => s.rig)
  const kind = partKind(part.kind)
  const aspect = kind ? positionsAspect(kind) : undefined
  const own: Aspect | undefined = kind?.aspects.find((a) => a.id === aspectId) ?? kind?.aspects[0]
  const Own = own && aspectUi(own).Own
  const named = aspect && !aspect.momentary ? aspect.positions.map((p) => p.id) : []
  const [name, setName] = useState(part.name)
  const [labels, setLabels] = useState<Record<string, string>>(part.settings.labels ?? {})
  const problem = name.trim() === '' ? 'A part needs a name.' : null
  const take = () => {
    if (problem) return
    const kept = Object.fromEntries(Object.entries(labels).filter(([, v]) => v.trim() !== ''))
    const settings = named.length > 0 ? { ...part.settings, labels: kept } : part.settings
    const to = name.trim()
    edit(`Renamed “${part.name}”${to === part.name ? '’s positions' : ` to “${to}”`}`, [
      changeRow('part', part, { ...part, name: to, settings }),
      ...followRenaming(rig, 'part', part.name, to),
    ])
    close()
  }
  const keyDown = (e: React.KeyboardEvent) => {
    if (e.key === 'Enter') take()
  }
  return (
    <div className="flex max-h-[62vh] w-[520px] flex-col gap-2 overflow-y-auto p-3">
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
      <div className="border-b border-hair pb-2">
        <button type="button" className="btn" disabled={problem !== null} onClick={take}>
          Take it <span className="key">Enter</span>
        </button>
      </div>
      {own && Own && <Own part={part} aspect={own as never} />}
      {own && <MeasureLine part={part} aspect={own} />}
    </div>
  )
}
