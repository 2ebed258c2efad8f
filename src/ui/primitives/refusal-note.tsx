import { autoUpdate, flip, shift, useFloating } from '@floating-ui/react-dom'
import { useCallback } from 'react'

const INSIDE = { padding: 8 }

/** Why something typed was not taken and what would do: right below where it was typed, or where the window has room. */
export const RefusalNote = ({ id, words }: { id?: string; words: string }) => {
  const { refs, floatingStyles } = useFloating({
    placement: 'bottom-start',
    strategy: 'fixed',
    middleware: [flip(INSIDE), shift(INSIDE)],
    whileElementsMounted: autoUpdate,
  })
  const stand = useCallback(
    (note: HTMLElement | null) => {
      refs.setFloating(note)
      refs.setReference(note?.parentElement ?? null)
    },
    [refs],
  )
  return (
    <span
      ref={stand}
      id={id}
      role="alert"
      style={floatingStyles}
      className="z-[60] w-max max-w-[min(480px,calc(100vw-16px))] whitespace-normal border border-warn bg-raised px-1.5 py-0.5 text-[11px] text-ink"
    >
      {words}
    </span>
  )
}
