import { parse } from 'opentype.js'
import type { Contour } from './contour'
import { placedAt, transformed } from './contour'
import type { Lettering } from './cut-drawing'
import { SPACING_MM } from './lettering'
import { contoursOf } from './read-path-data'

/** Letters from a font's own outlines (TrueType or OpenType, as bytes), set without kerning and a little apart. */
export const letteringFrom = (font: ArrayBuffer): Lettering => {
  const face = parse(font)
  const known = new Map<string, { contours: Contour[]; advance: number }>()
  const glyph = (c: string) => {
    let found = known.get(c)
    if (!found) {
      const shape = face.charToGlyph(c)
      const d = shape.getPath(0, 0, face.unitsPerEm).toPathData(3)
      const contours = d === '' ? [] : contoursOf(d).map((contour) => ({ ...contour, closed: true }))
      found = { contours, advance: shape.advanceWidth ?? face.unitsPerEm * 0.6 }
      known.set(c, found)
    }
    return found
  }
  return {
    outlines: (text, sizeMm) => {
      const scale = sizeMm / face.unitsPerEm
      const contours: Contour[] = []
      let x = 0
      for (const c of text) {
        const { contours: own, advance } = glyph(c)
        const there = { ...placedAt(x, 0), a: scale, d: scale }
        contours.push(...own.map((o) => transformed(o, there)))
        x += advance * scale + SPACING_MM
      }
      return { contours, widthMm: Math.max(0, x - SPACING_MM) }
    },
  }
}
