'use client'
import { X } from 'lucide-react'

/** The small cross at the end of a line in a form. */
export const RemoveLine = ({ label = 'Remove this line', take }: { label?: string; take: () => void }) => (
  <button type="button" className="p-1 text-ink3 hover:text-ink" aria-label={label} onClick={take}>
    <X size={12} />
  </button>
)
