'use client'
import { useEffect, useState } from 'react'

/** A number to be typed; taken with Enter or on leaving, put back when it is none or beyond its limits. */
export const NumberField = ({
  label,
  name,
  unit,
  narrow = false,
  value,
  least,
  most,
  take,
}: {
  label: string
  /** What it is called where no word stands before it. */
  name?: string
  unit: string
  /** Where several stand in a row. */
  narrow?: boolean
  value: number
  least: number
  most: number
  take: (value: number) => void
}) => {
  const [text, setText] = useState(String(value))
  useEffect(() => setText(String(value)), [value])
  const number = Number(text.replace(',', '.').replace(unit, '').trim())
  const sound = text.trim() !== '' && Number.isFinite(number) && number >= least && number <= most
  const settle = () => {
    if (!sound) setText(String(value))
    else if (number !== value) take(number)
  }
  return (
    <label className="flex items-center gap-1.5 whitespace-nowrap text-[12px]">
      {label && <span className="text-ink2">{label}</span>}
      <input
        className={`mono text-right text-[12px] ${narrow ? 'w-[52px] px-1' : 'w-[68px]'}`}
        aria-label={name}
        aria-invalid={!sound}
        inputMode="decimal"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={settle}
        onKeyDown={(e) => e.key === 'Enter' && settle()}
      />
      {unit && <span className="text-ink2">{unit}</span>}
    </label>
  )
}
