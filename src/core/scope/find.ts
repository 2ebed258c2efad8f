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

/** Names, unit, description and group of each row in small letters: made once for a catalogue, searched at each keystroke. */
export const searchTexts = ({ variables, events }: SimulatorCatalogue): string[] => [
  ...variables.map((v) =>
    `${v.name}\n${v.unit ?? ''}\n${v.description}\n${v.group}\n${v.called ?? ''}`.toLowerCase(),
  ),
  ...events.map((e) => `${e.name}\nevent\n${e.description}\n${e.group}\n${e.called ?? ''}`.toLowerCase()),
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

/** The place of each row in the order of a text of it: worked out once for a catalogue, since collating is slow. */
const ranks = new WeakMap<SimulatorCatalogue, Map<ScopeColumn, Uint32Array>>()
const collate = new Intl.Collator('en', { numeric: true })

const textKeys = (
  catalogue: SimulatorCatalogue,
  by: 'name' | 'group' | 'unit',
  count: number,
): ArrayLike<number> => {
  let known = ranks.get(catalogue)
  if (!known) {
    known = new Map()
    ranks.set(catalogue, known)
  }
  let keys = known.get(by)
  if (!keys) {
    const texts = Array.from({ length: count }, (_, row) => {
      const info = infoOf(catalogue, row)
      return by === 'unit' ? (info && 'writable' in info ? (info.unit ?? '') : '') : (info?.[by] ?? '')
    })
    const sorted = [...new Set(texts)].sort(collate.compare)
    const place = new Map(sorted.map((text, at) => [text, at]))
    keys = Uint32Array.from(texts, (text) => place.get(text) ?? 0)
    known.set(by, keys)
  }
  return keys
}

/** What does not count stands behind everything else, whichever way is sorted. */
const LAST = Number.POSITIVE_INFINITY

/** Values as keys: numbers before texts, absent ones and events last whichever way it goes. */
const valueKeys = (rows: ScopeRows, found: readonly number[], down: boolean): Float64Array => {
  const keys = new Float64Array(found.length)
  const texts: [at: number, text: string][] = []
  for (const [at, row] of found.entries()) {
    const value = rows.value(row)
    keys[at] = value === null ? LAST : typeof value === 'number' ? (down ? -value : value) : Number.MAX_VALUE
    if (typeof value === 'string') texts.push([at, value])
  }
  texts.sort((a, b) => (down ? -1 : 1) * collate.compare(a[1], b[1]))
  // Behind all numbers, in their own order; as far apart as numbers of that size can be told.
  for (const [place, [at]] of texts.entries())
    keys[at] = Number.MAX_VALUE * (0.5 + (0.5 * (place + 1)) / (texts.length + 1))
  return keys
}

/** A key for each row that was found: the smaller comes first. Null where they stay as they are told. */
const keysOf = (
  rows: ScopeRows,
  found: readonly number[],
  sort: ScopeQuery['sort'],
  count: number,
): ArrayLike<number> | null => {
  const { by, down } = sort
  const way = down ? -1 : 1
  switch (by) {
    case 'told':
      return down ? found.map((row) => -row) : null
    case 'value':
      return valueKeys(rows, found, down)
    case 'changes':
      return Float64Array.from(found, (row) => way * (rows.counts[row] as number))
    case 'since':
      // The one that changed last comes first.
      return Float64Array.from(found, (row) => {
        const at = rows.at[row] as number
        return Number.isNaN(at) ? LAST : -way * at
      })
    default: {
      const keys = textKeys(rows.catalogue, by, count)
      return Float64Array.from(found, (row) => way * (keys[row] as number))
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
  const keys = keysOf(rows, found, query.sort, texts.length)
  if (!keys) return found
  const order = Array.from(found, (_, at) => at)
  // Rows that are alike stay in the order in which they are told.
  order.sort((a, b) => (keys[a] as number) - (keys[b] as number) || a - b)
  return order.map((at) => found[at] as number)
}
