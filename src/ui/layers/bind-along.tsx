'use client'
import { useState } from 'react'
import { isControl } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { freshSettings } from '@/core/engine/compile-binding'
import { retarget } from '@/core/rig/binding'
import { addRow } from '@/core/rig/edit'
import { bindingsOf, layersOf, panelsOf, partsOf } from '@/core/rig/rig'
import type { BindingRow, LayerSetRow, PartRow } from '@/core/rig/rows'
import { suited } from '@/core/rig/suited'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

/** Makes a binding for each layer of a set at once: one control, and a variable or event for each of its jobs. */
export const BindAlong = ({ set }: { set: LayerSetRow }) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const [open, setOpen] = useState(false)
  const [chosen, setChosen] = useState('')
  const [names, setNames] = useState<Readonly<Record<string, string>>>({})
  const layers = layersOf(rig, set.id)
  const listId = `targets-${set.id}`
  const controls = panelsOf(rig).flatMap((panel) =>
    partsOf(rig, panel.id).flatMap((part) =>
      (partKind(part.kind)?.aspects ?? [])
        .filter(isControl)
        .map((aspect) => ({ panel, part, aspect, key: `${part.id} ${aspect.id}` })),
    ),
  )
  const control = controls.find((c) => c.key === chosen)
  const objection = (name: string): string | null => {
    if (name === '' || index.event.has(name)) return null
    const info = index.catalogue.variables[index.variable.get(name) ?? -1]
    if (!info) return 'this craft has nothing of that name'
    return info.writable ? null : 'it can be read but not set'
  }
  const filled = layers.filter((l) => (names[l.id] ?? '') !== '')
  const sound = filled.length > 0 && filled.every((l) => objection(names[l.id] ?? '') === null)
  const make = (part: PartRow, aspectId: string) => {
    const fresh = freshSettings(rig, part.id, aspectId)
    if (!fresh) return
    const aspect = partKind(part.kind)?.aspects.find((a) => a.id === aspectId)
    let position = Math.max(0, ...bindingsOf(rig, part.id).map((b) => b.position))
    const rows = filled.map((layer): BindingRow => {
      const name = names[layer.id] ?? ''
      const info = index.catalogue.variables[index.variable.get(name) ?? -1]
      const bound = retarget(fresh, info ? { variable: name } : { event: name })
      const settings = { ...(info ? suited(bound, info, aspect) : bound), layer: layer.id }
      return { id: crypto.randomUUID(), partId: part.id, position: ++position, on: true, settings }
    })
    edit(
      `Bound “${part.name}” in ${rows.length} layers of “${set.name}”`,
      rows.map((row) => addRow('binding', row)),
    )
    setOpen(false)
    setNames({})
  }
  return (
    <div className="mt-1.5 text-[12px]">
      <button type="button" className="btn" aria-expanded={open} onClick={() => setOpen(!open)}>
        Bind a control along these layers …
      </button>
      {open && (
        <div className="mt-1.5 flex flex-col gap-1 border-l-2 border-line pl-2.5">
          <select
            aria-label={`Control for the layers of ${set.name}`}
            className="w-[300px]"
            value={chosen}
            onChange={(e) => setChosen(e.target.value)}
          >
            <option value="">which control?</option>
            {controls.map(({ key, panel, part, aspect }) => (
              <option key={key} value={key}>
                {panel.name} · {part.name}
                {(partKind(part.kind)?.aspects.length ?? 0) > 1 ? ` · ${aspect.id}` : ''}
              </option>
            ))}
          </select>
          <datalist id={listId}>
            {index.catalogue.variables
              .filter((v) => v.writable)
              .map((v) => (
                <option key={v.name} value={v.name}>
                  {v.description}
                </option>
              ))}
            {index.catalogue.events.map((e) => (
              <option key={`event ${e.name}`} value={e.name}>
                event · {e.description}
              </option>
            ))}
          </datalist>
          {layers.map((layer) => {
            const name = names[layer.id] ?? ''
            const why = objection(name)
            return (
              <label key={layer.id} className="grid grid-cols-[120px_280px_1fr] items-center gap-2">
                <span className="truncate">{layer.name}</span>
                <input
                  list={listId}
                  className="mono text-[12px]"
                  aria-label={`Variable or event in ${layer.name}`}
                  aria-invalid={why !== null}
                  placeholder="variable or event; empty for none"
                  value={name}
                  onChange={(e) => setNames({ ...names, [layer.id]: e.target.value.trim() })}
                />
                <span className="text-fault">{why}</span>
              </label>
            )
          })}
          <div className="pt-1">
            <button
              type="button"
              className="btn"
              data-strong="true"
              disabled={!control || !sound}
              onClick={() => control && make(control.part, control.aspect.id)}
            >
              {filled.length === 1 ? 'Make 1 binding' : `Make ${filled.length} bindings`}
            </button>
          </div>
        </div>
      )}
    </div>
  )
}
