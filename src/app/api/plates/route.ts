import { NextResponse } from 'next/server'
import { MOST_BYTES } from '@/core/layout/read-svg'
import { textOf } from '../body'
import { readAside } from '../reader'
import { refused } from '../refused'

/**
 * Reads a plate out of an SVG or DXF file: its text is the body, ?name says what it is called, ?unit what its numbers
 * measure in millimetres where the file does not say. Changes nothing.
 */
export const POST = async (request: Request) => {
  const query = new URL(request.url).searchParams
  const text = await textOf(request, MOST_BYTES)
  if ('problem' in text) return refused(text.problem, text.status)
  const asked = Number(query.get('unit') ?? 0)
  const answer = await readAside({
    text: text.value,
    name: query.get('name') ?? '',
    unitMm: asked > 0 && asked < 10_000 ? asked : null,
  })
  return 'problem' in answer ? refused(answer.problem, 422) : NextResponse.json(answer)
}
