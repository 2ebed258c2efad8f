import { z } from 'zod'
import { finite } from '../aspects/binding-fields'
import { onCircle } from '../geometry/arcs'
import { point } from '../geometry/contour'
import type { Degrees } from '../units-of-measure'
import { colour, type ElementKind, heldSettings, lettering, live, nothingFollowed } from './element-kind'

const strokePx = finite.min(0.5).max(400)

const lineSettings = z.strictObject({
  kind: z.literal('line'),
  ...heldSettings,
  widthPx: strokePx,
  /** Dashes and gaps of so many dots; 0 for an unbroken line. */
  dashPx: finite.min(0).max(400),
  /** From the bottom left to the top right of its box, rather than from the top left down. */
  rises: z.boolean(),
  colour,
})
export type LineSettings = z.infer<typeof lineSettings>

export const line: ElementKind<typeof lineSettings> = {
  kind: 'line',
  word: 'Line',
  says: 'a straight line',
  settings: lineSettings,
  live: () => [],
  fresh: () => ({
    width: 160,
    height: 0,
    settings: { ...nothingFollowed, kind: 'line', widthPx: 2, dashPx: 0, rises: false, colour: '#8b989d' },
  }),
  range: () => [0, 1],
}

const arcSettings = z.strictObject({
  kind: z.literal('arc'),
  ...heldSettings,
  fromDeg: finite.min(-720).max(720),
  toDeg: finite.min(-720).max(720),
  widthPx: strokePx,
  roundEnds: z.boolean(),
  colour,
})
export type ArcSettings = z.infer<typeof arcSettings>

export const arc: ElementKind<typeof arcSettings> = {
  kind: 'arc',
  word: 'Arc',
  says: 'a piece of a circle, whose ends may follow values',
  settings: arcSettings,
  live: () => [live('to'), live('from')],
  fresh: () => ({
    width: 120,
    height: 120,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'arc', fromDeg: -120, toDeg: 120, widthPx: 6, roundEnds: false, colour: '#7fd1a8' },
    },
  }),
  range: (s) => [s.fromDeg, s.toDeg],
}

/** A piece of an ellipse in a box, from one angle to another, clockwise from straight up; at most a whole turn. */
export const arcPath = (
  { width, height, widthPx }: { width: number; height: number; widthPx: number },
  fromDeg: Degrees,
  toDeg: Degrees,
): string => {
  const rx = Math.max(0, width / 2 - widthPx / 2)
  const ry = Math.max(0, height / 2 - widthPx / 2)
  const middle = point(width / 2, height / 2)
  const at = (deg: Degrees) => {
    const p = onCircle(point(0, 0), 1, ((deg - 90) * Math.PI) / 180)
    return `${(middle.x + p.x * rx).toFixed(2)} ${(middle.y + p.y * ry).toFixed(2)}`
  }
  const sweep = Math.min(360, Math.max(-360, toDeg - fromDeg))
  if (sweep === 0) return ''
  // In thirds, so that a whole turn is drawn and none is ambiguous.
  const thirds = [1, 2, 3].map(
    (i) => `A${rx.toFixed(2)} ${ry.toFixed(2)} 0 0 ${sweep > 0 ? 1 : 0} ${at(fromDeg + (sweep * i) / 3)}`,
  )
  return `M${at(fromDeg)}${thirds.join('')}`
}

const frameSettings = z.strictObject({
  kind: z.literal('frame'),
  ...heldSettings,
  /** 0 for none. */
  widthPx: finite.min(0).max(400),
  cornerPx: finite.min(0).max(2000),
  colour,
  fill: colour.nullable(),
})
export type FrameSettings = z.infer<typeof frameSettings>

export const frame: ElementKind<typeof frameSettings> = {
  kind: 'frame',
  word: 'Frame',
  says: 'a rectangle, drawn round or filled',
  settings: frameSettings,
  live: () => [],
  fresh: () => ({
    width: 160,
    height: 100,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'frame', widthPx: 1.5, cornerPx: 0, colour: '#4a565c', fill: null },
    },
  }),
  range: () => [0, 1],
}

const wordsSettings = z.strictObject({
  kind: z.literal('words'),
  ...heldSettings,
  ...lettering,
  text: z.string().max(400),
  colour,
})
export type WordsSettings = z.infer<typeof wordsSettings>

export const words: ElementKind<typeof wordsSettings> = {
  kind: 'words',
  word: 'Words',
  says: 'fixed words',
  settings: wordsSettings,
  live: () => [live('text')],
  fresh: () => ({
    width: 120,
    height: 22,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'words', text: 'WORDS', colour: '#a3afb3' },
      ...{ sizePx: 15, align: 'start', face: 'words', bold: false },
    },
  }),
  range: () => [0, 1],
}

const pictureSettings = z.strictObject({
  kind: z.literal('picture'),
  ...heldSettings,
  /** The picture of its screen, by its id; null until one is chosen. */
  picture: z.string().max(80).nullable(),
  /** Fills its box however that is shaped, or keeps its own shape within. */
  stretches: z.boolean(),
  colour,
})
export type PictureSettings = z.infer<typeof pictureSettings>

export const picture: ElementKind<typeof pictureSettings> = {
  kind: 'picture',
  word: 'Picture',
  says: 'an SVG or PNG picture',
  settings: pictureSettings,
  live: () => [],
  fresh: () => ({
    width: 120,
    height: 120,
    settings: { ...nothingFollowed, kind: 'picture', picture: null, stretches: false, colour: '#a3afb3' },
  }),
  range: () => [0, 1],
}
