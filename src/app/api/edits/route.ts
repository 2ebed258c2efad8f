import { z } from 'zod'
import { diffSchema } from '@/core/rig/edit-schema'
import { applyEdit } from '@/store/edit-store'
import { throughDoor } from '../door'

const body = z.object({ editId: z.uuid(), sentence: z.string().trim().min(1).max(300), diff: diffSchema })

/** The one door to the rig: applies an edit whole or not at all. */
export const POST = (request: Request) =>
  throughDoor(request, body, (db, rigId, edit) => applyEdit(db, rigId, { ...edit, who: 'builder' }))
