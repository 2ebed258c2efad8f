import { randomUUID } from 'node:crypto'
import { NextResponse } from 'next/server'
import { MOST_RECORDING_BYTES } from '@/core/recording/listed'
import { openRigId } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { refused } from '../../refused'
import { unlessAway } from '../../unless-away'
import { RecordingWork } from '../work'

/** Takes a file in as a recording, as it comes: all of it that is sound, or nothing. */
export const POST = (request: Request) =>
  unlessAway(async () => {
    const tooLong = () => refused(`The file is larger than ${MOST_RECORDING_BYTES / 1e6} MB.`, 413)
    if (Number(request.headers.get('content-length') ?? 0) > MOST_RECORDING_BYTES) return tooLong()
    const said = new URL(request.url).searchParams.get('name')?.trim().slice(0, 120)
    const rigId = await openRigId(webDatabase())
    if (rigId === null) return refused('There is no rig yet.', 409)
    const id = randomUUID()
    const work = await RecordingWork.begin({ do: 'take', id, rigId, name: said || 'From a file' })
    const reader = request.body?.getReader()
    let bytes = 0
    try {
      for (;;) {
        const m = await work.next()
        if (m.say === 'refused') return refused(m.problem, 409)
        if (m.say === 'done') return NextResponse.json({ id, odd: m.odd })
        const piece = (await reader?.read()) ?? { done: true, value: undefined }
        bytes += piece.value?.byteLength ?? 0
        if (bytes > MOST_RECORDING_BYTES) return tooLong()
        work.give(piece.value ?? null)
      }
    } finally {
      await reader?.cancel().catch(() => {})
      work.end()
    }
  }, 'nothing was taken in')
