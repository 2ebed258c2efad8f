import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { PlateAnswer, PlateFile } from '@/core/layout/read-plate-file'

/** What reading a file may take; drawings of panels take a hundredth of it. */
const MOST_MS = 15_000
const MOST_MB = 384
/** So many are read at a time; the next ones wait. */
const MOST_READERS = 2

let reading = 0
const waiting: (() => void)[] = []

/** Reads a file in a thread of its own, with an end to its time and its memory: the pages of others wait for nobody. */
export const readAside = async (file: PlateFile): Promise<PlateAnswer> => {
  if (reading >= MOST_READERS) await new Promise<void>((resolve) => waiting.push(resolve))
  reading++
  try {
    return await inThread(file)
  } finally {
    reading--
    waiting.shift()?.()
  }
}

const inThread = (file: PlateFile): Promise<PlateAnswer> =>
  new Promise((resolve) => {
    const worker = new Worker(join(process.cwd(), 'build/plate-reader.mjs'), {
      workerData: file,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MB, maxYoungGenerationSizeMb: 32, stackSizeMb: 4 },
    })
    const end = (answer: PlateAnswer) => {
      clearTimeout(late)
      resolve(answer)
      void worker.terminate()
    }
    const late = setTimeout(
      () =>
        end({ problem: `The file takes longer than ${MOST_MS / 1000} s to read; it was put aside unread.` }),
      MOST_MS,
    )
    worker.once('message', (answer: PlateAnswer) => end(answer))
    worker.once('error', (error: NodeJS.ErrnoException) =>
      end({
        problem:
          error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? `The file takes more than ${MOST_MB} MB to read; it was put aside unread.`
            : `The file cannot be read: ${error.message}`,
      }),
    )
    worker.once('exit', () => end({ problem: 'The file cannot be read: its reader ended without a word.' }))
  })
