import { rigRow } from '@/core/rig/rig'
import { writeRigFile } from '@/core/rig/write-rig-file'
import { loadRigOf } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { fileAnswer } from '../../../file-answer'
import { refused } from '../../../refused'
import { unlessAway } from '../../../unless-away'

/** A rig as a file. What this Clavik cannot read of it is refused rather than lost. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  unlessAway(async () => {
    const loaded = await loadRigOf(webDatabase(), (await params).id)
    if (!loaded) return refused('There is no such rig.', 404)
    const aside = loaded.setAside[0]
    if (aside) return refused(`The file would not be whole: ${aside.message}`, 409)
    const name = (rigRow(loaded.rig)?.name ?? 'rig').replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'rig'
    return fileAnswer(writeRigFile(loaded.rig), 'application/json; charset=utf-8', `${name}.rig.json`)
  })
