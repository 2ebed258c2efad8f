import { NextResponse } from 'next/server'
import { z } from 'zod'
import type { CutDrawing, Lettering } from '@/core/layout/cut-drawing'
import { type Paper, papers } from '@/core/layout/papers'
import { writeDxf } from '@/core/layout/write-dxf'
import { writePdf } from '@/core/layout/write-pdf'
import { writeSvg } from '@/core/layout/write-svg'
import type { Rig } from '@/core/rig/rig'
import { isAway } from '@/store/database'
import { loadRig } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { lettering } from './lettering'
import { refused } from './refused'

const fileQuery = z.object({
  as: z.enum(['svg', 'dxf', 'pdf']),
  kerf: z.coerce.number().min(0).max(5).default(0),
  paper: z.enum(Object.keys(papers) as [Paper, ...Paper[]]).default('A4'),
})
type FileQuery = z.infer<typeof fileQuery>

const types = { svg: 'image/svg+xml', dxf: 'application/dxf', pdf: 'application/pdf' } as const

const written = async (drawing: CutDrawing, { as, paper }: FileQuery, letters: Lettering) => {
  if (as === 'svg') return writeSvg(drawing)
  if (as === 'dxf') return writeDxf(drawing)
  return await writePdf(drawing, letters, paper)
}

/** A drawing of something in the rig as the file that was asked for, or a sentence why there is none. */
export const drawingFile = async (
  request: Request,
  draw: (rig: Rig, query: FileQuery, letters: Lettering) => CutDrawing | null,
): Promise<NextResponse> => {
  const query = fileQuery.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success) {
    const issue = query.error.issues[0]
    return refused(`The file is not understood: ${issue?.path.join('.')}: ${issue?.message}.`, 400)
  }
  try {
    const loaded = await loadRig(webDatabase())
    const letters = lettering()
    const drawing = loaded && draw(loaded.rig, query.data, letters)
    if (!drawing) return refused('There is no such drawing in the rig.', 404)
    const body = await written(drawing, query.data, letters)
    const name = drawing.name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'drawing'
    return new NextResponse(body as BodyInit, {
      headers: {
        'content-type': types[query.data.as],
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.${query.data.as}`)}`,
      },
    })
  } catch (error) {
    if (isAway(error)) return refused('The database is away; try again when it is back.', 503)
    throw error
  }
}
