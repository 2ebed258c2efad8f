import Papa from 'papaparse'
import type { Change } from '../../rig/edit'
import { FORMULA } from './csv'

/** What a list from a spreadsheet changes, and what of it was left out, in sentences. */
export interface ListRead {
  readonly changes: readonly Change[]
  readonly left: readonly string[]
}

/** What makes a table such a list, in its first line, and how that is said. */
export interface ListKind {
  readonly name: string
  readonly isOne: (has: (field: string) => boolean) => boolean
  readonly must: string
}

/** A table's lines, each with its number in the file and its cells by the name at the head of their column. */
export type ListLine = readonly [number, (field: string) => string | undefined]

const MOST_CHARACTERS = 2_000_000
const MOST_SAID = 8

/** What a spreadsheet was kept from taking for a formula comes back with its apostrophe. */
const plain = (cell: string | undefined): string => {
  const text = (cell ?? '').trim()
  return text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text
}

/** The lines of a list that came back from a spreadsheet; one that is no such list is refused whole, with a sentence why. */
export const readList = (
  text: string,
  { name, isOne, must }: ListKind,
): { readonly lines: readonly ListLine[] } | { readonly problem: string } => {
  if (text.length > MOST_CHARACTERS) return { problem: `This is too large for a ${name}.` }
  // Tables saved by some spreadsheets begin with a mark of their encoding.
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true })
  const [head, ...rows] = data
  const fields = (head ?? []).map((f) => plain(f).toLowerCase())
  if (!isOne((f) => fields.includes(f)))
    return { problem: `This is not a ${name}: its first line must name ${must}.` }
  const broken = errors.find((e) => e.type === 'Quotes')
  if (broken)
    return {
      problem: `The list is damaged in line ${(broken.row ?? 0) + 1}: ${broken.message}. Nothing was taken.`,
    }
  const lines = rows.map(
    (row, i): ListLine => [
      i + 2,
      (field) => (fields.includes(field) ? plain(row[fields.indexOf(field)]) : undefined),
    ],
  )
  return { lines }
}

/** What was left out, cut where it would be too much to read. */
export const shortened = (left: readonly string[]): readonly string[] => {
  const more = left.length - MOST_SAID
  return more > 0 ? [...left.slice(0, MOST_SAID), `and ${more} more`] : left
}
