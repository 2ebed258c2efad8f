import { NextResponse } from 'next/server'
import { readDxf } from '@/core/layout/read-dxf'
import { plateFrom } from '@/core/layout/read-plate'
import { MOST_BYTES, readSvg } from '@/core/layout/read-svg'

const refused = (reason: string, status = 422) => NextResponse.json({ reasons: [reason] }, { status })

/**
 * Reads a plate out of an SVG or DXF file: its text is the body, ?name says what it is called, ?unit what its numbers
 * measure in millimetres where the file does not say. Changes nothing.
 */
export const POST = async (request: Request) => {
  const query = new URL(request.url).searchParams
  if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES)
    return refused('The file is larger than 8 MB.', 413)
  const text = await request.text()
  const isDxf = /\.dxf$/i.test(query.get('name') ?? '') || !text.trimStart().startsWith('<')
  const read = isDxf ? readDxf(text) : readSvg(text)
  if ('problem' in read) return refused(read.problem)
  const asked = Number(query.get('unit') ?? 0)
  const unitMm = read.unitMm ?? (asked > 0 && asked < 10_000 ? asked : null)
  if (unitMm === null) {
    if (read.found.length === 0) return refused('There are no lines in it.')
    return NextResponse.json({ unitNeeded: true })
  }
  const plate = plateFrom(read, unitMm)
  return 'problem' in plate ? refused(plate.problem) : NextResponse.json({ plate })
}
