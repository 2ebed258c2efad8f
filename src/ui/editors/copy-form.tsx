'use client'
import { useState } from 'react'
import { partKind } from '@/core/catalogue/parts'
import { fitsAspect } from '@/core/rig/binding'
import { forOtherDirection, namesIn, turnedRound, unknownName, withNames } from '@/core/rig/binding-change'
import { byLikeness } from '@/core/rig/binding-findings'
import { panelsOf, partsOf } from '@/core/rig/rig'
import { useStore } from '../live/store'
import type { BindingEditorProps } from './change-binding'
import { type NamePattern, NamePatternFields } from './name-pattern'
import { addBinding } from './target-editor'

/** Copies a binding to the other direction or to another part, with sign and target changed in the same step. */
export const CopyForm = ({ part, binding, close }: BindingEditorProps) => {
  const rig = useStore((s) => s.rig)
  const { catalogue } = useStore((s) => s.catalogue)
  const [open, setOpen] = useState(false)
  const [to, setTo] = useState('')
  const [turned, setTurned] = useState(false)
  const [pattern, setPattern] = useState<NamePattern>({ from: '', to: '' })
  const { settings } = binding
  const otherWay = forOtherDirection(rig, part.id, settings, catalogue)
  // What can take it first comes first: parts of its kind that have nothing yet.
  const fitting = byLikeness(
    rig,
    part,
    panelsOf(rig).flatMap((p) => partsOf(rig, p.id)),
  ).filter((p) => partKind(p.kind)?.aspects.some((a) => fitsAspect(settings, a)))
  const copied = withNames(turned ? turnedRound(settings, catalogue) : settings, pattern.from, pattern.to)
  const names = namesIn(copied)
  const missing = unknownName(copied, catalogue)
  const target = rig.part[to]
  const copy = () => {
    if (!target) return
    const kind = partKind(target.kind)
    // The other part may call its aspects otherwise; the first that fits is meant then.
    const { aspect, ...rest } = copied
    const keeps = aspect !== undefined && kind?.aspects.some((a) => a.id === aspect)
    addBinding(
      target,
      `Copied a binding of “${part.name}” to “${target.name}”`,
      keeps ? copied : (rest as typeof copied),
    )
    close()
  }
  return (
    <div className="flex flex-col gap-1.5 border-t border-hair pt-2 text-[12px]">
      <div className="flex items-center gap-2">
        {otherWay && (
          <button
            type="button"
            className="btn"
            onClick={() => {
              addBinding(part, `Copied a binding of “${part.name}” to the other direction`, otherWay)
              close()
            }}
          >
            Copy to the other direction
          </button>
        )}
        <button type="button" className="btn" aria-expanded={open} onClick={() => setOpen(!open)}>
          Copy to another part …
        </button>
      </div>
      {open && (
        <div className="flex flex-col gap-1.5">
          <div className="flex flex-wrap items-center gap-2">
            <select aria-label="Copy to" value={to} onChange={(e) => setTo(e.target.value)}>
              <option value="">to which part?</option>
              {fitting.map((p) => (
                <option key={p.id} value={p.id}>
                  {rig.panel[p.panelId]?.name} · {p.name}
                </option>
              ))}
            </select>
            {settings.kind === 'control' && (
              <label className="flex items-center gap-1.5">
                <input type="checkbox" checked={turned} onChange={(e) => setTurned(e.target.checked)} />
                the other way round
              </label>
            )}
            <NamePatternFields pattern={pattern} change={setPattern} />
          </div>
          <div className={missing ? 'text-fault' : 'text-ink2'}>
            {missing
              ? `This craft has no “${missing}”.`
              : `It acts on ${names.join(', ') || 'what its lines say'}.`}
          </div>
          <div>
            <button type="button" className="btn" disabled={!target || missing !== null} onClick={copy}>
              Copy
            </button>
          </div>
        </div>
      )}
    </div>
  )
}
