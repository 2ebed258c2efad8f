import { z } from 'zod'
import { diffSchema, sentenceSchema } from '@/core/rig/edit-schema'
import { applyEdit } from '@/store/edit-store'
import { meantFor, throughDoor } from '../door'

const body = z.strictObject({ ...meantFor, editId: z.uuid(), sentence: sentenceSchema, diff: diffSchema })

/** The one door to the rig: applies an edit whole or not at all. */
export const POST = (request: Request) =>
  throughDoor(request, body, (db, rigId, { editId, sentence, diff }) =>
    applyEdit(db, rigId, { editId, sentence, diff, who: 'builder' }),
  )
