import { parentPort } from 'node:worker_threads'
import { type PlateFile, readPlateFile } from '../core/drawings/read-file'

/** Runs beside the web process: what a file does to its reader, it does here. */
parentPort?.once('message', (file: PlateFile) => {
  try {
    parentPort?.postMessage(readPlateFile(file))
  } catch (error) {
    parentPort?.postMessage({ problem: `The file cannot be read: ${(error as Error).message}` })
  }
})
