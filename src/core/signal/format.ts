/** A number with as many decimals as help at a glance; a true minus sign; never scientific. */
export const formatNumber = (value: number): string => {
  if (!Number.isFinite(value)) return '–'
  const size = Math.abs(value)
  const decimals =
    size >= 1000 || Number.isInteger(value) ? 0 : size >= 100 ? 1 : size >= 10 ? 1 : size >= 1 ? 2 : 3
  const text = value.toFixed(decimals)
  const trimmed = Number(text) === 0 ? text.replace('-', '') : text
  return trimmed.replace('-', '−')
}

/** A variable's value as people read it: with its unit, its choice's word, or in words. Absent is a dash. */
export const formatValue = (
  value: number | string | null,
  shape: { type: 'number' | 'boolean' | 'text'; unit?: string | null; choices?: readonly string[] },
): string => {
  if (value === null) return '–'
  if (typeof value === 'string') return `“${value}”`
  if (shape.type === 'boolean') return value !== 0 ? 'on' : 'off'
  const choice = shape.choices?.[value]
  if (choice !== undefined) return choice
  if (shape.unit === 'ratio') return Number.isFinite(value) ? value.toFixed(2).replace('-', '−') : '–'
  // Channels lie 5 kHz apart: fewer places would show two of them as one.
  if (shape.unit === 'MHz' && Number.isFinite(value)) return `${value.toFixed(3)} MHz`
  const number = formatNumber(value)
  return shape.unit ? `${number} ${shape.unit}` : number
}

/** Values of one variable in a row, with what stands between them; what they are all of is said once, behind the last. */
export const formatValues = (
  values: readonly number[],
  shape: Parameters<typeof formatValue>[1],
  between: string,
): string => {
  const unit = shape.unit ? ` ${shape.unit}` : ''
  return values
    .map((v, i) => {
      const words = formatValue(v, shape)
      const isMeasure = shape.choices?.[v] === undefined && words.endsWith(unit)
      return isMeasure && i < values.length - 1 ? words.slice(0, words.length - unit.length) : words
    })
    .join(between)
}
