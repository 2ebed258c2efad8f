import { z } from 'zod'
import type { BoardModel } from '../catalogue/board-model'
import { ownBoard } from '../catalogue/own-board'
import { type OwnKind, ownKind } from '../catalogue/own-kind'

const FORMAT = 1
const MOST_CHARACTERS = 100_000
/** So many faults are named; a builder mends them and reads the file again. */
const MOST_NAMED = 3

/** A device of one's own as a file to share. */
const write = (word: 'part' | 'board', own: OwnKind | BoardModel): string =>
  `${JSON.stringify({ clavik: word, format: FORMAT, [word]: own }, null, 2)}\n`

export const writePartFile = (own: OwnKind): string => write('part', own)
export const writeBoardFile = (own: BoardModel): string => write('board', own)

/** `pins.3.number` with the name of what lies there, where it has one. */
const placeWords = (value: unknown, path: readonly PropertyKey[], word: string): string => {
  let at: unknown = value
  let named = ''
  for (const key of path) {
    at = (at as Record<PropertyKey, unknown> | undefined)?.[key]
    const name = (at as { name?: unknown } | undefined)?.name
    if (typeof key === 'number' && typeof name === 'string') named = ` (${name})`
  }
  return `${path.join('.') || word}${named}`
}

const read = <T>(
  word: 'part' | 'board',
  schema: z.ZodType<T>,
  text: string,
): { own: T } | { problem: string } => {
  if (text.length > MOST_CHARACTERS) return { problem: `This is too large for a ${word} file.` }
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (error) {
    return { problem: `This is not a ${word} file: ${(error as Error).message}.` }
  }
  const outer = z
    .object({ clavik: z.string(), format: z.number().int(), [word]: z.unknown().optional() })
    .safeParse(json)
  if (!outer.success) return { problem: `This is not a ${word} file.` }
  const { clavik, format } = outer.data as { clavik: string; format: number }
  if (clavik !== word) return { problem: `This is a ${clavik.slice(0, 20)} file, not a ${word} file.` }
  if (format > FORMAT)
    return { problem: `This ${word} file has format ${format}; this Clavik reads up to ${FORMAT}.` }
  const value = (outer.data as Record<string, unknown>)[word]
  const checked = schema.safeParse(value)
  if (checked.success) return { own: checked.data }
  const { issues } = checked.error
  const faults = issues.slice(0, MOST_NAMED).map((i) => `${placeWords(value, i.path, word)}: ${i.message}`)
  const more = issues.length > faults.length ? `; and ${issues.length - faults.length} more` : ''
  return { problem: `The ${word} in this file is not valid: ${faults.join('; ')}${more}.` }
}

/** Reads a part file, or says in a sentence what is wrong with it. */
export const readPartFile = (text: string): { own: OwnKind } | { problem: string } =>
  read('part', ownKind, text)

/** Reads a board file, or says in a sentence what is wrong with it and where. */
export const readBoardFile = (text: string): { own: BoardModel } | { problem: string } =>
  read('board', ownBoard, text)
