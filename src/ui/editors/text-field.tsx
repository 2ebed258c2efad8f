'use client'
import { useEffect, useState } from 'react'

/** A short text to be typed; taken with Enter or on leaving, put back where it will not do. */
export const TextField = ({
  label,
  value,
  width = 92,
  placeholder = '',
  list,
  objection = () => null,
  take,
}: {
  label: string
  value: string
  width?: number
  placeholder?: string
  /** The id of a list of texts to offer. */
  list?: string
  /** Why a text will not do, or null. */
  objection?: (text: string) => string | null
  take: (text: string) => void
}) => {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const problem = text === value ? null : objection(text)
  const settle = () => {
    if (problem !== null) setText(value)
    else if (text !== value) take(text)
  }
  return (
    <input
      className="mono text-[12px]"
      style={{ width }}
      aria-label={label}
      aria-invalid={problem !== null}
      title={problem ?? label}
      placeholder={placeholder}
      list={list}
      spellCheck={false}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={settle}
      onKeyDown={(e) => e.key === 'Enter' && settle()}
    />
  )
}
