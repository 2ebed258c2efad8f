import { kindOf } from '../catalogue/own-kind'
import type { Box } from '../geometry/boxes'
import { type Point, point } from '../geometry/contour'
import { capHeight, textWidth } from '../lettering/lettering'
import { settingsOf } from '../rig/part-settings'
import type { PartRow } from '../rig/rows'
import { type NeedlePoint, needleAngle } from '../signal/needle'
import type { Degrees, Millimetres } from '../units-of-measure'

/** What a needle of a gauge shows: its points, and how it goes between them. */
export interface Scale {
  readonly points: readonly NeedlePoint[]
  readonly smooth?: boolean | undefined
}

export interface DialTick {
  readonly value: number
  readonly from: Point
  readonly to: Point
  readonly major: boolean
}

export interface DialNumber {
  readonly value: number
  readonly text: string
  /** The middle of its base line. */
  readonly at: Point
  readonly sizeMm: Millimetres
  readonly box: Box
}

/** A dial's face, in millimetres round its middle. */
export interface DialFace {
  readonly ticks: readonly DialTick[]
  readonly numbers: readonly DialNumber[]
  /** The line along each scale: its radius and the angles of its ends. */
  readonly arcs: readonly { readonly radius: Millimetres; readonly from: Degrees; readonly to: Degrees }[]
}

/** As shares of the dial's radius: where the outer scale lies, and the most for one within it. */
const OUTER = 0.94
const INNER = 0.52
const MAJOR = 0.12
const MINOR = 0.06
const SIZE = 0.15
/** Smaller letters cannot be read from the seat, nor engraved. */
const LEAST_SIZE_MM: Millimetres = 1.8
/** Free room between ticks and numbers, and between numbers, as a share of their size. */
const AROUND = 0.3
/** Marks that are closer cannot be told apart, nor engraved. */
const LEAST_MM: Millimetres = 0.8
const MOST_NUMBERS = 13
/** Within this the needle's shaft turns. */
const SHAFT = 0.14

const sameScale = (a: Scale, b: Scale): boolean =>
  (a.smooth ?? false) === (b.smooth ?? false) && JSON.stringify(a.points) === JSON.stringify(b.points)

const onDial = (deg: Degrees, radius: Millimetres): Point => {
  const a = (deg * Math.PI) / 180
  return point(radius * Math.sin(a), -radius * Math.cos(a))
}

const steps = (span: number): number[] => {
  const first = Math.floor(Math.log10(span)) - 2
  return Array.from({ length: 5 }, (_, i) => 10 ** (first + i)).flatMap((ten) => [ten, 2 * ten, 5 * ten])
}

/** Multiples of a step within a scale, without what is left over behind the point. */
const multiples = (step: number, from: number, to: number): number[] => {
  const [first, last] = [Math.ceil(from / step - 1e-6), Math.floor(to / step + 1e-6)]
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) =>
    Number(((first + i) * step).toPrecision(12)),
  )
}

/** A number as far out as it goes within a circle, upright, in the direction of its mark. */
const numberAt = (value: number, deg: Degrees, within: Millimetres, sizeMm: Millimetres): DialNumber => {
  const text = String(value).replace('-', '−')
  const [w, h] = [textWidth(text, sizeMm), capHeight() * sizeMm]
  const out = onDial(deg, 1)
  // Its outermost corner lies on the circle: |t·d + (w, h)/2| = r, solved for t.
  const b = Math.abs(out.x) * (w / 2) + Math.abs(out.y) * (h / 2)
  const t = -b + Math.sqrt(Math.max(0, b * b - (w * w + h * h) / 4 + within * within))
  const [x, y] = [out.x * t, out.y * t]
  return {
    ...{ value, text, sizeMm, at: point(x, y + h / 2) },
    box: { minX: x - w / 2, maxX: x + w / 2, minY: y - h / 2, maxY: y + h / 2 },
  }
}

const meets = (a: Box, b: Box, room: Millimetres): boolean =>
  a.minX < b.maxX + room && b.minX < a.maxX + room && a.minY < b.maxY + room && b.minY < a.maxY + room

/** How near to the middle a box comes. */
const nearest = ({ minX, minY, maxX, maxY }: Box): Millimetres =>
  Math.hypot(Math.max(minX, -maxX, 0), Math.max(minY, -maxY, 0))

const freeWithin = (numbers: readonly DialNumber[]): Millimetres =>
  Math.min(...numbers.map((n) => nearest(n.box)))

/** How a step may be divided: tenths, fifths, quarters and halves of ones that read well. */
const dividers = (step: number): readonly number[] => {
  const first = Number(step.toExponential(0).slice(0, 1))
  return first === 2 ? [10, 4, 2] : first === 5 ? [10, 5] : [10, 5, 2]
}

/** What the needles of a gauge show, first to last. */
export const scalesOf = (part: PartRow): Scale[] =>
  (kindOf(part)?.aspects ?? []).flatMap((a) =>
    a.kind === 'needle' ? (settingsOf(part.settings, a.id, 'needle') ?? []) : [],
  )

/**
 * The face of a gauge from its own needle points: what is printed or engraved is where the needle really goes. Numbers are
 * those of the finest round step at which none lies on another or on a mark; minor marks as many as can be told apart.
 * Needles with the same scale share it.
 */
export const dialFace = (scales: readonly Scale[], radius: Millimetres): DialFace => {
  const ticks: DialTick[] = []
  const numbers: DialNumber[] = []
  const arcs: DialFace['arcs'][number][] = []
  const different = scales.filter(
    (s, i) => s.points.length > 1 && scales.findIndex((o) => sameScale(o, s)) === i,
  )
  for (const [i, scale] of different.entries()) {
    const [first, last] = [scale.points[0], scale.points.at(-1)]
    if (!first || !last) continue
    const ring = new Ring(
      scale,
      radius,
      i === 0 ? OUTER : Math.min(INNER, freeWithin(numbers) / radius - 0.02),
    )
    arcs.push({ radius: ring.outer, from: first.deg, to: last.deg })
    const step = ring.step(numbers)
    const own = ring.numbers(step, numbers)
    numbers.push(...own)
    ticks.push(...ring.ticks(step, own))
  }
  return { ticks, numbers, arcs }
}

class Ring {
  readonly outer: Millimetres
  private readonly angle: (value: number) => Degrees
  private readonly from: number
  private readonly to: number
  private readonly sizeMm: Millimetres

  constructor(
    scale: Scale,
    private readonly radius: Millimetres,
    share: number,
  ) {
    this.outer = radius * share
    this.angle = needleAngle(scale.points, scale.smooth)
    this.from = scale.points[0]?.value ?? 0
    this.to = scale.points.at(-1)?.value ?? 0
    this.sizeMm = Math.max(LEAST_SIZE_MM, radius * SIZE * (share < 0.9 ? 0.8 : 1))
  }

  private get room(): Millimetres {
    return AROUND * this.sizeMm
  }

  private at(value: number): DialNumber {
    const within = this.outer - this.radius * MAJOR - this.room
    return numberAt(value, this.angle(value), within, this.sizeMm)
  }

  private fits(n: DialNumber, others: readonly DialNumber[]): boolean {
    return nearest(n.box) >= this.radius * SHAFT && others.every((o) => !meets(n.box, o.box, this.room))
  }

  /** The finest step whose numbers all fit; where none does, the coarsest that leaves a few. */
  step(taken: readonly DialNumber[]): number {
    const all = steps(this.to - this.from)
    for (const step of all) {
      const values = multiples(step, this.from, this.to)
      if (values.length > MOST_NUMBERS) continue
      const placed = values.map((v) => this.at(v))
      if (placed.every((n, i) => this.fits(n, [...taken, ...placed.slice(0, i)]))) return step
    }
    return all.find((s) => multiples(s, this.from, this.to).length <= 4) ?? this.to - this.from
  }

  /** Its numbers, the ends of the scale first, without those that find no room. */
  numbers(step: number, taken: readonly DialNumber[]): DialNumber[] {
    const values = multiples(step, this.from, this.to)
    const order = [...values].sort(
      (a, b) => Math.min(a - this.from, this.to - a) - Math.min(b - this.from, this.to - b),
    )
    const placed: DialNumber[] = []
    for (const value of order) {
      const n = this.at(value)
      if (this.fits(n, [...taken, ...placed])) placed.push(n)
    }
    return placed.sort((a, b) => a.value - b.value)
  }

  /** Its marks: one to each step, and between them as many as can be told apart. */
  ticks(step: number, numbers: readonly DialNumber[]): DialTick[] {
    const majors = multiples(step, this.from, this.to)
    const all = new Map(majors.map((v) => [v, true]))
    const divided = dividers(step).find((n) => this.areApart(multiples(step / n, this.from, this.to)))
    if (divided !== undefined)
      for (const v of multiples(step / divided, this.from, this.to)) if (!all.has(v)) all.set(v, false)
    // A scale that begins or ends between two numbers says so.
    for (const end of [this.from, this.to]) if (!all.has(end)) all.set(end, false)
    const numbered = new Set(numbers.map((n) => n.value))
    return [...all].map(([value, major]) => {
      const deg = this.angle(value)
      const long = this.radius * (major || numbered.has(value) ? MAJOR : MINOR)
      return { value, major, from: onDial(deg, this.outer), to: onDial(deg, this.outer - long) }
    })
  }

  private areApart(values: readonly number[]): boolean {
    const inner = this.outer - this.radius * MINOR
    return values.every((v, i) => {
      const before = values[i - 1]
      if (before === undefined) return true
      const turn = (Math.abs(this.angle(v) - this.angle(before)) * Math.PI) / 180
      return 2 * inner * Math.sin(Math.min(turn, Math.PI) / 2) >= LEAST_MM
    })
  }
}
