import { NextResponse } from 'next/server'
import { z } from 'zod'
import { ownWord } from '@/core/rig/own-words'
import { MOST_WORDS_BYTES, readWordsFile } from '@/core/rig/words-file'
import { webDatabase } from '@/store/web-database'
import { keepWords } from '@/store/word-store'
import { bodyOf } from '../body'
import { refused } from '../refused'
import { unlessAway } from '../unless-away'

const craft = z.string().min(1, 'the craft has to be known').max(200)

const asked = z.union([
  z.strictObject({ craft, words: z.array(ownWord).max(1000) }),
  /** A file, as text. */
  z.strictObject({ craft, text: z.string() }),
])

/** The door for what the builder says of a craft's names: of some, or of all that a file has. */
export const POST = async (request: Request) => {
  const body = await bodyOf(request, asked, 2 * MOST_WORDS_BYTES)
  if ('problem' in body) return refused(body.problem, body.status)
  const { value } = body
  const read = 'text' in value ? readWordsFile(value.text) : { words: value.words, odd: [] }
  if ('problem' in read) return refused(read.problem, 409)
  return unlessAway(async () => {
    await keepWords(webDatabase(), value.craft, read.words)
    return NextResponse.json({ count: read.words.length, odd: read.odd })
  }, 'nothing was kept')
}
