import { useEffect, useState } from 'react'

/** A colour to be chosen; taken when the choice is closed, so that a hand that tries colours makes one edit. */
export const ColourField = ({
  label,
  value,
  none,
  take,
}: {
  label: string
  value: string | null
  /** What is shown while there is none, where there may be none. */
  none?: string
  take: (colour: string | null) => void
}) => {
  const [now, setNow] = useState(value ?? '#8b989d')
  useEffect(() => setNow(value ?? '#8b989d'), [value])
  const settle = () => {
    if (value !== null && now !== value) take(now)
  }
  return (
    <span className="flex items-center gap-1.5">
      {none !== undefined && (
        <input
          type="checkbox"
          aria-label={`${label}: filled`}
          checked={value !== null}
          onChange={(e) => take(e.target.checked ? now : null)}
        />
      )}
      {value === null ? (
        <span className="text-ink2">{none}</span>
      ) : (
        <>
          <input
            type="color"
            aria-label={label}
            className="h-6 w-9 p-0"
            value={now}
            onChange={(e) => setNow(e.target.value)}
            onBlur={settle}
            onKeyDown={(e) => e.key === 'Enter' && settle()}
          />
          <span className="mono w-[60px] text-[12px] text-ink2">{now}</span>
        </>
      )}
    </span>
  )
}
