import type { EventInfo, VariableInfo } from '../rig/simulator-catalogue'
import { formatNumber } from '../signal/format'
import { convert, unitNamed } from '../signal/unit'

/** What was typed as a value, read; or what is wrong with it and what is allowed. */
export type TypedValue = { readonly value: number | string } | { readonly problem: string }

const bad = (problem: string): TypedValue => ({ problem })

const ON = /^(on|yes|true|1)$/i
const OFF = /^(off|no|false|0)$/i

/** A number with a unit behind it, if any; a true minus sign counts as one. */
const numberTyped = (typed: string, unit: string | null): TypedValue => {
  const read = /^([-−+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*(.*)$/i.exec(typed)
  if (!read) return bad(`“${typed}” is no number`)
  const value = Number((read[1] as string).replace('−', '-'))
  const words = (read[2] as string).trim()
  if (!Number.isFinite(value)) return bad(`“${typed}” is beyond what a number holds`)
  if (words === '' || words === unit) return { value }
  const from = unitNamed(words)
  if (!from) return bad(`“${words}” is no unit that is known here`)
  const to = unit === null ? undefined : unitNamed(unit)
  if (!to) return bad(`it has no unit, so ${words} means nothing here`)
  if (from.dimension !== to.dimension)
    return bad(`it is in ${to.symbol}, and ${from.symbol} cannot be made into that`)
  return { value: convert(value, from, to) }
}

/**
 * Reads what somebody typed as a value of a variable: a number with or without a unit, one of its words, on or off, or a
 * text as it stands. A value outside its range is refused with the range.
 */
export const typedValue = (info: VariableInfo, typed: string): TypedValue => {
  if (!info.writable) return bad('the simulator lets nobody write it')
  const text = typed.trim()
  if (info.type === 'text') return { value: typed }
  if (text === '') return bad('there is no value')
  if (info.type === 'boolean')
    return ON.test(text)
      ? { value: 1 }
      : OFF.test(text)
        ? { value: 0 }
        : bad(`it is on or off, and “${text}” is neither`)
  const choice = info.choices?.findIndex((c) => c.toLowerCase() === text.toLowerCase()) ?? -1
  if (choice >= 0) return { value: choice }
  const read = numberTyped(text, info.unit)
  if ('problem' in read || typeof read.value === 'string') {
    return 'problem' in read && info.choices ? bad(`it is one of ${info.choices.join(', ')}`) : read
  }
  const { value } = read
  if (info.choices && !(Number.isInteger(value) && value >= 0 && value < info.choices.length))
    return bad(`it is one of ${info.choices.join(', ')}, or their number from 0 on`)
  if (info.range && (value < info.range[0] || value > info.range[1])) {
    const [least, most] = info.range.map(formatNumber)
    const unit = info.unit ? ` ${info.unit}` : ''
    return bad(`it goes from ${least} to ${most}${unit}`)
  }
  return { value }
}

/** The same for the value that goes with an event; null for one that takes none. */
export const typedEventValue = (
  { value }: EventInfo,
  typed: string,
): TypedValue | { readonly value: null } => {
  if (value === null) return { value: null }
  return typedValue(
    {
      ...{ name: '', description: '', group: '', writable: true, range: null },
      type: value.type,
      unit: value.unit,
    },
    typed,
  )
}
