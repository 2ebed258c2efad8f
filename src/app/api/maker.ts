import { join } from 'node:path'
import type { MadePaper, NotMade, PaperAsked } from '@/core/paper-asked'
import { loadRig } from '@/store/rig-store'
import { webDatabase } from '@/store/web-database'
import { asideOf, type EndedAside } from './aside'
import { fileAnswer } from './file-answer'
import { refused } from './refused'
import { unlessAway } from './unless-away'

const MOST_S = 60
const MOST_MB = 512

const makeAside = asideOf<PaperAsked, MadePaper | NotMade | null>({
  bundle: join(process.cwd(), 'build/paper-maker.mjs'),
  mostMs: MOST_S * 1000,
  mostMb: MOST_MB,
  most: 2,
  keptMs: 30_000,
  words: {
    late: `It takes longer than ${MOST_S} s to make; it was given up.`,
    large: `It takes more than ${MOST_MB} MB to make; it was given up.`,
    failed: 'It cannot be made',
  },
})

const isEnded = (made: MadePaper | NotMade | EndedAside): made is EndedAside => 'problem' in made

/** Something of the rig as a file, made aside; or a sentence why there is none. */
export const madeFile = (asked: PaperAsked['asked']): Promise<Response> =>
  unlessAway(async () => {
    const loaded = await loadRig(webDatabase())
    const nothing = () => refused('There is nothing of that in the rig to make a file of.', 404)
    if (!loaded) return nothing()
    const made = await makeAside({
      rig: loaded.rig,
      revision: loaded.revision,
      date: new Date().toISOString().slice(0, 10),
      asked,
    })
    if (made === null) return nothing()
    if (isEnded(made)) return refused(made.problem, 500)
    if ('refused' in made) return refused(made.refused, 422)
    return fileAnswer(made.body as BodyInit, made.type, made.name)
  })
