import { parentPort, workerData } from 'node:worker_threads'
import type { Block } from '../../core/recording/block'
import { databaseTrouble, openDatabase } from '../../store/database'
import {
  addBlock,
  beginRecording,
  closeForgotten,
  endRecording,
  openRecording,
  readBlock,
} from '../../store/recording-store'
import { Keeper } from './keeper'
import type { AskedOfShelf, SaidByShelf } from './shelf-thread'

/*
 * Runs beside the hub: blocks are encoded, compressed, written and read here, so that nothing of that is felt by a contact.
 */

/** A block takes a hundredth of that; what takes longer is tried again, and said. */
const MOST_MS = 4000
const RETRY_MS = 2000

const db = openDatabase(String(workerData), MOST_MS)
const say = (said: SaidByShelf) => parentPort?.postMessage(said)

const keeper = new Keeper(
  {
    block: (id, block) => addBlock(db, id, block),
    end: (id, why, armed) => endRecording(db, id, { why, armed }),
    why: databaseTrouble,
  },
  (state) => say({ say: 'state', state }),
)

let closing: Promise<void> | null = null
/** Closes what was being made when this process ended last; once, as soon as the database is there, and before anything is begun. */
const closed = (): Promise<void> => {
  closing ??= closeForgotten(db).catch((error) => {
    closing = null
    throw error
  })
  return closing
}
const closeSoon = (): void => void closed().catch(() => setTimeout(closeSoon, RETRY_MS))
closeSoon()

const buffersOf = ({ first, frames }: Block): ArrayBuffer[] =>
  [first, ...Object.values(frames)].map((a) => (a as Float64Array).buffer as ArrayBuffer)

const answered = async (ask: number, work: () => Promise<unknown>): Promise<void> => {
  try {
    const value = await work()
    const block = value !== null && typeof value === 'object' && 'frames' in value ? (value as Block) : null
    parentPort?.postMessage(
      { say: 'answer', ask, value } satisfies SaidByShelf,
      block ? buffersOf(block) : [],
    )
  } catch (error) {
    say({ say: 'refused', ask, problem: databaseTrouble(error) ?? (error as Error).message })
  }
}

parentPort?.on('message', (m: AskedOfShelf) => {
  switch (m.do) {
    case 'begin':
      void answered(m.ask, async () => {
        await closed()
        await beginRecording(db, m.recording)
      })
      break
    case 'take':
      void answered(m.ask, async () => {
        const opened = await openRecording(db, m.id)
        if (!opened) return null
        const { expected: _, rigId: __, ...taken } = opened
        return taken
      })
      break
    case 'read':
      void answered(m.ask, () => readBlock(db, m.id, m.n))
      break
    case 'settled':
      void answered(m.ask, () => keeper.settled())
      break
    case 'add':
      keeper.add(m.id, m.n, m.block, m.exact, m.marks)
      break
    case 'end':
      keeper.end(m.id, m.why, m.armed)
      break
  }
})
