import Papa from 'papaparse'
import type { PartsLine } from './parts-list'
import type { WireLine } from './wire-list'

/** Signs by which spreadsheets know a formula, also in full width, and what they overlook before them. */
export const FORMULA = /^[\s\0\u200b-\u200f\u2028-\u202f\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20\u2212]/

/** A text of one line that no spreadsheet takes for a formula: a name stays a name. */
const plain = (value: string | number): string | number => {
  if (typeof value === 'number') return value
  // A line break within a cell begins a new one for some programs.
  const line = value.replace(/[\r\n\t\v\f\u0085\u2028\u2029]+/g, ' ')
  return FORMULA.test(line) ? `'${line}` : line
}

/** A table as CSV (RFC 4180), with the mark by which spreadsheets know UTF-8. What a spreadsheet would take for a formula gets an apostrophe before it. */
const csv = (fields: readonly string[], data: readonly (readonly (string | number)[])[]): string =>
  `\uFEFF${Papa.unparse({ fields: [...fields], data: data.map((row) => row.map(plain)) })}\r\n`

export const wireListCsv = (lines: readonly WireLine[]): string =>
  csv(
    ['number', 'colour', 'from', 'to', 'connector', 'position', 'ribbon', 'panel', 'estimated length mm'],
    lines.map((l) => [
      l.number,
      l.colour,
      l.from,
      l.to,
      l.connector,
      l.position,
      l.ribbon,
      l.panel,
      l.lengthMm,
    ]),
  )

export const partsListCsv = (lines: readonly PartsLine[]): string =>
  csv(
    ['count', 'what', 'value', 'used', 'note', 'link', 'price', 'sum'],
    lines.map((l) => [
      l.count,
      l.what,
      l.value,
      l.use,
      l.note,
      l.link,
      l.price ?? '',
      l.price === null ? '' : Math.round(l.count * l.price * 100) / 100,
    ]),
  )
