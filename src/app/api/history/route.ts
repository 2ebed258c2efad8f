import { NextResponse } from 'next/server'
import { z } from 'zod'
import { noHistory } from '@/core/rig/history-summary'
import { isAway } from '@/store/database'
import { stepHistory, summary } from '@/store/edit-store'
import { openRigId } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { meantFor, throughDoor } from '../door'

const body = z.strictObject({ ...meantFor, way: z.enum(['undo', 'redo']), editId: z.uuid() })

/** Undoes or redoes one edit. */
export const POST = (request: Request) =>
  throughDoor(request, body, (db, rigId, { way, editId }) => stepHistory(db, rigId, way, 'builder', editId))

/** What undo and redo would do. */
export const GET = async () => {
  try {
    const db = webDatabase()
    const rigId = await openRigId(db)
    return NextResponse.json(rigId === null ? noHistory : await summary(db, rigId))
  } catch (error) {
    if (isAway(error)) return NextResponse.json(noHistory, { status: 503 })
    throw error
  }
}
