import { parentPort } from 'node:worker_threads'
import { readRigFile } from '../core/rig/rig-file'

/** Runs beside the web process: a rig file is parsed and checked here, row by row. */
parentPort?.once('message', (text: string) => {
  try {
    parentPort?.postMessage(readRigFile(text))
  } catch (error) {
    parentPort?.postMessage({ problem: `The file cannot be read: ${(error as Error).message}` })
  }
})
