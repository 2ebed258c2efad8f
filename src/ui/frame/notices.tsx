'use client'
import { X } from 'lucide-react'
import { dismiss, useStore } from '../live/store'

/** What went wrong or was done, for a while, above the strip. */
export const Notices = () => {
  const notices = useStore((s) => s.notices)
  return (
    <div
      aria-live="polite"
      className="pointer-events-none fixed right-3 bottom-[44px] z-30 flex w-[420px] flex-col gap-1.5"
    >
      {notices.map((n) => (
        <div
          key={n.id}
          className={`pointer-events-auto flex items-start gap-2 border bg-raised px-3 py-1.5 text-[12.5px] ${n.tone === 'fault' ? 'border-fault' : 'border-line'}`}
        >
          <span className="flex-1">{n.text}</span>
          {n.offer && (
            <button
              type="button"
              className="btn shrink-0"
              onClick={() => {
                dismiss(n.id)
                n.offer?.act()
              }}
            >
              {n.offer.words}
            </button>
          )}
          <button
            type="button"
            aria-label="Put this away"
            className="pt-0.5 text-ink2 hover:text-ink"
            onClick={() => dismiss(n.id)}
          >
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  )
}
