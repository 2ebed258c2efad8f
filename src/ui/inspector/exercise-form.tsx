'use client'
import { useState } from 'react'
import type { Exercise } from '@/core/engine/exercise'
import { EXERCISE_MS } from '@/core/engine/indicators'
import { sayToHub } from '../live/connection'
import { notify } from '../live/store'

/** Drives indicators by hand, or ends that. It ends by itself after a few seconds. */
export const exercise = (partIds: readonly string[], how: Exercise | null): void => {
  if (!sayToHub({ say: 'exercise', partIds, how }))
    notify('The hub is away, so nothing can be exercised just now.')
}

/** Tries an indicator: all it can light, its whole range, or a typed value. */
export const ExerciseForm = ({ partId, exercised }: { partId: string; exercised: boolean }) => {
  const [text, setText] = useState('')
  const number = Number(text.replace(',', '.'))
  const typed = text.trim() === '' ? null : Number.isFinite(number) ? number : text
  const show = () => typed !== null && exercise([partId], { as: 'value', value: typed })
  return (
    <div className="mt-3 flex flex-col gap-1.5">
      <div className="flex items-baseline justify-between">
        <span className="cap">Exercise</span>
        <span className="text-[11px] text-ink3">ends by itself after {EXERCISE_MS / 1000} s</span>
      </div>
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="btn"
          aria-pressed={exercised}
          onClick={() => exercise([partId], exercised ? null : { as: 'all' })}
        >
          {exercised ? 'End exercise' : 'All lit'} <span className="key">T</span>
        </button>
        <button type="button" className="btn" onClick={() => exercise([partId], { as: 'sweep' })}>
          Sweep
        </button>
        <input
          className="mono w-0 min-w-[52px] flex-1 text-[12px]"
          aria-label="Exercise with this value"
          placeholder="value"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && show()}
        />
        <button type="button" className="btn" disabled={typed === null} onClick={show}>
          Show
        </button>
      </div>
    </div>
  )
}
