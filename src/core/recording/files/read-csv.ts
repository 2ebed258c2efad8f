import Papa from 'papaparse'
import type { SimulatorValue } from '../../engine/input'
import type { Micros } from '../../units-of-measure'
import { FileRefused } from './file-refused'
import type { FileReader, TakenFile } from './taken-file'
import { FileValues } from './told-values'

/** Names by which a column of times goes, and what one of its numbers is, in microseconds. */
const timeNames: readonly (readonly [pattern: RegExp, us: number])[] = [
  [/^(time|t|timestamp|elapsed|zeit|temps|tiempo)?[\s_]*[([]?(ms|milliseconds)[)\]]?$/i, 1000],
  [/^(time|t|timestamp|elapsed|zeit|temps|tiempo)?[\s_]*[([]?(us|µs|microseconds)[)\]]?$/i, 1],
  [/^(time|t|timestamp|elapsed|zeit|temps|tiempo)?[\s_]*[([]?(s|sec|secs|seconds)[)\]]?$/i, 1e6],
  [/^(time|t|timestamp|elapsed|zeit|temps|tiempo|date|datetime)$/i, 1e6],
]

const scaleOf = (header: string): number | null => timeNames.find(([p]) => p.test(header))?.[1] ?? null

/** 1:02:03.5 and 2:03.5, in seconds. */
const CLOCK = /^(?:(\d+):)?(\d{1,2}):(\d{1,2}(?:\.\d+)?)$/

const readNumber = (text: string, comma: boolean): number => {
  const plain = comma && /^[-+]?\d+,\d+(e[-+]?\d+)?$/i.test(text) ? text.replace(',', '.') : text
  return /^[-+]?(\d|\.\d)/.test(plain) ? Number(plain) : Number.NaN
}

const readTime = (text: string, scale: number, comma: boolean): Micros | null => {
  const number = readNumber(text, comma)
  if (Number.isFinite(number)) return number * scale
  const clock = CLOCK.exec(text)
  if (clock) return (Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3])) * 1e6
  const date = /^\d{4}-\d\d-\d\d/.test(text) ? Date.parse(text) : Number.NaN
  return Number.isNaN(date) ? null : date * 1000
}

const readValue = (text: string, comma: boolean): SimulatorValue => {
  if (text === '') return null
  const number = readNumber(text, comma)
  if (Number.isFinite(number)) return number
  if (/^(true|false)$/i.test(text)) return text.toLowerCase() === 'true'
  return text
}

/** `height (ft)` and `height [ft]`: a name and its unit. */
const readHeading = (heading: string): { readonly name: string; readonly unit: string | null } => {
  const found = /^(.*\S)\s*[([]([^()[\]]{1,20})[)\]]$/.exec(heading)
  return found ? { name: found[1] as string, unit: found[2] as string } : { name: heading, unit: null }
}

interface Layout {
  readonly time: number
  readonly scale: number
  /** A line a change: where its name, value and unit are. */
  readonly long: { readonly name: number; readonly value: number; readonly unit: number } | null
  /** A column a value: which columns have a name. */
  readonly wide: readonly { readonly at: number; readonly name: string; readonly unit: string | null }[]
  readonly width: number
}

const quoted = (names: readonly string[]): string => {
  const some = names.slice(0, 6).map((n) => `“${n.slice(0, 40)}”`)
  return some.join(', ') + (names.length > 6 ? ` and ${names.length - 6} more` : '')
}

const layoutOf = (header: readonly string[]): Layout => {
  const names = header.map((h) => h.trim())
  const time = names.findIndex((n) => n !== '' && scaleOf(n) !== null)
  if (time < 0)
    throw new FileRefused(
      `Its first line names no column of times (“time (s)”, “t”, “ms” …): there ${names.length === 1 ? 'is' : 'are'} ${quoted(names)}.`,
    )
  const find = (pattern: RegExp) => names.findIndex((n) => pattern.test(n))
  const [name, value, unit] = [find(/^(name|variable)$/i), find(/^value$/i), find(/^unit$/i)]
  const wide = names.flatMap((n, at) => (at === time || n === '' ? [] : [{ at, ...readHeading(n) }]))
  if (wide.length === 0) throw new FileRefused('It has a column of times, and no other with a name.')
  return {
    time,
    scale: scaleOf(names[time] as string) as number,
    long: name >= 0 && value >= 0 ? { name, value, unit } : null,
    wide,
    width: names.length,
  }
}

/** What stands most often between the names of the first line. */
const delimiterOf = (header: string): string => {
  const bare = header.replace(/"[^"]*"/g, '')
  const count = (sign: string) => bare.split(sign).length - 1
  return [',', ';', '\t'].reduce((best, sign) => (count(sign) > count(best) ? sign : best))
}

/** Reads CSV, comma, semicolon or tab, with a line a change or a column a value. */
export class CsvReader implements FileReader {
  private readonly told = new FileValues()
  private delimiter = ''
  private layout: Layout | null = null

  constructor(private readonly name: string) {}

  lines(text: string, first: number): void {
    if (this.delimiter === '') this.delimiter = delimiterOf(text.slice(0, text.search(/\n|$/)))
    const { data } = Papa.parse<string[]>(text, { delimiter: this.delimiter })
    for (const [i, row] of data.entries()) {
      if (row.length === 1 && row[0]?.trim() === '') continue
      if (this.layout) this.row(row, this.layout, first + i)
      else this.layout = layoutOf(row)
    }
  }

  private row(row: readonly string[], layout: Layout, line: number): void {
    const { told } = this
    const comma = this.delimiter !== ','
    const at = readTime((row[layout.time] ?? '').trim(), layout.scale, comma)
    if (at === null) {
      told.odd(
        'time',
        line,
        (count, first) =>
          `${count === 1 ? 'A line has' : `${count} lines have`} no time that can be read, the first in line ${first}; left out.`,
      )
      return
    }
    if (row.length !== layout.width)
      told.odd(
        'width',
        line,
        (count, first) =>
          `${count === 1 ? 'A line has' : `${count} lines have`} more or fewer columns than the first line names, the first in line ${first}; what is there is taken.`,
      )
    if (!told.takes(at, line)) return
    const { long } = layout
    if (!long) {
      for (const { at: column, name, unit } of layout.wide) {
        const cell = row[column]
        if (cell !== undefined) told.put(at, name, unit, readValue(cell.trim(), comma), line)
      }
      return
    }
    const name = (row[long.name] ?? '').trim()
    if (name === '')
      told.odd(
        'name',
        line,
        (count, first) =>
          `${count === 1 ? 'A line has' : `${count} lines have`} no name, the first in line ${first}; left out.`,
      )
    else
      told.put(
        at,
        name,
        row[long.unit]?.trim() || null,
        readValue((row[long.value] ?? '').trim(), comma),
        line,
      )
  }

  end(): TakenFile {
    const { told, name } = this
    if (!this.layout) throw new FileRefused('There is nothing in the file.')
    if (told.isEmpty)
      throw new FileRefused(['It has no line that can be taken.', ...told.sentences].join(' '))
    return {
      name,
      head: { sources: [told.source(name)], armed: false },
      blocks: { [Symbol.iterator]: () => told.blocks()[Symbol.iterator]() },
      marks: [],
      odd: told.sentences,
    }
  }
}
