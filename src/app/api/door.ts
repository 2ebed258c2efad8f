import { NextResponse } from 'next/server'
import type { z } from 'zod'
import { type Database, isAway } from '@/store/database'
import type { EditResult } from '@/store/edit-store'
import { openRigId } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { jsonOf } from './body'
import { refused } from './refused'

const away = () => refused('The database is away; the edit is kept here and sent again.', 503)

const answer = (result: EditResult) => NextResponse.json(result, { status: result.ok ? 200 : 409 })

/** Reads a JSON body, checks it, and carries it to the rig; every way it can go wrong becomes a sentence. */
export const throughDoor = async <T>(
  request: Request,
  schema: z.ZodType<T>,
  work: (db: Database, rigId: string, body: T) => Promise<EditResult>,
): Promise<NextResponse> => {
  if (!request.headers.get('content-type')?.startsWith('application/json'))
    return refused('An edit comes as application/json.', 415)
  const read = await jsonOf(request)
  if ('problem' in read) return refused(read.problem, read.status)
  const body = schema.safeParse(read.value)
  if (!body.success) {
    const issue = body.error.issues[0]
    return refused(`The edit is not understood: ${issue?.path.join('.') || 'body'}: ${issue?.message}.`, 400)
  }
  try {
    const db = webDatabase()
    const rigId = await openRigId(db)
    if (rigId === null) return refused('There is no rig to edit.', 409)
    return answer(await work(db, rigId, body.data))
  } catch (error) {
    if (isAway(error)) return away()
    throw error
  }
}
