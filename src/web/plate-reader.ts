import { parentPort, workerData } from 'node:worker_threads'
import { type PlateFile, readPlateFile } from '../core/layout/read-plate-file'

/** Runs beside the web process: what a file does to its reader, it does here. */
try {
  parentPort?.postMessage(readPlateFile(workerData as PlateFile))
} catch (error) {
  parentPort?.postMessage({ problem: `The file cannot be read: ${(error as Error).message}` })
}
