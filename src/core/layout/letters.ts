import { type Font, parse } from 'opentype.js'
import type { Contour } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import { contoursOf } from '../geometry/read-path-data'
import type { LegendFont } from '../rig/legend-fonts'
import type { Lettering } from './cut-drawing'
import { SPACING_MM } from './lettering'

interface Glyph {
  readonly contours: readonly Contour[]
  readonly advance: number
}

/** A font's glyphs in its own units, each worked out once. */
const glyphsOf = (font: Font): ((c: string) => Glyph) => {
  const known = new Map<string, Glyph>()
  return (c) => {
    let found = known.get(c)
    if (!found) {
      const shape = font.charToGlyph(c)
      const d = shape.getPath(0, 0, font.unitsPerEm).toPathData(3)
      const contours = d === '' ? [] : contoursOf(d).map((contour) => ({ ...contour, closed: true }))
      found = { contours, advance: shape.advanceWidth ?? font.unitsPerEm * 0.6 }
      known.set(c, found)
    }
    return found
  }
}

/** Letters from the fonts' own outlines (TrueType or OpenType, as bytes), set without kerning and a little apart. */
export const letteringFrom = (fonts: Readonly<Record<LegendFont, ArrayBuffer>>): Lettering => {
  const made = (bytes: ArrayBuffer) => {
    const font = parse(bytes)
    return { glyph: glyphsOf(font), unitsPerEm: font.unitsPerEm }
  }
  const faces = { plain: made(fonts.plain), bold: made(fonts.bold), mono: made(fonts.mono) }
  return {
    outlines: (text, sizeMm, font = 'plain') => {
      const { glyph, unitsPerEm } = faces[font]
      const scale = sizeMm / unitsPerEm
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
