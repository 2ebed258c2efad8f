import Papa from 'papaparse'
import type { PartsLine } from './parts-list'
import type { WireLine } from './wire-list'

/**
 * A table as CSV (RFC 4180). What a spreadsheet would take for a formula gets an apostrophe before it, so that a name
 * stays a name.
 */
const csv = (fields: readonly string[], data: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse({ fields: [...fields], data: data.map((row) => [...row]) }, { escapeFormulae: true })}\r\n`

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
    ['count', 'what', 'value', 'note'],
    lines.map((l) => [l.count, l.what, l.value, l.note]),
  )
