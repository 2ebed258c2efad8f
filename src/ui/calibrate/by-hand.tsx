import type { KeyboardEvent, ReactNode, Ref } from 'react'

/** What the arrow keys move by: a step to the sides, far up and down. */
export interface HandSteps {
  readonly step: number
  readonly far: number
}

/**
 * What the builder is to do by hand and eye, readable from two metres, where keys move what is measured: arrows nudge it, Enter
 * takes it. Without steps only what is inside can be clicked.
 */
export const ByHand = ({
  ref,
  label,
  says,
  hint,
  objection = null,
  steps,
  nudge,
  take,
  children,
}: {
  ref: Ref<HTMLDivElement>
  label: string
  says: string
  hint: string
  objection?: string | null
  steps: HandSteps | null
  nudge: (by: number) => void
  take: () => void
  children: ReactNode
}) => {
  const keyDown = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget || steps === null) return
    const { step, far } = steps
    const by = { ArrowRight: step, ArrowLeft: -step, ArrowUp: far, ArrowDown: -far }[e.key]
    if (e.key === 'Enter') take()
    else if (by !== undefined) nudge(by)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <div
      ref={ref}
      role="application"
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: its keys move what is measured
      tabIndex={0}
      className="min-h-[118px]"
      onKeyDown={keyDown}
    >
      <p role="status" className="text-[30px] leading-9 font-bold">
        {says}
      </p>
      <p className="mt-0.5 text-[15px] leading-5 text-ink2">{hint}</p>
      {objection !== null && (
        <p role="alert" className="mt-1 text-[15px] leading-5 text-warn">
          <span aria-hidden="true">◇ </span>
          {objection}
        </p>
      )}
      <p className="mt-2 flex flex-wrap items-center gap-1.5">{children}</p>
    </div>
  )
}

/** One of the answers, nudges or takings within it. */
export const HandButton = ({
  take,
  strong = false,
  disabled = false,
  pressed,
  children,
}: {
  take: () => void
  strong?: boolean
  disabled?: boolean
  pressed?: boolean
  children: ReactNode
}) => (
  <button
    type="button"
    className="btn h-[30px] px-3 text-[14px]"
    data-strong={strong ? 'true' : undefined}
    aria-pressed={pressed}
    disabled={disabled}
    onClick={take}
  >
    {children}
  </button>
)
