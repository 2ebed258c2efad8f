import { NextResponse } from 'next/server'
import { z } from 'zod'
import type { Database } from '@/store/database'
import type { EditResult } from '@/store/edit-store'
import { openRigId } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { bodyOf } from './body'
import { refused } from './refused'
import { unlessAway } from './unless-away'

const answer = (result: EditResult) => NextResponse.json(result, { status: result.ok ? 200 : 409 })

/** What every body says beside its own: the rig that it was made for, since another one may be open by now. */
export const meantFor = { rigId: z.string().max(80).optional() }

/** Reads a JSON body, checks it, and carries it to the rig; every way it can go wrong becomes a sentence. */
export const throughDoor = async <T extends { readonly rigId?: string | undefined }>(
  request: Request,
  schema: z.ZodType<T>,
  work: (db: Database, rigId: string, body: T) => Promise<EditResult>,
): Promise<Response> => {
  const body = await bodyOf(request, schema)
  if ('problem' in body) return refused(body.problem, body.status)
  return unlessAway(async () => {
    const db = webDatabase()
    const rigId = await openRigId(db)
    if (rigId === null) return refused('There is no rig to edit.', 409)
    if ((body.value.rigId ?? rigId) !== rigId)
      return answer({
        ok: false,
        reasons: ['It was meant for another rig than the one that is open now.'],
      })
    return answer(await work(db, rigId, body.value))
  }, 'the edit is kept here and sent again')
}
