import type { ReactNode } from 'react'

/** A figure that was measured, under what it is. */
export const Figure = ({ word, children }: { word: string; children: ReactNode }) => (
  <div className="mb-2">
    <dt className="text-[12px] text-ink2">{word}</dt>
    <dd className="mono text-[16px] leading-5">{children}</dd>
  </div>
)
