import type { Micros } from '../units-of-measure'
import type { Block } from './block'
import type { Moment, Standing, What } from './moment'

/** Arrays that double as they fill. Those of each kind are a class of their own: put into by the million, they stay quick only apart. */
const growing = <A extends Float64Array | Uint32Array>(make: (length: number) => A) =>
  class {
    length = 0
    private array: A

    constructor(room: number) {
      this.array = make(room)
    }

    push(value: number): void {
      if (this.length === this.array.length) {
        const longer = make(this.array.length * 2)
        longer.set(this.array)
        this.array = longer
      }
      this.array[this.length++] = value
    }

    /** What was put into it, as an array of its own. */
    done(): A {
      return this.array.slice(0, this.length) as A
    }

    /** It begins anew with the room that it has. */
    empty(): this {
      this.length = 0
      return this
    }
  }

export const GrowingNumbers = growing((length) => new Float64Array(length))
export const GrowingPlaces = growing((length) => new Uint32Array(length))

const LEAST_ROOM = 4096

/** A block as it comes into being: frames and moments in their order. */
export class BlockBuilder {
  private readonly at = new GrowingNumbers(512)
  private readonly told = new GrowingNumbers(512)
  private readonly source = new GrowingPlaces(512)
  private readonly start = new GrowingPlaces(512)
  private readonly variables: InstanceType<typeof GrowingPlaces>
  private readonly values: InstanceType<typeof GrowingNumbers>
  private readonly texts: string[] = []
  private readonly placeOf = new Map<string, number>()
  private readonly moments: Moment[] = []

  constructor(
    readonly from: Micros,
    private readonly standing: Standing,
    private readonly first: Float64Array,
    /** One that is done, whose room this one takes over: what comes next is about as much. */
    before: BlockBuilder | null = null,
  ) {
    this.variables = before?.variables.empty() ?? new GrowingPlaces(LEAST_ROOM)
    this.values = before?.values.empty() ?? new GrowingNumbers(LEAST_ROOM)
  }

  /** One that begins with these values. */
  static with(from: Micros, standing: Standing, values: readonly (number | string | null)[]): BlockBuilder {
    const first = Float64Array.from(values, (v) => (typeof v === 'number' ? v : Number.NaN))
    const builder = new BlockBuilder(from, standing, first)
    for (const [i, v] of values.entries()) if (typeof v === 'string') builder.putFirst(i, v)
    return builder
  }

  get changes(): number {
    return this.values.length
  }

  /** The number that stands for a text; NaN for none. */
  text(text: string | null): number {
    if (text === null) return Number.NaN
    let place = this.placeOf.get(text)
    if (place === undefined) {
      place = this.texts.push(text) - 1
      this.placeOf.set(text, place)
    }
    return place
  }

  /** A text as what a variable was at the beginning. */
  putFirst(variable: number, text: string | null): void {
    this.first[variable] = this.text(text)
  }

  beginFrame(at: Micros, told: number, source: number): void {
    this.at.push(at)
    this.told.push(told)
    this.source.push(source)
    this.start.push(this.values.length)
  }

  change(variable: number, value: number): void {
    this.variables.push(variable)
    this.values.push(value)
  }

  moment(at: Micros, what: What): void {
    this.moments.push({ at, frame: this.at.length, ...what })
  }

  done(until: Micros): Block {
    this.start.push(this.values.length)
    const frames = {
      at: this.at.done(),
      told: this.told.done(),
      source: Uint8Array.from(this.source.done()),
      start: this.start.done(),
      variables: this.variables.done(),
      values: this.values.done(),
    }
    const { from, standing, first, texts, moments } = this
    return { from, until, standing, first, texts, moments, frames }
  }
}
