export interface DigitFormat {
  readonly decimals: number
  readonly leading: 'blanks' | 'zeros'
  readonly sign: 'minus' | 'never'
}

/** What seven segments show when a number is too large or too small for them: their upper or lower bars. */
const TOO_LARGE = '¯'
const TOO_SMALL = '_'

/** What a window of so many digits shows of a value; a point takes no digit of its own. Absent is dashes. */
export const digitsText = (value: number | string | null, format: DigitFormat, width: number): string => {
  if (typeof value === 'string') return fitted(value, width)
  if (value === null || !Number.isFinite(value)) return '-'.repeat(width)
  const rounded = Number(Math.abs(value).toFixed(format.decimals))
  const negative = value < 0 && rounded !== 0 && format.sign === 'minus'
  const body = rounded.toFixed(format.decimals)
  const sign = negative ? '-' : ''
  const used = body.length - (format.decimals > 0 ? 1 : 0) + sign.length
  if (used > width || body.includes('e')) return (value < 0 ? TOO_SMALL : TOO_LARGE).repeat(width)
  const missing = width - used
  return format.leading === 'zeros' ? sign + '0'.repeat(missing) + body : ' '.repeat(missing) + sign + body
}

/** Left part of a text, filled up to the width; points take no digit. */
const fitted = (text: string, width: number): string => {
  let digits = 0
  let out = ''
  for (const c of text) {
    if (c !== '.' || out === '' || out.endsWith('.')) digits++
    if (digits > width) return out
    out += c
  }
  return out + ' '.repeat(width - digits)
}

/** Whether a state shows that its value does not fit: bars in the place of every digit. */
export const overflows = (state: string): boolean => /^.(¯+|_+)$/.test(state)

/** A digit window's state as it travels: brightness as one hexadecimal digit, then what is shown. */
export const digitsState = (shown: string, brightness: number): string =>
  Math.round(Math.min(1, Math.max(0, brightness)) * 15).toString(16) + shown

export const blankDigits = (width: number): string => `0${' '.repeat(width)}`

/** Every segment lit. */
export const allSegments = (width: number): string => `f${'8.'.repeat(width)}`

/** A state taken apart again: each digit with whether its point is lit, and the brightness from 0 to 1. */
export const readDigits = (
  state: string,
): { brightness: number; digits: { glyph: string; point: boolean }[] } => {
  const digits: { glyph: string; point: boolean }[] = []
  for (const c of state.slice(1)) {
    const last = digits.at(-1)
    if (c === '.' && last && !last.point) last.point = true
    else digits.push({ glyph: c === '.' ? ' ' : c, point: c === '.' })
  }
  return { brightness: Number.parseInt(state[0] ?? '0', 16) / 15, digits }
}
