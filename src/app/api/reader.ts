import { join } from 'node:path'
import type { PlateAnswer, PlateFile } from '@/core/drawings/read-file'
import type { RigFileRead } from '@/core/rig/rig-file'
import { asideOf } from './aside'

const MOST_S = 15
const MOST_MB = 384

/** What every file from outside is held to; what builders have takes a hundredth of the time and memory. */
const aFile = {
  mostMs: MOST_S * 1000,
  mostMb: MOST_MB,
  most: 2,
  words: {
    late: `The file takes longer than ${MOST_S} s to read; it was put aside unread.`,
    large: `The file takes more than ${MOST_MB} MB to read; it was put aside unread.`,
    failed: 'The file cannot be read',
  },
}

/** Reads a drawing aside. */
export const readAside = asideOf<PlateFile, PlateAnswer>({
  ...aFile,
  bundle: join(process.cwd(), 'build/plate-reader.mjs'),
})

/** Reads a rig file aside. */
export const readRigAside = asideOf<string, RigFileRead>({
  ...aFile,
  bundle: join(process.cwd(), 'build/rig-reader.mjs'),
})
