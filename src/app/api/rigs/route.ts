import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { NextResponse } from 'next/server'
import { z } from 'zod'
import { simulatedCraft } from '@/core/connections/simulated-craft'
import { withoutStrangers } from '@/core/rig/connection-change'
import { addRow, type Diff } from '@/core/rig/edit'
import { MOST_RIG_BYTES } from '@/core/rig/rig-file'
import type { Database } from '@/store/database'
import {
  addRig,
  bringRigBack,
  copyRig,
  listRigs,
  type NotDone,
  openRig,
  removeRig,
  renameRig,
} from '@/store/rigs'
import { webDatabase } from '@/store/web-database'
import { bodyOf } from '../body'
import { readRigAside } from '../reader'
import { refused } from '../refused'
import { unlessAway } from '../unless-away'

const id = z.string().min(1).max(80)
const name = z.string().trim().min(1, 'a name is needed').max(120)

/** Rigs that come with Clavik: a whole cockpit, and a truck’s dashboard that serves two craft. */
const demos = ['skerry-12', 'torsk-r4'] as const

const asked = z.discriminatedUnion('do', [
  /** With a simulated craft to begin with, or with nothing to speak with. */
  z.strictObject({ do: z.literal('begin'), name, simulated: z.boolean().default(false) }),
  z.strictObject({ do: z.literal('take'), text: z.string() }),
  z.strictObject({ do: z.literal('demo'), which: z.enum(demos).default('skerry-12') }),
  z.strictObject({ do: z.literal('open'), id }),
  z.strictObject({ do: z.literal('copy'), id }),
  z.strictObject({ do: z.literal('rename'), id, name }),
  z.strictObject({ do: z.literal('remove'), id }),
  z.strictObject({ do: z.literal('bring back'), id }),
])
type Asked = z.infer<typeof asked>

const fromFile = async (db: Database, text: string): Promise<{ id: string } | NotDone> => {
  const read = await readRigAside(text)
  return 'problem' in read ? { reason: read.problem } : addRig(db, randomUUID(), withoutStrangers(read.diff))
}

/** What a rig of one's own begins with. */
const beginning = (simulated: boolean): Diff =>
  simulated
    ? [
        addRow('connection', {
          id: randomUUID(),
          name: simulatedCraft.name,
          position: 0,
          on: true,
          settings: simulatedCraft.fresh,
        }),
      ]
    : []

const done = (db: Database, a: Asked): Promise<{ id: string } | NotDone> => {
  switch (a.do) {
    case 'begin':
      return addRig(db, randomUUID(), beginning(a.simulated), a.name)
    case 'take':
      return fromFile(db, a.text)
    case 'demo':
      return fromFile(db, readFileSync(join(process.cwd(), `demo/${a.which}.rig.json`), 'utf8'))
    case 'open':
      return openRig(db, a.id)
    case 'copy':
      return copyRig(db, a.id, randomUUID())
    case 'rename':
      return renameRig(db, a.id, a.name)
    case 'remove':
      return removeRig(db, a.id)
    case 'bring back':
      return bringRigBack(db, a.id)
  }
}

/** Every rig that is kept. */
export const GET = () => unlessAway(async () => NextResponse.json({ rigs: await listRigs(webDatabase()) }))

/** The door for whole rigs: begins, takes in, opens, copies, renames one, puts it aside or brings it back. */
export const POST = async (request: Request) => {
  // A file as a text within JSON has more signs than it had.
  const body = await bodyOf(request, asked, 2 * MOST_RIG_BYTES)
  if ('problem' in body) return refused(body.problem, body.status)
  return unlessAway(async () => {
    const result = await done(webDatabase(), body.value)
    return 'reason' in result ? refused(result.reason, 409) : NextResponse.json(result)
  }, 'try again when it is back. Nothing was changed')
}
