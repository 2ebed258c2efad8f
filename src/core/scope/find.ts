import type { EventInfo, SimulatorCatalogue, VariableInfo } from '../rig/simulator-catalogue'
import { formatValue } from '../signal/format'
import { wordsOf } from './words-of'

/** The columns by which the table can be sorted; `told` is the order in which the sources tell their names. */
export const scopeColumns = ['told', 'name', 'value', 'unit', 'group', 'since', 'changes'] as const
export type ScopeColumn = (typeof scopeColumns)[number]

/** Which rows are wanted. What is muted is shown only where it is asked for. */
export const scopeKinds = [
  'all',
  'pinned',
  'bound',
  'moved',
  'absent',
  'undescribed',
  'events',
  'muted',
] as const
export type ScopeKind = (typeof scopeKinds)[number]

export interface ScopeQuery {
  readonly search: string
  readonly only: ScopeKind
  /** A group of the catalogue, or null for all. */
  readonly group: string | null
  readonly sort: { readonly by: ScopeColumn; readonly down: boolean }
}

/** What is known of each row besides its record. Rows are the variables and, behind them, the events. */
export interface ScopeRows {
  readonly catalogue: SimulatorCatalogue
  value(row: number): number | string | null
  /** Milliseconds of a clock when it changed last, NaN for never; and how often it has. */
  readonly at: ArrayLike<number>
  readonly counts: ArrayLike<number>
  isPinned(name: string): boolean
  isMuted(name: string): boolean
  isBound(name: string): boolean
}

export const infoOf = (c: SimulatorCatalogue, row: number): VariableInfo | EventInfo | undefined =>
  row < c.variables.length ? c.variables[row] : c.events[row - c.variables.length]

/** Name, unit, description and group of each row in small letters: made once for a catalogue, searched at each keystroke. */
export const searchTexts = ({ variables, events }: SimulatorCatalogue): string[] => [
  ...variables.map((v) => `${v.name}\n${v.unit ?? ''}\n${v.description}\n${v.group}`.toLowerCase()),
  ...events.map((e) => `${e.name}\nevent\n${e.description}\n${e.group}`.toLowerCase()),
]

const fits = (rows: ScopeRows, only: ScopeKind, row: number): boolean => {
  const { catalogue } = rows
  const isEvent = row >= catalogue.variables.length
  const info = infoOf(catalogue, row)
  if (!info) return false
  if (only === 'muted') return rows.isMuted(info.name)
  // Whoever pins something wants to see it.
  if (only === 'pinned') return rows.isPinned(info.name)
  if (rows.isMuted(info.name)) return false
  switch (only) {
    case 'all':
      return true
    case 'bound':
      return rows.isBound(info.name)
    case 'moved':
      return (rows.counts[row] as number) > 0
    case 'absent':
      return !isEvent && rows.value(row) === null
    case 'undescribed':
      return info.description === ''
    case 'events':
      return isEvent
  }
}

/** Whether a word stands in a value as it is shown, or begins its figures. */
const valueHas = (rows: ScopeRows, row: number, word: string): boolean => {
  const info = rows.catalogue.variables[row]
  if (!info) return false
  const value = rows.value(row)
  if (value === null) return false
  if (typeof value === 'string') return value.toLowerCase().includes(word)
  if (/^[-−]?[\d.]+$/.test(word))
    return (
      String(value).startsWith(word.replace('−', '-')) || formatValue(value, info).replace('−', '-') === word
    )
  // Numbers have no letters, unless they stand for words.
  return (info.type === 'boolean' || info.choices !== undefined) && formatValue(value, info).includes(word)
}

type Order = (a: number, b: number) => number

const byText = (text: (row: number) => string): Order => {
  const collate = new Intl.Collator('en', { numeric: true })
  return (a, b) => collate.compare(text(a), text(b))
}

/** Numbers before texts, absent ones last whichever way it goes. */
const byValue = (rows: ScopeRows, down: boolean): Order => {
  const rank = (v: number | string | null) => (v === null ? 2 : typeof v === 'string' ? 1 : 0)
  return (a, b) => {
    const [x, y] = [rows.value(a), rows.value(b)]
    const ranks = rank(x) - rank(y)
    if (ranks !== 0) return ranks
    const way = down ? -1 : 1
    return typeof x === 'string' || typeof y === 'string'
      ? way * String(x).localeCompare(String(y))
      : way * ((x ?? 0) - (y ?? 0))
  }
}

const orderOf = (rows: ScopeRows, { by, down }: ScopeQuery['sort']): Order | null => {
  const way = down ? -1 : 1
  const turned = (order: Order): Order => (down ? (a, b) => -order(a, b) : order)
  switch (by) {
    case 'told':
      return down ? (a, b) => b - a : null
    case 'name':
      return turned(byText((row) => infoOf(rows.catalogue, row)?.name ?? ''))
    case 'group':
      return turned(byText((row) => infoOf(rows.catalogue, row)?.group ?? ''))
    case 'unit':
      return turned(byText((row) => rows.catalogue.variables[row]?.unit ?? ''))
    case 'value':
      return byValue(rows, down)
    case 'changes':
      return (a, b) => way * ((rows.counts[a] as number) - (rows.counts[b] as number))
    case 'since':
      return (a, b) => {
        // The one that changed last comes first; what never has comes last.
        const x = Number.isNaN(rows.at[a] as number) ? Number.NEGATIVE_INFINITY : (rows.at[a] as number)
        const y = Number.isNaN(rows.at[b] as number) ? Number.NEGATIVE_INFINITY : (rows.at[b] as number)
        return x === y ? 0 : way * (y > x ? 1 : -1)
      }
  }
}

/** The rows that a query wants, in its order. `texts` are those of `searchTexts`. */
export const findRows = (rows: ScopeRows, texts: readonly string[], query: ScopeQuery): number[] => {
  const words = wordsOf(query.search)
  const found: number[] = []
  for (let row = 0; row < texts.length; row++) {
    const text = texts[row] as string
    if (words.some((w) => !text.includes(w) && !valueHas(rows, row, w))) continue
    if (query.group !== null && infoOf(rows.catalogue, row)?.group !== query.group) continue
    if (!fits(rows, query.only, row)) continue
    found.push(row)
  }
  const order = orderOf(rows, query.sort)
  // Rows that are alike stay in the order in which they are told.
  return order ? found.sort((a, b) => order(a, b) || a - b) : found
}
