import type { ReactNode } from 'react'

/** What is odd, below everything else of a sheet: so what comes and goes here moves nothing under the hand. */
export const SheetFoot = ({
  fault,
  odd,
}: {
  fault?: string | null | undefined
  odd: readonly string[]
}): ReactNode =>
  fault || odd.length > 0 ? (
    <div className="max-h-[96px] shrink-0 overflow-y-auto border-t border-line pt-1 text-[12px]">
      {fault && <p className="text-fault">{fault}</p>}
      {odd.map((o) => (
        <p key={o} className="text-warn">
          {o}
        </p>
      ))}
    </div>
  ) : null
