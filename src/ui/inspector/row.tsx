import type { ReactNode } from 'react'

/** One figure of what is selected: what it is, and its value or the choice of it. */
export const Row = ({ term, children }: { term: string; children: ReactNode }) => (
  <>
    <dt className="flex h-[26px] min-w-0 items-center border-t border-hair pr-2 text-ink2">
      <span className="truncate" title={term}>
        {term}
      </span>
    </dt>
    <dd className="m-0 flex h-[26px] min-w-0 items-center justify-end border-t border-hair text-right">
      {children}
    </dd>
  </>
)
