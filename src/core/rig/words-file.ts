import Papa from 'papaparse'
import { z } from 'zod'
import { parseOutside } from '../plain-json'
import { unitNamed } from '../signal/unit'
import { type OwnWord, saysNothing } from './own-words'

/** The largest file of words that is read. */
export const MOST_WORDS_BYTES = 8_000_000
const MOST_WORDS = 50_000

/** What was made of a file: words, and in sentences what was left out. */
export interface ReadWords {
  readonly words: readonly OwnWord[]
  readonly odd: readonly string[]
}

/** Names by which columns, and fields, go. */
const fields = {
  name: ['name', 'variable', 'event'],
  called: ['called', 'my name', 'own name', 'alias', 'label'],
  unit: ['unit', 'units'],
  description: ['description', 'words', 'comment', 'note'],
} as const
type Field = keyof typeof fields

const fieldNamed = (told: string): Field | undefined =>
  (Object.keys(fields) as Field[]).find((f) =>
    (fields[f] as readonly string[]).includes(told.trim().toLowerCase()),
  )

const text = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value).trim() : ''

/** Gathers words, and what is odd about them. */
class Gathered {
  readonly words = new Map<string, OwnWord>()
  private readonly odd = new Map<string, { lines: number[]; words: (lines: string) => string }>()

  private note(kind: string, line: number, words: (lines: string) => string): void {
    const known = this.odd.get(kind)
    if (known) known.lines.push(line)
    else this.odd.set(kind, { lines: [line], words })
  }

  add(said: Partial<Record<Field, unknown>>, line: number): void {
    const name = text(said.name)
    const word: OwnWord = {
      name: name.slice(0, 200),
      called: text(said.called).slice(0, 120),
      unit: text(said.unit).slice(0, 20) || null,
      description: text(said.description).slice(0, 500),
    }
    if (name === '' || name.length > 200) {
      this.note('name', line, (lines) => `No name that can be taken stands in ${lines}; left out.`)
      return
    }
    if (saysNothing(word)) {
      this.note('nothing', line, (lines) => `Nothing is said of the name in ${lines}; left out.`)
      return
    }
    if (this.words.has(name))
      this.note('twice', line, (lines) => `A name stands again in ${lines}; the last one counts.`)
    else if (this.words.size >= MOST_WORDS) {
      this.note('most', line, () => `It has more than ${MOST_WORDS} names; the others are left out.`)
      return
    }
    if (word.unit && !unitNamed(word.unit))
      this.note(
        `unit ${word.unit}`,
        line,
        (lines) =>
          `The unit “${word.unit}” in ${lines} is not known, so that nothing is converted; it is kept as it is.`,
      )
    this.words.set(name, word)
  }

  done(): ReadWords {
    const odd = [...this.odd.values()].map(({ lines, words }) => {
      const some = lines.slice(0, 3).join(', ')
      const more = lines.length > 3 ? ` and ${lines.length - 3} more` : ''
      return words(lines.length === 1 ? `line ${some}` : `lines ${some}${more}`)
    })
    return { words: [...this.words.values()], odd }
  }
}

const looseWord = z.looseObject({})

const readJson = (told: string): ReadWords | { readonly problem: string } => {
  const parsed = parseOutside(told)
  if ('problem' in parsed) return { problem: `It is not understood: ${parsed.problem}.` }
  const json = parsed.value as Record<string, unknown> | unknown[] | null
  const inside = Array.isArray(json) ? { list: json } : (json ?? {})
  const lists = Object.values(inside).filter((v): v is unknown[] => Array.isArray(v))
  const gathered = new Gathered()
  let n = 0
  for (const item of lists.flat()) {
    n++
    const read = looseWord.safeParse(item)
    const said: Partial<Record<Field, unknown>> = {}
    for (const [key, value] of Object.entries(read.data ?? {})) {
      const field = fieldNamed(key)
      if (field) said[field] ??= value
    }
    gathered.add(said, n)
  }
  return n === 0 ? { problem: 'It has no list of names in it.' } : gathered.done()
}

const readCsv = (told: string): ReadWords | { readonly problem: string } => {
  const { data } = Papa.parse<string[]>(told, { skipEmptyLines: 'greedy' })
  const [header = [], ...rows] = data
  const columns = header.map(fieldNamed)
  if (!columns.includes('name'))
    return {
      problem: `Its first line has no column “name”: there ${header.length === 1 ? 'is' : 'are'} ${header
        .slice(0, 6)
        .map((h) => `“${h.slice(0, 40)}”`)
        .join(', ')}.`,
    }
  const gathered = new Gathered()
  for (const [i, row] of rows.entries()) {
    const word: Partial<Record<Field, string>> = {}
    for (const [at, field] of columns.entries()) if (field) word[field] ??= row[at] ?? ''
    gathered.add(word, i + 2)
  }
  return gathered.done()
}

/** Reads a list of names with what is said of each: CSV with a first line, or JSON with a list in it. */
export const readWordsFile = (told: string): ReadWords | { readonly problem: string } => {
  const bare = told.replace(/^\uFEFF/, '')
  if (bare.trim() === '') return { problem: 'There is nothing in the file.' }
  const read = /^\s*[[{]/.test(bare) ? readJson(bare) : readCsv(bare)
  if ('problem' in read || read.words.length > 0) return read
  return { problem: ['It has no name of which it says anything.', ...read.odd].join(' ') }
}

/** All that is said of a craft's names, as a file for others. */
export const writeWordsFile = (words: readonly OwnWord[]): string =>
  `${Papa.unparse(
    [
      ['name', 'called', 'unit', 'description'],
      ...words.map((w) => [w.name, w.called, w.unit ?? '', w.description]),
    ],
    { newline: '\n' },
  )}\n`
