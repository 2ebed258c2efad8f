import { NextResponse } from 'next/server'
import { z } from 'zod'
import type { Database } from '@/store/database'
import {
  deleteRecording,
  keepExpected,
  listRecordings,
  renameRecording,
  trimRecording,
} from '@/store/recording-store'
import { webDatabase } from '@/store/web-database'
import { bodyOf } from '../body'
import { refused } from '../refused'
import { unlessAway } from '../unless-away'
import { workOnce } from './work'

const id = z.string().min(1).max(80)
const us = z.number().min(0)

const asked = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('rename'),
    id,
    name: z.string().trim().min(1, 'a name is needed').max(120),
  }),
  z.strictObject({ do: z.literal('delete'), id }),
  z.strictObject({ do: z.literal('trim'), id, from: us, until: us }),
  /** What the panel shows with it now is what it is to show from now on; or it is an example no longer. */
  z.strictObject({ do: z.literal('keep'), id }),
  z.strictObject({ do: z.literal('release'), id }),
])

const gone = 'There is no such recording any more.'

/** Does what is asked; why that cannot be, or null. */
const done = async (db: Database, a: z.infer<typeof asked>): Promise<string | null> => {
  switch (a.do) {
    case 'rename':
      return (await renameRecording(db, a.id, a.name)) ? null : gone
    case 'delete':
      return (await deleteRecording(db, a.id)) ? null : gone
    case 'trim':
      return (await trimRecording(db, a.id, a.from, a.until))
        ? null
        : 'It cannot be trimmed to that: it is shorter, or still being made.'
    case 'release':
      await keepExpected(db, a.id, null)
      return null
    case 'keep': {
      const said = await workOnce({ do: 'keep', id: a.id })
      return said.say === 'refused' ? said.problem : null
    }
  }
}

/** Every recording that is kept. */
export const GET = () =>
  unlessAway(async () => NextResponse.json({ recordings: await listRecordings(webDatabase()) }))

/** The door for recordings: names, deletes and trims one, keeps it as an example or no longer. */
export const POST = async (request: Request) => {
  const body = await bodyOf(request, asked)
  if ('problem' in body) return refused(body.problem, body.status)
  return unlessAway(async () => {
    const problem = await done(webDatabase(), body.value)
    return problem === null ? NextResponse.json({}) : refused(problem, 409)
  }, 'nothing was changed')
}
