'use client'
import { useId, useMemo, useState } from 'react'
import { inputType, scopeFor, wantedOfControl } from '@/core/engine/compile-binding'
import type { BindingRow } from '@/core/rig/rows'
import { type Mistake, mistakeIn, type Wanted } from '@/core/signal/expression/compile'
import { useStore } from '../live/store'

/** An expression to be typed: the mistake and its place while typing; taken with Enter when there is none. */
export const ExpressionField = ({
  binding,
  use,
  value,
  emptyMeans,
  take,
}: {
  binding: BindingRow
  use: 'shaping' | 'onlyWhile'
  value: string
  /** What an empty field stands for, or null when it may not be empty. */
  emptyMeans: string | null
  take: (text: string | null) => void
}) => {
  const rig = useStore((s) => s.rig)
  const index = useStore((s) => s.catalogue)
  const [text, setText] = useState(value)
  const helpId = useId()
  const mistake = useMemo<Mistake | null>(() => {
    if (text.trim() === '' && emptyMeans !== null) return null
    const input = use === 'shaping' ? inputType(rig, binding, index) : undefined
    const wanted: Wanted =
      use === 'onlyWhile'
        ? { as: 'condition' }
        : binding.settings.kind === 'lamp'
          ? { as: 'lamp' }
          : wantedOfControl(binding.settings, index)
    return mistakeIn(text, scopeFor(rig, index, input), wanted)
  }, [text, rig, index, binding, use, emptyMeans])
  const changed = text !== value
  const ready = mistake === null && changed

  return (
    <div className="flex flex-col gap-1.5">
      <input
        // biome-ignore lint/a11y/noAutofocus: the popover was opened to type here
        autoFocus
        className="mono w-full text-[12.5px]"
        aria-label={use === 'shaping' ? 'Shaping' : 'Only while'}
        aria-invalid={mistake !== null}
        aria-describedby={helpId}
        spellCheck={false}
        value={text}
        placeholder={emptyMeans ?? ''}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && ready) take(text.trim() === '' ? null : text)
        }}
      />
      <div id={helpId} aria-live="polite" className="min-h-[34px] text-[12px]">
        {mistake ? (
          <>
            <div className="mono whitespace-pre text-fault" aria-hidden="true">
              {' '.repeat(1 + Math.min(60, mistake.span.start))}
              {'^'.repeat(Math.max(1, Math.min(60, mistake.span.end - mistake.span.start)))}
            </div>
            <div className="text-fault">{mistake.message}</div>
          </>
        ) : (
          <div className="flex items-center gap-2 text-ink2">
            <button
              type="button"
              className="btn"
              disabled={!ready}
              onClick={() => take(text.trim() === '' ? null : text)}
            >
              Take it <span className="key">Enter</span>
            </button>
            {changed ? 'It holds together.' : 'This is how it is now.'}
          </div>
        )}
      </div>
    </div>
  )
}
