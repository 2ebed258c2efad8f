import type { LegendFont } from '../rig/legend-fonts'
import type { Millimetres } from '../units-of-measure'

/** Widths in thousandths of the size of the characters 32 to 126 and 160 to 255, from the fonts' own tables. */
interface Widths {
  readonly latin: readonly number[]
  readonly more: readonly number[]
}

const b612: Widths = {
  latin: [
    350, 350, 400, 850, 550, 900, 700, 200, 450, 450, 550, 600, 250, 450, 300, 550, 650, 650, 650, 650, 650,
    650, 650, 650, 650, 650, 300, 250, 650, 500, 650, 550, 1000, 650, 650, 600, 650, 600, 550, 650, 700, 300,
    450, 600, 550, 900, 750, 800, 600, 800, 650, 550, 600, 700, 650, 950, 650, 600, 600, 450, 550, 500, 750,
    550, 550, 525, 600, 500, 600, 550, 400, 600, 600, 300, 300, 550, 350, 900, 600, 600, 600, 600, 400, 450,
    400, 600, 550, 750, 550, 550, 500, 649, 200, 600, 750,
  ],
  more: [
    350, 350, 500, 550, 600, 600, 200, 500, 550, 550, 400, 700, 850, 0, 550, 550, 300, 600, 300, 300, 550,
    650, 700, 250, 550, 300, 400, 700, 750, 750, 750, 550, 650, 650, 650, 650, 650, 650, 850, 650, 600, 600,
    600, 600, 300, 300, 300, 300, 650, 750, 800, 800, 800, 800, 800, 800, 800, 700, 700, 700, 700, 600, 650,
    650, 550, 550, 550, 550, 550, 550, 850, 521, 550, 550, 550, 550, 300, 300, 300, 300, 650, 600, 600, 600,
    600, 600, 600, 550, 600, 600, 600, 600, 600, 550, 600, 550,
  ],
}
const b612Bold: Widths = {
  latin: [
    350, 350, 400, 850, 550, 900, 700, 200, 450, 450, 550, 600, 250, 450, 300, 550, 650, 650, 650, 650, 650,
    650, 650, 650, 650, 650, 300, 250, 650, 500, 650, 550, 1000, 650, 650, 600, 650, 600, 550, 650, 700, 300,
    450, 600, 550, 900, 750, 800, 600, 800, 650, 550, 600, 700, 650, 950, 650, 600, 600, 450, 550, 500, 750,
    550, 550, 525, 600, 500, 600, 550, 400, 600, 600, 300, 300, 550, 350, 900, 600, 600, 600, 600, 400, 450,
    400, 600, 550, 750, 550, 550, 500, 649, 200, 600, 750,
  ],
  more: [
    350, 350, 500, 550, 600, 600, 200, 500, 550, 550, 400, 700, 850, 0, 550, 550, 300, 600, 300, 300, 550,
    650, 700, 250, 550, 300, 400, 700, 750, 750, 750, 550, 650, 650, 650, 650, 650, 650, 850, 650, 600, 600,
    600, 600, 300, 300, 300, 300, 650, 750, 800, 800, 800, 800, 800, 800, 800, 700, 700, 700, 700, 600, 650,
    650, 550, 550, 550, 550, 550, 550, 850, 521, 550, 550, 550, 550, 300, 300, 300, 300, 650, 600, 600, 600,
    600, 600, 600, 550, 600, 600, 600, 600, 600, 550, 600, 550,
  ],
}
const OTHER = 600

/** Height of capitals as a share of the size. */
const capHeights: Record<LegendFont, number> = { plain: 0.76, bold: 0.7635, mono: 0.698 }
export const capHeight = (font: LegendFont = 'plain'): number => capHeights[font]

/** Room between characters as engraved, in millimetres. */
export const SPACING_MM: Millimetres = 0.25

const widthOf = ({ latin, more }: Widths, code: number): number =>
  (code >= 160 ? more[code - 160] : latin[code - 32]) ?? OTHER

/** How wide a legend is, set with the spacing used for engraving. */
export const textWidth = (text: string, sizeMm: Millimetres, font: LegendFont = 'plain'): Millimetres => {
  let width = 0
  for (const c of text) {
    const share = font === 'mono' ? OTHER : widthOf(font === 'bold' ? b612Bold : b612, c.charCodeAt(0))
    width += (share / 1000) * sizeMm + SPACING_MM
  }
  return Math.max(0, width - SPACING_MM)
}
