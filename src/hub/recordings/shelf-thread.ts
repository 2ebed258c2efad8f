import { Worker } from 'node:worker_threads'
import type { Block } from '../../core/recording/block'
import type { RecordedMark } from '../../core/recording/moment'
import type { RecordingBegun, Shelf, ShelfState, TakenRecording } from './shelf'

export type AskedOfShelf =
  | { readonly do: 'begin'; readonly ask: number; readonly recording: RecordingBegun }
  | { readonly do: 'take'; readonly ask: number; readonly id: string }
  | { readonly do: 'read'; readonly ask: number; readonly id: string; readonly n: number }
  | { readonly do: 'settled'; readonly ask: number }
  | {
      readonly do: 'add'
      readonly id: string
      readonly n: number
      readonly block: Block
      readonly exact: Uint8Array
      readonly marks: readonly RecordedMark[]
    }
  | { readonly do: 'end'; readonly id: string; readonly why: string | null; readonly armed: boolean }

export type SaidByShelf =
  | { readonly say: 'answer'; readonly ask: number; readonly value: unknown }
  | { readonly say: 'refused'; readonly ask: number; readonly problem: string }
  | { readonly say: 'state'; readonly state: ShelfState }

type WithAsk = Extract<AskedOfShelf, { ask: number }>
type Asked = WithAsk extends infer A ? (A extends { ask: number } ? Omit<A, 'ask'> : never) : never

/** Where it is not known what is asked, nothing is kept. */
const nobody = (_: ShelfState): void => {}

/** The shelf in a thread of its own, on the database. One that ends is begun anew; what it was asked is refused. */
export class ThreadShelf implements Shelf {
  told: (state: ShelfState) => void = nobody
  private worker: Worker | null = null
  private asks = 0
  private readonly open = new Map<
    number,
    { resolve: (value: unknown) => void; reject: (error: Error) => void }
  >()

  constructor(
    private readonly bundle: URL,
    private readonly databaseUrl: string,
  ) {
    // At once: what was cut short by the last end is closed.
    this.thread()
  }

  private thread(): Worker {
    if (this.worker) return this.worker
    const worker = new Worker(this.bundle, { workerData: this.databaseUrl })
    this.worker = worker
    worker.unref()
    worker.on('message', (said: SaidByShelf) => this.hear(said))
    worker.on('error', (error) => {
      process.stderr.write(`hub: recordings: ${error.stack}\n`)
    })
    worker.on('exit', () => this.ended(worker))
    return worker
  }

  private ended(worker: Worker): void {
    if (this.worker !== worker) return
    this.worker = null
    for (const { reject } of this.open.values()) reject(new Error('it ended before it had answered'))
    this.open.clear()
    const lost = { id: null, why: 'what keeps recordings has failed' }
    this.told({ waitingBytes: 0, problem: null, lost })
  }

  private hear(said: SaidByShelf): void {
    if (said.say === 'state') {
      this.told(said.state)
      return
    }
    const asked = this.open.get(said.ask)
    this.open.delete(said.ask)
    if (said.say === 'answer') asked?.resolve(said.value)
    else asked?.reject(new Error(said.problem))
  }

  private ask<T>(what: Asked): Promise<T> {
    const ask = ++this.asks
    return new Promise((resolve, reject) => {
      this.open.set(ask, { resolve: resolve as (value: unknown) => void, reject })
      this.thread().postMessage({ ...what, ask })
    })
  }

  begin(recording: RecordingBegun): Promise<void> {
    return this.ask({ do: 'begin', recording })
  }

  take(id: string): Promise<TakenRecording | null> {
    return this.ask({ do: 'take', id })
  }

  read(id: string, n: number): Promise<Block | null> {
    return this.ask({ do: 'read', id, n })
  }

  settled(): Promise<void> {
    return this.ask({ do: 'settled' })
  }

  add(id: string, n: number, block: Block, exact: Uint8Array, marks: readonly RecordedMark[]): void {
    const { first, frames } = block
    const buffers = [first, ...Object.values(frames)].map((a) => (a as Float64Array).buffer as ArrayBuffer)
    this.thread().postMessage({ do: 'add', id, n, block, exact, marks } satisfies AskedOfShelf, buffers)
  }

  end(id: string, why: string | null, armed: boolean): void {
    this.thread().postMessage({ do: 'end', id, why, armed } satisfies AskedOfShelf)
  }
}
