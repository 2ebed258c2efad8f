import { z } from 'zod'
import { type OwnKind, ownKind } from '../catalogue/own-kind'

const PART_FORMAT = 1
const MOST_CHARACTERS = 100_000

const file = z.object({ clavik: z.literal('part'), format: z.number().int(), part: z.unknown() })

/** A part of one's own as a file to share. */
export const writePartFile = (own: OwnKind): string =>
  `${JSON.stringify({ clavik: 'part', format: PART_FORMAT, part: own }, null, 2)}\n`

/** Reads a part file, or says in a sentence what is wrong with it. */
export const readPartFile = (text: string): { own: OwnKind } | { problem: string } => {
  if (text.length > MOST_CHARACTERS) return { problem: 'This is too large for a part file.' }
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (error) {
    return { problem: `This is not a part file: ${(error as Error).message}.` }
  }
  const outer = file.safeParse(json)
  if (!outer.success) return { problem: 'This is not a part file.' }
  if (outer.data.format > PART_FORMAT)
    return {
      problem: `This part file has format ${outer.data.format}; this Clavik reads up to ${PART_FORMAT}.`,
    }
  const read = ownKind.safeParse(outer.data.part)
  if (read.success) return { own: read.data }
  const issue = read.error.issues[0]
  return {
    problem: `The part in this file is not valid: ${issue?.path.join('.') || 'part'}: ${issue?.message}.`,
  }
}
