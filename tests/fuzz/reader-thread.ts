import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { buildSync } from 'esbuild'
import type { PlateAnswer, PlateFile } from '../../src/core/drawings/read-file'

/** What takes longer is put aside, as the web process does it. */
const MOST_MS = 2000
const source = `
import { parentPort } from 'node:worker_threads'
import { readPlateFile } from './src/core/drawings/read-file'
parentPort.on('message', (file) => {
  try {
    parentPort.postMessage(readPlateFile(file))
  } catch (error) {
    parentPort.postMessage({ problem: 'thrown: ' + error.message })
  }
})`

const root = fileURLToPath(new URL('../..', import.meta.url))
let bundle: string | null = null
let thread: Worker | null = null

const started = (): Worker => {
  if (bundle === null) {
    bundle = join(root, 'build/fuzz-reader.mjs')
    buildSync({
      stdin: { contents: source, resolveDir: root, loader: 'ts' },
      bundle: true,
      packages: 'external',
      platform: 'node',
      format: 'esm',
      outfile: bundle,
      logLevel: 'error',
    })
  }
  thread ??= new Worker(bundle, { resourceLimits: { maxOldGenerationSizeMb: 256 } })
  return thread
}

/** Reads a drawing as the web process does: in a thread with an end to its time and memory. */
export const readInThread = (file: PlateFile): Promise<PlateAnswer> =>
  new Promise((resolve) => {
    const reader = started()
    const end = (answer: PlateAnswer, goesOn: boolean) => {
      clearTimeout(late)
      reader.off('message', answered)
      reader.off('error', failed)
      if (!goesOn) {
        thread = null
        void reader.terminate()
      }
      resolve(answer)
    }
    const late = setTimeout(() => end({ problem: 'it takes too long' }, false), MOST_MS)
    const answered = (answer: PlateAnswer) => end(answer, true)
    const failed = () => end({ problem: 'it takes too much' }, false)
    reader.on('message', answered)
    reader.on('error', failed)
    reader.postMessage(file)
  })

/** Ends the thread; one that is in the middle of something is not waited for. */
export const endThread = (): void => {
  thread?.unref()
  void thread?.terminate()
  thread = null
}
