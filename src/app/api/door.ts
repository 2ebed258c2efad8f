import { NextResponse } from 'next/server'
import type { z } from 'zod'
import { type Database, isAway } from '@/store/database'
import type { EditResult } from '@/store/edit-store'
import { openRigId } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'

const away = () =>
  NextResponse.json(
    { reasons: ['The database is away; the edit is kept here and sent again.'] },
    { status: 503 },
  )

const answer = (result: EditResult) => NextResponse.json(result, { status: result.ok ? 200 : 409 })

/** Reads a JSON body, checks it, and carries it to the rig; every way it can go wrong becomes a sentence. */
export const throughDoor = async <T>(
  request: Request,
  schema: z.ZodType<T>,
  work: (db: Database, rigId: string, body: T) => Promise<EditResult>,
): Promise<NextResponse> => {
  if (!request.headers.get('content-type')?.startsWith('application/json')) {
    return NextResponse.json({ reasons: ['An edit comes as application/json.'] }, { status: 415 })
  }
  const body = schema.safeParse(await request.json().catch(() => null))
  if (!body.success) {
    const issue = body.error.issues[0]
    const reason = `The edit is not understood: ${issue?.path.join('.') || 'body'}: ${issue?.message}.`
    return NextResponse.json({ reasons: [reason] }, { status: 400 })
  }
  try {
    const db = webDatabase()
    const rigId = await openRigId(db)
    if (rigId === null) return NextResponse.json({ reasons: ['There is no rig to edit.'] }, { status: 409 })
    return answer(await work(db, rigId, body.data))
  } catch (error) {
    if (isAway(error)) return away()
    throw error
  }
}
