import type { Reason } from '../left-out'

/** Something in a file that stands for nothing that could be drawn right. */
export class NotRead extends Error {
  constructor(
    readonly why: Reason,
    message: string = why,
  ) {
    super(message)
  }
}

/** A pixel is 1/96 inch (CSS Values, 6.2). */
export const PIXEL_MM = 25.4 / 96

const perPixel: Readonly<Record<string, number>> = {
  px: 1,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  q: 96 / 101.6,
  in: 96,
  pt: 96 / 72,
  pc: 16,
}

export interface Length {
  readonly value: number
  readonly unit: string
}

/** A number with its unit, '' for none; null where it is neither. */
export const lengthOf = (text: string | undefined): Length | null => {
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '')
  return m ? { value: Number(m[1]), unit: (m[2] ?? '').toLowerCase() } : null
}

/** What lengths are measured against where something lies. */
export interface Measures {
  /** Width and height of the frame it lies in, for hundredths. */
  readonly frame: { readonly width: number; readonly height: number }
  readonly fontSize: number
  /** Told when a length has a unit of its own: then the file does say what its numbers are. */
  readonly onUnit: () => void
}

export type Along = 'x' | 'y' | 'both'

/** A length in user units. Throws {@link NotRead} for one that depends on what is not in the file. */
export const unitsOf = (text: string | undefined, along: Along, m: Measures, otherwise = 0): number => {
  if (text === undefined || text === 'auto') return otherwise
  const length = lengthOf(text)
  if (length === null) throw new NotRead(/^\s*[a-z-]+\(/i.test(text) ? 'measure' : 'numbers')
  const { value, unit } = length
  if (unit === '') return value
  const pixels = perPixel[unit]
  if (pixels !== undefined) {
    if (unit !== 'px') m.onUnit()
    return value * pixels
  }
  const { width, height } = m.frame
  if (unit === '%')
    return (
      (value / 100) *
      (along === 'x' ? width : along === 'y' ? height : Math.hypot(width, height) / Math.SQRT2)
    )
  if (unit === 'em') return value * m.fontSize
  throw new NotRead('measure')
}

/** A length in millimetres where its unit says so by itself; null for pixels, hundredths and bare numbers. */
export const realMm = (text: string | undefined): number | null => {
  const length = lengthOf(text)
  if (length === null || length.unit === 'px') return null
  const pixels = perPixel[length.unit]
  return pixels === undefined ? null : length.value * pixels * PIXEL_MM
}
