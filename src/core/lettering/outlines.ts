import { type Font, parse } from 'opentype.js'
import type { Contour } from '../geometry/contour'
import { placedAt, transformed } from '../geometry/matrix'
import { contoursOf } from '../geometry/read-path-data'
import type { LegendFont } from '../rig/legend-fonts'
import type { Millimetres } from '../units-of-measure'
import type { OutlineFace } from './face-names'
import { runsOf, SPACING_MM } from './lettering'
import { strokesOf } from './single-line'

/** Letters as curves, so that no font is needed where the drawing goes. */
export interface Lettering {
  /** The curves of a text whose base line begins at the origin. */
  readonly outlines: (
    text: string,
    sizeMm: Millimetres,
    font?: LegendFont,
  ) => { contours: readonly Contour[]; widthMm: Millimetres }
}

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

interface Face {
  readonly glyph: (c: string) => Glyph
  readonly unitsPerEm: number
}

/**
 * Letters from the fonts' own outlines (TrueType or OpenType, as bytes), set without kerning and a little apart. A font
 * is asked for when a letter of it is first needed.
 */
export const letteringFrom = (bytesOf: (face: OutlineFace) => ArrayBuffer): Lettering => {
  const known = new Map<OutlineFace, Face>()
  const faceOf = (name: OutlineFace): Face => {
    let face = known.get(name)
    if (!face) {
      const font = parse(bytesOf(name))
      face = { glyph: glyphsOf(font), unitsPerEm: font.unitsPerEm }
      known.set(name, face)
    }
    return face
  }
  return {
    outlines: (text, sizeMm, font = 'plain') => {
      if (font === 'single') return strokesOf(text, sizeMm, SPACING_MM)
      const contours: Contour[] = []
      let x = 0
      for (const run of runsOf(text, font)) {
        const { glyph, unitsPerEm } = faceOf(run.face)
        const scale = (sizeMm * run.scale) / unitsPerEm
        for (const c of run.text) {
          const { contours: own, advance } = glyph(c)
          const there = { ...placedAt(x, 0), a: scale, d: scale }
          contours.push(...own.map((o) => transformed(o, there)))
          x += advance * scale + SPACING_MM
        }
      }
      return { contours, widthMm: Math.max(0, x - SPACING_MM) }
    },
  }
}
