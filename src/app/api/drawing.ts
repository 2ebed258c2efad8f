import { z } from 'zod'
import { type Paper, papers } from '@/core/layout/papers'
import { madeFile } from './maker'
import { refused } from './refused'

const fileQuery = z.object({
  as: z.enum(['svg', 'dxf', 'pdf']),
  kerf: z.coerce.number().min(0).max(5).default(0),
  paper: z.enum(Object.keys(papers) as [Paper, ...Paper[]]).default('A4'),
})

/** A drawing of something in the rig as the file that was asked for, or a sentence why there is none. */
export const drawingFile = async (request: Request, is: 'panel' | 'dial', id: string): Promise<Response> => {
  const query = fileQuery.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (query.success) return madeFile({ is, id, ...query.data })
  const issue = query.error.issues[0]
  return refused(`The file is not understood: ${issue?.path.join('.')}: ${issue?.message}.`, 400)
}
