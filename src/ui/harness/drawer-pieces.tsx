'use client'
import { TextField } from '../editors/text-field'

/** The head of a part of the drawer. */
export const heading = 'flex items-baseline gap-2 border-t border-line px-3 pt-2 pb-1'

/** A name to be typed; it may not be empty. */
export const NameField = ({
  label,
  width,
  value,
  take,
}: {
  label: string
  width: number
  value: string
  take: (name: string) => void
}) => (
  <TextField
    label={label}
    width={width}
    value={value}
    take={take}
    objection={(t) => (t.trim() === '' ? 'a name is needed' : null)}
  />
)

/** Current against what may flow: everyday use and the worst case, in words and as a bar. */
export const LoadBar = ({
  words,
  typical,
  most,
  limit,
}: {
  words: string
  typical: number
  most: number
  limit: number
}) => {
  const over = most > limit
  const share = (x: number) => `${Math.min(100, (x / Math.max(1, limit)) * 100)}%`
  return (
    <span title={words}>
      <span className={`mono ${over ? 'font-bold text-fault' : ''}`}>
        {Math.round(typical)} … {Math.round(most)} of {limit} mA{over && ' – too much'}
      </span>
      <span className="relative mt-0.5 block h-[5px] border border-line">
        <span
          className={`absolute inset-y-0 left-0 ${over ? 'bg-fault' : 'bg-ink3'}`}
          style={{ width: share(most) }}
        />
        <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: share(typical) }} />
      </span>
    </span>
  )
}
