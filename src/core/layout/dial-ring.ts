import type { BandColour, NeedleFace } from '../aspects/face'
import type { Box } from '../geometry/boxes'
import { capHeight, textWidth } from '../lettering/lettering'
import { formatNumber } from '../signal/format'
import { needleAngle, needleValue } from '../signal/needle'
import type { Degrees, Millimetres } from '../units-of-measure'
import {
  AROUND,
  BAND,
  type DialBand,
  type DialFace,
  type DialNumber,
  type DialTick,
  farthest,
  MAJOR,
  meets,
  nearest,
  onDial,
  type Scale,
  SHAFT,
  wordsAt,
} from './dial-shapes'

/** As shares of the dial's radius. */
const MINOR = 0.06
const SIZE = 0.15
/** Smaller letters cannot be read from the seat, nor engraved. */
const LEAST_SIZE_MM: Millimetres = 1.8
/** Marks that are closer cannot be told apart, nor engraved. */
const LEAST_MM: Millimetres = 0.8
const MOST_NUMBERS = 13
/** More marks than this nobody has asked for. */
const MOST_MARKS = 400
const TURN: Degrees = 360

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
const numberAt = (
  value: number,
  text: string,
  deg: Degrees,
  within: Millimetres,
  sizeMm: Millimetres,
): DialNumber => {
  const [w, h] = [textWidth(text, sizeMm), capHeight() * sizeMm]
  const out = onDial(deg, 1)
  // Its outermost corner lies on the circle: |t·d + (w, h)/2| = r, solved for t.
  const b = Math.abs(out.x) * (w / 2) + Math.abs(out.y) * (h / 2)
  const t = -b + Math.sqrt(Math.max(0, b * b - (w * w + h * h) / 4 + within * within))
  return { value, ...wordsAt(text, out.x * t, out.y * t, sizeMm) }
}

/** How a step may be divided: tenths, fifths, quarters and halves of ones that read well. */
const dividers = (step: number): readonly number[] => {
  const first = Number(step.toExponential(0).slice(0, 1))
  return first === 2 ? [10, 4, 2] : first === 5 ? [10, 5] : [10, 5, 2]
}

/** One scale of a dial: its line, marks and numbers. */
export class Ring {
  readonly outer: Millimetres
  readonly numbers: readonly DialNumber[]
  readonly ticks: readonly DialTick[]
  readonly arc: DialFace['arcs'][number]
  /** Its coloured stretches, none over another and none beyond the scale. */
  readonly bands: readonly DialBand[]
  readonly problems: string[] = []
  private readonly angle: (value: number) => Degrees
  private readonly from: number
  private readonly to: number
  /** One that goes all the way round ends where it began. */
  private readonly isRound: boolean
  private readonly sizeMm: Millimetres
  private readonly face: NeedleFace
  private readonly step: number

  constructor(
    scale: Scale,
    private readonly radius: Millimetres,
    share: number,
    taken: readonly DialNumber[],
  ) {
    this.outer = radius * share
    this.face = scale.face ?? {}
    this.angle = needleAngle(scale.points, scale.smooth)
    const [first, last] = [scale.points[0], scale.points.at(-1)]
    this.from = first?.value ?? 0
    const [begins, ends] = [first?.deg ?? 0, last?.deg ?? 0]
    this.isRound = Math.abs(ends - begins) >= TURN - 1e-6
    this.to = this.isRound ? this.afterOneTurn(scale, begins, ends) : (last?.value ?? 0)
    this.sizeMm = this.face.sizeMm ?? Math.max(LEAST_SIZE_MM, radius * SIZE * (share < 0.9 ? 0.8 : 1))
    this.step = this.stepOf(taken)
    this.numbers = this.face.noNumbers ? [] : this.numbersAt(this.step, taken)
    this.ticks = this.ticksAt(this.step, this.numbers)
    this.arc = { radius: this.outer, from: begins, to: this.angle(this.to) }
    this.bands = this.bandsOf()
  }

  /** Which value stands where the first did, a turn later; each turn after that has to be like it. */
  private afterOneTurn({ points, smooth }: Scale, begins: Degrees, ends: Degrees): number {
    const way = Math.sign(ends - begins)
    const value = needleValue(points, smooth)
    const last = points.at(-1)?.value ?? 0
    if (!value) return last
    const to = value(begins + way * TURN)
    const turn = to - this.from
    for (let v = this.from; v + turn <= last + 1e-9 * turn; v += turn / 8)
      if (Math.abs(this.angle(v + turn) - this.angle(v) - way * TURN) > 1) {
        this.problems.push(
          'Its turns are not alike: the marks hold for the first only. Space the points evenly, a turn from each other.',
        )
        break
      }
    return to
  }

  private get room(): Millimetres {
    return AROUND * this.sizeMm
  }

  /** Numbers lie within its marks. */
  private get within(): Millimetres {
    return this.outer - this.radius * MAJOR - this.room
  }

  private multiples(step: number): number[] {
    const all = multiples(step, this.from, this.to)
    return this.isRound ? all.filter((v) => v < this.to - step * 1e-6) : all
  }

  private at(value: number): DialNumber {
    const shown = Number((value / (this.face.divideBy ?? 1)).toPrecision(12))
    return numberAt(value, String(shown).replace('-', '−'), this.angle(value), this.within, this.sizeMm)
  }

  private fits(n: DialNumber, others: readonly DialNumber[]): boolean {
    if (nearest(n.box) < this.radius * SHAFT || farthest(n.box) > this.within + 1e-6) return false
    return others.every((o) => !meets(n.box, o.box, this.room))
  }

  /** The step that is asked for; else the finest whose numbers all fit; where none does, the coarsest that leaves a few. */
  private stepOf(taken: readonly DialNumber[]): number {
    const all = steps(this.to - this.from)
    const fit = (step: number, most = MOST_NUMBERS) => {
      const values = this.multiples(step)
      if (values.length > most) return false
      const placed = values.map((v) => this.at(v))
      return placed.every((n, i) => this.fits(n, [...taken, ...placed.slice(0, i)]))
    }
    const found =
      all.find((step) => fit(step)) ?? all.find((s) => this.multiples(s).length <= 4) ?? this.to - this.from
    const { step } = this.face
    if (step === undefined) return found
    const say = (what: string) =>
      this.problems.push(`${what} ${formatNumber(step)}: every ${formatNumber(found)} does it.`)
    if ((this.to - this.from) / step > MOST_MARKS || !this.areApart(this.multiples(step))) {
      say('Marks cannot be told apart at every')
      return found
    }
    if (this.multiples(step).length === 0) {
      say('The scale has no multiple of')
      return found
    }
    if (!this.face.noNumbers && !fit(step, MOST_MARKS)) say('Not all numbers find room at every')
    return step
  }

  /** Its numbers, the ends of the scale first, without those that find no room. */
  private numbersAt(step: number, taken: readonly DialNumber[]): DialNumber[] {
    const values = this.multiples(step)
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
  private ticksAt(step: number, numbers: readonly DialNumber[]): DialTick[] {
    const majors = this.multiples(step)
    const all = new Map(majors.map((v) => [v, true]))
    const divided = this.divisionsOf(step)
    if (divided !== undefined)
      for (const v of this.multiples(step / divided)) if (!all.has(v)) all.set(v, false)
    // A scale that begins or ends between two numbers says so.
    for (const end of this.isRound ? [] : [this.from, this.to]) if (!all.has(end)) all.set(end, false)
    const numbered = new Set(numbers.map((n) => n.value))
    return [...all].map(([value, major]) => {
      const deg = this.angle(value)
      const long = this.radius * (major || numbered.has(value) ? MAJOR : MINOR)
      return { value, major, from: onDial(deg, this.outer), to: onDial(deg, this.outer - long) }
    })
  }

  private divisionsOf(step: number): number | undefined {
    const { divisions } = this.face
    const found = dividers(step).find((n) => this.areApart(this.multiples(step / n)))
    if (divisions === undefined) return found
    if (divisions === 1 || this.areApart(this.multiples(step / divisions))) return divisions
    this.problems.push(
      `${divisions} parts to each ${formatNumber(step)} cannot be told apart: ${found === undefined ? 'none' : found} can.`,
    )
    return found
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

  private bandsOf(): DialBand[] {
    const found: DialBand[] = []
    const sorted = [...(this.face.bands ?? [])].sort((a, b) => a.from - b.from || a.to - b.to)
    let from = this.from
    for (const band of sorted) {
      const name = `The ${band.colour} ${band.from === band.to ? 'line' : 'band'}`
      if (band.from === band.to) {
        if (band.from < this.from || band.from > this.to) this.problems.push(`${name} lies beyond the scale.`)
        else found.push(this.banded(band.colour, band.from, band.from))
        continue
      }
      const begins = Math.max(from, band.from)
      const ends = Math.min(this.to, band.to)
      if (band.from < this.from || band.to > this.to)
        this.problems.push(`${name} reaches beyond the scale, and ends with it.`)
      if (band.from < from && from > this.from)
        this.problems.push(
          `${name} lies on another up to ${formatNumber(Math.min(from, band.to))}: begin it there.`,
        )
      if (ends <= begins) continue
      found.push(this.banded(band.colour, begins, ends))
      from = ends
    }
    return found
  }

  private banded(colour: BandColour, from: number, to: number): DialBand {
    const [begins, ends] = BAND
    const inner = from === to ? this.outer - this.radius * MAJOR : this.outer + this.radius * begins
    return {
      ...{ colour, inner, outer: this.outer + this.radius * ends },
      from: this.angle(from),
      to: this.angle(to),
    }
  }

  /** Whether a box lies on none of its numbers, on no mark, and not across its line or bands. */
  leaves(box: Box, room: Millimetres): boolean {
    if (this.numbers.some((n) => meets(n.box, box, room))) return false
    const beyond = this.outer + this.radius * BAND[1] + room
    return farthest(box) < this.outer - this.radius * MAJOR - room || nearest(box) > beyond
  }
}
