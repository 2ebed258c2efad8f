import type { ReadDbc } from '@/core/bus/read-dbc'

/** A database that takes longer than this to be read is not read. */
const PATIENCE_MS = 15_000

/** Reads a database file in a worker of its own. */
export const readDatabase = async (file: File): Promise<ReadDbc | { readonly problem: string }> => {
  const text = await file.text()
  const worker = new Worker(new URL('./dbc-worker.ts', import.meta.url), { type: 'module' })
  try {
    return await new Promise((resolve) => {
      const patience = setTimeout(
        () => resolve({ problem: 'This database takes too long to be read.' }),
        PATIENCE_MS,
      )
      worker.onmessage = (event: MessageEvent<ReadDbc | { problem: string }>) => {
        clearTimeout(patience)
        resolve(event.data)
      }
      worker.onerror = () => resolve({ problem: 'This database cannot be read.' })
      worker.postMessage({ text, name: file.name })
    })
  } finally {
    worker.terminate()
  }
}
