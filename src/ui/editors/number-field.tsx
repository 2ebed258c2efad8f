'use client'
import { useEffect, useId, useState } from 'react'
import { formatNumber } from '@/core/signal/format'
import { RefusalNote } from '../primitives/refusal-note'

/**
 * A number to be typed; taken with Enter or on leaving. One that cannot be taken stays as it was typed, with the reason
 * and what would do, until it is mended or Escape puts the old one back.
 */
export const NumberField = ({
  label,
  name,
  unit,
  narrow = false,
  value,
  least,
  most,
  take,
  none,
}: {
  label: string
  /** What it is called where no word stands before it. */
  name?: string
  unit: string
  /** Where several stand in a row. */
  narrow?: boolean
  value: number | undefined
  least: number
  most: number
  take: (value: number) => void
  /** What stands there while there is no number, and what leaves it without one. */
  none?: { readonly shown: string; readonly clear: () => void }
}) => {
  const told = value === undefined ? '' : String(value)
  const [text, setText] = useState(told)
  const [refused, setRefused] = useState(false)
  const id = useId()
  useEffect(() => {
    setText(told)
    setRefused(false)
  }, [told])
  const bare = text.replace(',', '.').replace(unit, '').trim()
  const number = Number(bare)
  const empty = bare === '' && none !== undefined
  const sound = empty || (bare !== '' && Number.isFinite(number) && number >= least && number <= most)
  const settle = () => {
    setRefused(!sound)
    if (!sound) return
    if (empty) {
      if (value !== undefined) none.clear()
    } else if (number !== value) take(number)
  }
  const allowed = `${formatNumber(least)} to ${formatNumber(most)}${unit ? ` ${unit}` : ''}`
  const why = bare === '' || !Number.isFinite(number) ? 'Not a number' : `${bare} is outside`
  return (
    <label className="relative flex items-center gap-1.5 whitespace-nowrap text-[12px]">
      {label && <span className="text-ink2">{label}</span>}
      <input
        className={`mono text-right text-[12px] ${narrow ? 'w-[52px] px-1' : 'w-[68px]'}`}
        aria-label={name}
        aria-invalid={!sound}
        inputMode="decimal"
        value={text}
        aria-describedby={refused ? id : undefined}
        placeholder={none?.shown}
        onChange={(e) => {
          setText(e.target.value)
          setRefused(false)
        }}
        onBlur={settle}
        onKeyDown={(e) => {
          if (e.key === 'Enter') settle()
          if (e.key !== 'Escape' || text === told) return
          // What was typed goes, not the form that it was typed in.
          e.stopPropagation()
          setText(told)
          setRefused(false)
        }}
      />
      {unit && <span className="text-ink2">{unit}</span>}
      {refused && <RefusalNote id={id} words={`${why}: ${allowed} will do.`} />}
    </label>
  )
}
