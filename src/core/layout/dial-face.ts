import type { FaceCaption } from '../aspects/face'
import { formatNumber } from '../signal/format'
import type { Millimetres } from '../units-of-measure'
import { Ring } from './dial-ring'
import {
  AROUND,
  BAND,
  type DialFace,
  type DialNumber,
  type DialWords,
  farthest,
  meets,
  nearest,
  OUTER,
  onDial,
  type Scale,
  SHAFT,
  wordsAt,
} from './dial-shapes'

/** The most of the radius that a scale within another has. */
const INNER = 0.52
const LEAST_INNER = 0.25
const LEAST_CAPTION_MM: Millimetres = 1.2

/** Whether two needles show on one scale. */
export const sameScale = (a: Scale, b: Scale): boolean =>
  (a.smooth ?? false) === (b.smooth ?? false) && JSON.stringify(a.points) === JSON.stringify(b.points)

const freeWithin = (numbers: readonly DialNumber[]): Millimetres =>
  Math.min(...numbers.map((n) => nearest(n.box)))

/**
 * The face of a gauge from its own needle points: what is printed or engraved is where the needle really goes. Where its
 * design says nothing, numbers are those of the finest round step at which none lies on another or on a mark, and minor marks as
 * many as can be told apart. What is asked for and finds no room is left out and said. Needles with the same scale share
 * it; of a needle that turns more than once the first turn is drawn.
 */
export const dialFace = (scales: readonly Scale[], radius: Millimetres): DialFace => {
  const different = scales.filter(
    (s, i) => s.points.length > 1 && scales.findIndex((o) => sameScale(o, s)) === i,
  )
  const problems: string[] = []
  const numbers: DialNumber[] = []
  const rings: Ring[] = []
  for (const [i, scale] of different.entries()) {
    const free = freeWithin(numbers) / radius - 0.02 - (scale.face?.bands?.length ? BAND[1] : 0)
    const share = i === 0 ? OUTER : Math.min(INNER, free)
    if (share < LEAST_INNER) {
      problems.push('The second scale finds no room within the first: lower numbers, or fewer, leave some.')
      continue
    }
    const ring = new Ring(scale, radius, share, numbers)
    numbers.push(...ring.numbers)
    problems.push(...ring.problems)
    rings.push(ring)
  }
  const captions: DialWords[] = []
  for (const caption of different.flatMap((s) => s.face?.captions ?? [])) {
    const placed = captionAt(caption, caption.sizeMm, radius, rings, captions)
    if (placed) captions.push(placed)
    else problems.push(noRoomFor(caption, radius, rings, captions))
  }
  return {
    ticks: rings.flatMap((r) => r.ticks),
    numbers,
    arcs: rings.map((r) => r.arc),
    bands: rings.flatMap((r) => r.bands),
    captions,
    ground: different[0]?.face?.ground ?? 'dark',
    problems,
  }
}

/** Words on their side of the middle, as near to half way out as nothing else lies; null where there is no room. */
const captionAt = (
  { text, side }: FaceCaption,
  sizeMm: Millimetres,
  radius: Millimetres,
  rings: readonly Ring[],
  others: readonly DialWords[],
): DialWords | null => {
  const deg = { above: 0, right: 90, below: 180, left: 270 }[side]
  const room = AROUND * sizeMm
  for (const share of OUTWARDS) {
    const { x, y } = onDial(deg, radius * share)
    const words = wordsAt(text, x, y, sizeMm)
    const { box } = words
    if (nearest(box) < radius * SHAFT || farthest(box) > radius * OUTER) continue
    if (others.some((o) => meets(o.box, box, room))) continue
    if (rings.every((r) => r.leaves(box, room))) return words
  }
  return null
}

/** Shares of the radius at which words are tried, from half way out to both sides. */
const OUTWARDS = Array.from({ length: 33 }, (_, i) => 0.45 + (i % 2 === 0 ? -1 : 1) * Math.ceil(i / 2) * 0.02)

const noRoomFor = (
  caption: FaceCaption,
  radius: Millimetres,
  rings: readonly Ring[],
  others: readonly DialWords[],
): string => {
  for (let size = Math.floor(caption.sizeMm * 10) / 10; size >= LEAST_CAPTION_MM; size = (size * 10 - 1) / 10)
    if (captionAt(caption, size, radius, rings, others))
      return `“${caption.text}” finds no room ${caption.side}: at ${formatNumber(size)} mm it does.`
  return `“${caption.text}” finds no room ${caption.side}: on another side, or shorter, it may.`
}
