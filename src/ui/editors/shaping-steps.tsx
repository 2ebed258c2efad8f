'use client'
import { ArrowDown, X } from 'lucide-react'
import { useId } from 'react'
import { rowsOf } from '@/core/rig/rig'
import { mistakeIn } from '@/core/signal/expression/compile'
import { expressionOf, freshStep, type ShapingStep, shapingOf } from '@/core/signal/shaping'
import { useStore } from '../live/store'
import type { ExpressionPlace } from './expression-scope'
import { ShapingStepFields, stepWords } from './shaping-step-fields'
import { TextField } from './text-field'

/** Shaping as simple steps from top to bottom: the same thing as the expression, set by hand. */
export const ShapingSteps = ({
  source,
  place,
  free = false,
  take,
}: {
  source: string
  place: ExpressionPlace
  /** Whether what goes in can be chosen here, rather than being the binding's own input. */
  free?: boolean
  take: (source: string) => void
}) => {
  const index = useStore((s) => s.catalogue)
  const listId = useId()
  const shaping = shapingOf(source === '' ? 'input' : source)
  if (!shaping)
    return (
      <p className="text-[12px] text-ink2">
        Written out by hand below; it is more than a chain of simple steps.
      </p>
    )
  const { base, steps } = shaping
  const put = (next: readonly ShapingStep[]) => take(expressionOf({ base, steps: next }))
  const sound = (text: string): string | null => mistakeIn(text, place.scope, { as: 'any' })?.message ?? null
  return (
    <ol className="flex flex-col" aria-label="Simple steps">
      <li className="flex h-7 items-center gap-2 text-[12px]">
        <span className="w-[13px]" />
        {free ? (
          <>
            <TextField
              label="What goes in"
              width={210}
              value={base}
              list={listId}
              objection={sound}
              take={(name) => take(expressionOf({ base: name, steps }))}
            />
            <datalist id={listId}>
              {index.catalogue.variables.map((v) => (
                <option key={v.name} value={v.name}>
                  {v.description}
                </option>
              ))}
            </datalist>
          </>
        ) : (
          <span className="mono">{base}</span>
        )}
        <span className="text-ink2">goes in</span>
      </li>
      {steps.map((step, i) => (
        <li
          key={i}
          data-step={step.step}
          className="flex min-h-8 flex-wrap items-center gap-2 border-t border-hair py-0.5 text-[12px]"
        >
          <ArrowDown size={13} className="shrink-0 text-ink3" aria-hidden="true" />
          <span className="w-[104px] shrink-0">{stepWords[step.step]}</span>
          <ShapingStepFields step={step} sound={sound} put={(next) => put(steps.with(i, next))} />
          <button
            type="button"
            className="ml-auto p-1 text-ink3 hover:text-ink"
            aria-label={`Remove the step “${stepWords[step.step]}”`}
            onClick={() => put(steps.filter((_, k) => k !== i))}
          >
            <X size={13} />
          </button>
        </li>
      ))}
      <li className="border-t border-hair pt-1.5">
        <select
          aria-label="Add a step"
          value=""
          onChange={(e) =>
            e.target.value && put([...steps, startingStep(e.target.value as ShapingStep['step'])])
          }
        >
          <option value="">Add a step …</option>
          {Object.entries(stepWords).map(([id, word]) => (
            <option key={id} value={id}>
              {word}
            </option>
          ))}
        </select>
      </li>
    </ol>
  )
}

/** A curve step needs one of the rig's curves; every other kind has something sensible to begin with. */
const startingStep = (kind: ShapingStep['step']): ShapingStep => {
  const step = freshStep(kind)
  if (step.step !== 'curve') return step
  const [first] = rowsOf(useStore.getState().rig, 'curve')
  return first ? { ...step, name: first.name } : freshStep('scale')
}
