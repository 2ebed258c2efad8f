import { parentPort } from 'node:worker_threads'
import type { PaperAsked } from '../core/paper-asked'
import { makePaper } from './make-paper'

/** Runs beside the web process: letters become curves and sheets become PDF here, and no page waits for it. */
parentPort?.on('message', async (asked: PaperAsked) => {
  try {
    parentPort?.postMessage(await makePaper(asked))
  } catch (error) {
    parentPort?.postMessage({ problem: `It cannot be made: ${(error as Error).message}` })
  }
})
