import { formatNumber } from '../signal/format'
import type { BusSignal } from './database'

/** What a signal stands at, in words: with its unit, or with the word for its value. */
export const signalWords = (s: BusSignal, value: number | null): string => {
  if (value === null) return 'no number'
  const word = s.choices?.find(([n]) => n === value)?.[1]
  const number = formatNumber(Number(value.toPrecision(7)))
  return word === undefined ? `${number}${s.unit ? ` ${s.unit}` : ''}` : `${number} ${word}`
}
