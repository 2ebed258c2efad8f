import type { BandColour } from '../aspects/face'
import { arc, type Contour, type Point, point, polygon } from '../geometry/contour'
import type { Degrees, Millimetres } from '../units-of-measure'
import { type DialFace, onDial } from './dial-shapes'

/** As shares of the dial's radius. */
const LONG_MARK = 0.025
const SHORT_MARK = 0.012
const ARC = 0.014
const CROSSING = 0.035
/** A printed line that is thinner is lost. */
const LEAST_LINE_MM: Millimetres = 0.15

/** What faces are printed on, and with. */
export const faceColours = {
  dark: { ground: '#0f1315', ink: '#e6ebe7' },
  light: { ground: '#f3efe2', ink: '#191c1e' },
} as const

export const bandInks: Readonly<Record<BandColour, string>> = {
  green: '#3f9d52',
  amber: '#e0a52c',
  red: '#d0392f',
  white: '#e6ebe7',
  blue: '#4a86c8',
}

/** Something printed: all that lies within its contours, in one colour. */
export interface Inked {
  readonly colour: string
  readonly contours: readonly Contour[]
}

const lineWidth = (share: number, radius: Millimetres): Millimetres => Math.max(LEAST_LINE_MM, share * radius)

/** A mark of some width from one point to another. */
const bar = (from: Point, to: Point, width: Millimetres): Contour => {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1
  const [nx, ny] = [(-(to.y - from.y) / length) * (width / 2), ((to.x - from.x) / length) * (width / 2)]
  return polygon([
    point(from.x + nx, from.y + ny),
    point(to.x + nx, to.y + ny),
    point(to.x - nx, to.y - ny),
    point(from.x - nx, from.y - ny),
  ])
}

/** What lies between two circles and two angles, in pieces of at most half a turn. */
export const sectors = (inner: Millimetres, outer: Millimetres, from: Degrees, to: Degrees): Contour[] => {
  const pieces = Math.max(1, Math.ceil(Math.abs(to - from) / 180))
  const middle = point(0, 0)
  const isClockwise = to > from
  return Array.from({ length: pieces }, (_, i): Contour => {
    const [a, b] = [from + ((to - from) * i) / pieces, from + ((to - from) * (i + 1)) / pieces]
    return {
      start: onDial(a, outer),
      segments: [
        arc(onDial(b, outer), middle, isClockwise),
        { is: 'line', to: onDial(b, inner) },
        arc(onDial(a, inner), middle, !isClockwise),
        { is: 'line', to: onDial(a, outer) },
      ],
      closed: true,
    }
  })
}

/** Everything of a face that is no letter, in the order in which it is printed, round its middle. */
export const faceInks = (face: DialFace, radius: Millimetres): Inked[] => {
  const { ink } = faceColours[face.ground]
  const bands = face.bands.map(({ colour, inner, outer, from, to }) => ({
    colour: bandInks[colour],
    contours:
      from === to
        ? [bar(onDial(from, inner), onDial(from, outer), lineWidth(CROSSING, radius))]
        : sectors(inner, outer, from, to),
  }))
  const isStretch = (i: number) => face.bands[i]?.from !== face.bands[i]?.to
  const half = lineWidth(ARC, radius) / 2
  const marks = {
    colour: ink,
    contours: [
      ...face.arcs.flatMap((a) => sectors(a.radius - half, a.radius + half, a.from, a.to)),
      ...face.ticks.map((t) => bar(t.from, t.to, lineWidth(t.major ? LONG_MARK : SHORT_MARK, radius))),
    ],
  }
  // A line across the scale is seen above its marks.
  return [...bands.filter((_, i) => isStretch(i)), marks, ...bands.filter((_, i) => !isStretch(i))]
}
