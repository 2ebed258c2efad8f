import type { Micros } from '../units-of-measure'
import type { Block } from './block'
import type { Moment, Standing, What } from './moment'

/** An array that doubles as it fills. */
export class GrowingArray<A extends Float64Array | Uint32Array> {
  length = 0

  constructor(private array: A) {}

  push(value: number): void {
    if (this.length === this.array.length) {
      const longer = new (this.array.constructor as new (length: number) => A)(this.array.length * 2)
      longer.set(this.array)
      this.array = longer
    }
    this.array[this.length++] = value
  }

  done(): A {
    return this.array.slice(0, this.length) as A
  }
}

const LEAST_ROOM = 4096

/** A block as it comes into being: frames and moments in their order. */
export class BlockBuilder {
  private readonly at = new GrowingArray(new Float64Array(512))
  private readonly told = new GrowingArray(new Float64Array(512))
  private readonly source = new GrowingArray(new Uint32Array(512))
  private readonly start = new GrowingArray(new Uint32Array(512))
  private readonly variables: GrowingArray<Uint32Array>
  private readonly values: GrowingArray<Float64Array>
  private readonly texts: string[] = []
  private readonly placeOf = new Map<string, number>()
  private readonly moments: Moment[] = []

  constructor(
    readonly from: Micros,
    private readonly standing: Standing,
    private readonly first: Float64Array,
    /** So many changes find room without growing. */
    room = LEAST_ROOM,
  ) {
    this.variables = new GrowingArray(new Uint32Array(Math.max(room, LEAST_ROOM)))
    this.values = new GrowingArray(new Float64Array(Math.max(room, LEAST_ROOM)))
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
