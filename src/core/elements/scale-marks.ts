/** A mark of a straight scale: its value, whether it is a long one, and what stands at it. */
export interface ScaleMark {
  readonly value: number
  readonly long: boolean
  readonly words: string | null
}

const MOST_MARKS = 500

/** Decimals with which a step and all its multiples can be told apart. */
const decimalsOf = (step: number): number => {
  for (let d = 0; d < 6; d++) if (Math.abs(step * 10 ** d - Math.round(step * 10 ** d)) < 1e-9) return d
  return 6
}

export const markWords = (value: number, step: number): string => {
  const text = value.toFixed(decimalsOf(step))
  return (Number(text) === 0 ? text.replace('-', '') : text).replace('-', '−')
}

/**
 * Marks at the multiples of `every` from `least` to `most`; long and with their number at those of `labelled`. None where a
 * step is 0 or where there would be more than can be told apart.
 */
export const scaleMarks = (least: number, most: number, every: number, labelled: number): ScaleMark[] => {
  const step = every > 0 ? every : labelled
  if (!(step > 0) || !(most > least) || (most - least) / step > MOST_MARKS) return []
  const first = Math.ceil(least / step - 1e-9)
  const last = Math.floor(most / step + 1e-9)
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => {
    const value = Number(((first + i) * step).toPrecision(12))
    const long = labelled > 0 && Math.abs(value / labelled - Math.round(value / labelled)) < 1e-6
    return { value, long, words: long ? markWords(value, labelled) : null }
  })
}
