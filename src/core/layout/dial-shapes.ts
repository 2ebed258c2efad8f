import type { BandColour, NeedleFace } from '../aspects/face'
import type { Box } from '../geometry/boxes'
import { type Point, point } from '../geometry/contour'
import { capHeight, textWidth } from '../lettering/lettering'
import type { NeedlePoint } from '../signal/needle'
import type { Degrees, Millimetres } from '../units-of-measure'

/** What a needle of a gauge shows: its points, how it goes between them, and how its scale is to look. */
export interface Scale {
  readonly points: readonly NeedlePoint[]
  readonly smooth?: boolean | undefined
  readonly face?: NeedleFace | undefined
}

export interface DialTick {
  readonly value: number
  readonly from: Point
  readonly to: Point
  readonly major: boolean
}

/** Words on a dial: the middle of their base line, and the room they take. */
export interface DialWords {
  readonly text: string
  readonly at: Point
  readonly sizeMm: Millimetres
  readonly box: Box
}

export interface DialNumber extends DialWords {
  readonly value: number
}

/** A stretch along a scale in a colour; one without length is a line across the scale. */
export interface DialBand {
  readonly colour: BandColour
  readonly inner: Millimetres
  readonly outer: Millimetres
  readonly from: Degrees
  readonly to: Degrees
}

/** A dial's face, in millimetres round its middle. */
export interface DialFace {
  readonly ticks: readonly DialTick[]
  readonly numbers: readonly DialNumber[]
  /** The line along each scale: its radius and the angles of its ends. */
  readonly arcs: readonly { readonly radius: Millimetres; readonly from: Degrees; readonly to: Degrees }[]
  readonly bands: readonly DialBand[]
  readonly captions: readonly DialWords[]
  readonly ground: 'dark' | 'light'
  /** What of its design cannot be, each in a sentence with the way out. */
  readonly problems: readonly string[]
}

/** As shares of the dial's radius: where the outer scale lies, and how long its long marks are. */
export const OUTER = 0.94
export const MAJOR = 0.12
/** Free room between ticks and numbers, and between numbers, as a share of their size. */
export const AROUND = 0.3
/** Within this the needle's shaft turns. */
export const SHAFT = 0.14
/** Beyond a scale's line: where its bands begin and end; and how far they keep from what lies outside. */
export const BAND = [0.012, 0.052] as const
export const onDial = (deg: Degrees, radius: Millimetres): Point => {
  const a = (deg * Math.PI) / 180
  return point(radius * Math.sin(a), -radius * Math.cos(a))
}

/** Words round a place. */
export const wordsAt = (text: string, x: Millimetres, y: Millimetres, sizeMm: Millimetres): DialWords => {
  const [w, h] = [textWidth(text, sizeMm), capHeight() * sizeMm]
  return {
    ...{ text, sizeMm, at: point(x, y + h / 2) },
    box: { minX: x - w / 2, maxX: x + w / 2, minY: y - h / 2, maxY: y + h / 2 },
  }
}

export const meets = (a: Box, b: Box, room: Millimetres): boolean =>
  a.minX < b.maxX + room && b.minX < a.maxX + room && a.minY < b.maxY + room && b.minY < a.maxY + room

/** How near to the middle a box comes. */
export const nearest = ({ minX, minY, maxX, maxY }: Box): Millimetres =>
  Math.hypot(Math.max(minX, -maxX, 0), Math.max(minY, -maxY, 0))

/** How far from the middle a box reaches. */
export const farthest = ({ minX, minY, maxX, maxY }: Box): Millimetres =>
  Math.hypot(Math.max(-minX, maxX), Math.max(-minY, maxY))
