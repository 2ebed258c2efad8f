import type { SimulatorValue } from '../../engine/input'
import type { VariableInfo } from '../../rig/simulator-catalogue'
import type { Source } from '../../rig/sources'
import { unitNamed } from '../../signal/unit'
import type { Micros } from '../../units-of-measure'
import type { Block } from '../block'
import { BlockBuilder, GrowingNumbers, GrowingPlaces } from '../block-builder'
import { BLOCK_US } from '../recorder'

/** Values of a file beyond these are left out, and names. */
const MOST_VALUES = 20_000_000
const MOST_NAMES = 50_000

/** The source of what came from a file that does not say where it had it from. */
export const FILE_SOURCE = 'file'

interface Column {
  readonly name: string
  unit: string | null
  isText: boolean
  isBoolean: boolean
}

/** Something that was odd about a file: how often, and where first. */
interface Oddity {
  readonly first: number
  count: number
  readonly words: (count: number, line: number) => string
}

/** Values from a file as they come, line by line: what is good is kept, what is not is counted and told. */
export class FileValues {
  private readonly columns: Column[] = []
  private readonly columnOf = new Map<string, number>()
  private readonly at = new GrowingNumbers(4096)
  private readonly column = new GrowingPlaces(4096)
  /** A number, or the place of a text. */
  private readonly value = new GrowingNumbers(4096)
  private readonly kind = new GrowingPlaces(4096)
  private readonly texts: string[] = []
  private readonly textAt = new Map<string, number>()
  private readonly oddities = new Map<string, Oddity>()
  private last: Micros = Number.NEGATIVE_INFINITY
  private begin: Micros | null = null

  /** Notes something odd at a line; `words` are made of how often it was so and where first. */
  odd(kind: string, line: number, words: Oddity['words']): void {
    const known = this.oddities.get(kind)
    if (known) known.count++
    else this.oddities.set(kind, { first: line, count: 1, words })
  }

  get sentences(): string[] {
    return [...this.oddities.values()].map(({ words, count, first }) => words(count, first))
  }

  /** Whether a line at this time can be taken: times run on. */
  takes(at: Micros, line: number): boolean {
    if (at >= this.last) {
      this.last = at
      this.begin ??= at
      return true
    }
    this.odd(
      'backwards',
      line,
      (count, first) =>
        `${count === 1 ? 'A line has' : `${count} lines have`} a time before that of the line above, the first in line ${first}; left out.`,
    )
    return false
  }

  put(at: Micros, name: string, unit: string | null, value: SimulatorValue, line: number): void {
    if (this.value.length >= MOST_VALUES) {
      this.odd(
        'values',
        line,
        (count, first) =>
          `It has more than ${MOST_VALUES} values; ${count} from line ${first} on are left out.`,
      )
      return
    }
    const column = this.columnNamed(name, unit, line)
    if (column === null) return
    const told = this.columns[column] as Column
    this.at.push(at)
    this.column.push(column)
    if (typeof value === 'string') {
      told.isText = true
      this.kind.push(1)
      this.value.push(this.text(value))
      return
    }
    if (typeof value === 'boolean') told.isBoolean = true
    this.kind.push(0)
    this.value.push(value === null ? Number.NaN : Number(value))
  }

  private text(text: string): number {
    let place = this.textAt.get(text)
    if (place === undefined) {
      place = this.texts.push(text) - 1
      this.textAt.set(text, place)
    }
    return place
  }

  private columnNamed(name: string, unit: string | null, line: number): number | null {
    const known = this.columnOf.get(name)
    if (known !== undefined) return known
    if (this.columns.length >= MOST_NAMES) {
      this.odd('names', line, () => `It has more than ${MOST_NAMES} names; the others are left out.`)
      return null
    }
    const of = unit ? unitNamed(unit) : null
    if (unit && !of)
      this.odd(
        `unit ${unit}`,
        line,
        () => `The unit “${unit}” is not known, so that nothing is converted; it is kept as it is.`,
      )
    this.columnOf.set(name, this.columns.length)
    return this.columns.push({ name, unit: of?.symbol ?? unit, isText: false, isBoolean: false }) - 1
  }

  get isEmpty(): boolean {
    return this.value.length === 0
  }

  /** The source that tells these names. */
  source(name: string): Source {
    const variables = this.columns.map(
      (c): VariableInfo => ({
        name: c.name,
        type: c.isText ? 'text' : c.isBoolean ? 'boolean' : 'number',
        unit: c.isText ? null : c.unit,
        writable: false,
        range: null,
        description: '',
        group: 'From a file',
      }),
    )
    return { id: FILE_SOURCE, name, on: true, prefix: '', catalogue: { craft: name, variables, events: [] } }
  }

  /** All that was taken as blocks, from time zero. */
  *blocks(): Iterable<Block> {
    const [at, column, value, kind] = [
      this.at.done(),
      this.column.done(),
      this.value.done(),
      this.kind.done(),
    ]
    const begin = this.begin ?? 0
    const standing = { armed: false, up: [0], quiet: [], boards: [], controls: [] }
    const now: (number | string | null)[] = this.columns.map(() => null)
    const builderFrom = (from: Micros): BlockBuilder => BlockBuilder.with(from, standing, now)
    let builder = builderFrom(0)
    let frameAt = -1
    for (let i = 0; i < at.length; i++) {
      const t = Math.round((at[i] as number) - begin)
      if (t - builder.from >= BLOCK_US) {
        yield builder.done(t)
        builder = builderFrom(t)
        frameAt = -1
      }
      const c = column[i] as number
      const is = this.valueOf(c, kind[i] as number, value[i] as number)
      if (is === now[c]) continue
      now[c] = is
      if (t !== frameAt) builder.beginFrame(t, t / 1e6, 0)
      frameAt = t
      builder.change(c, typeof is === 'number' ? is : builder.text(is))
    }
    yield builder.done(Math.round((at.at(-1) ?? begin) - begin) + 1)
  }

  /** A column with a text in it has texts only. */
  private valueOf(column: number, kind: number, value: number): number | string | null {
    if (kind === 1) return this.texts[value] ?? null
    if (Number.isNaN(value)) return null
    return this.columns[column]?.isText ? String(value) : value
  }
}
