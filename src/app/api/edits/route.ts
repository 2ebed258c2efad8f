import { z } from 'zod'
import { diffSchema, sentenceSchema } from '@/core/rig/edit-schema'
import { applyEdit } from '@/store/edit-store'
import { throughDoor } from '../door'

const body = z.strictObject({ editId: z.uuid(), sentence: sentenceSchema, diff: diffSchema })

/** The one door to the rig: applies an edit whole or not at all. */
export const POST = (request: Request) =>
  throughDoor(request, body, (db, rigId, edit) => applyEdit(db, rigId, { ...edit, who: 'builder' }))
