import { NextResponse } from 'next/server'
import { z } from 'zod'
import { MOST_BYTES } from '@/core/drawings/drawing'
import { plateChoices } from '@/core/drawings/read-file'
import { bodyOf } from '../body'
import { readAside } from '../reader'
import { refused } from '../refused'

const body = z.strictObject({
  name: z.string().max(300),
  text: z.string().max(MOST_BYTES, 'The file is larger than 8 MB.'),
  choices: plateChoices,
})

/** Letters that JSON writes with more signs than one. */
const MOST_BODY = 2 * MOST_BYTES

/**
 * Reads a plate out of an SVG or DXF file, by what the builder has chosen about it so far: unit, layers, frames. Says
 * what was read and what was left out, and changes nothing.
 */
export const POST = async (request: Request) => {
  const file = await bodyOf(request, body, MOST_BODY)
  if ('problem' in file) return refused(file.problem, file.status)
  const answer = await readAside(file.value)
  return 'layers' in answer ? NextResponse.json(answer) : refused(answer.problem, 422)
}
