import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { AskedOfWork, SaidByWork } from '@/core/recording/work'

const MOST_S = 300
const MOST_MB = 1500
/** So many at a time; the next ones wait. */
const MOST = 2

let running = 0
const waiting: (() => void)[] = []
const place = async (): Promise<void> => {
  if (running >= MOST) await new Promise<void>((resolve) => waiting.push(resolve))
  running++
}
const leave = (): void => {
  running--
  waiting.shift()?.()
}

/** A thread that does one piece of work on recordings, and is ended when it takes too long or too much. */
export class RecordingWork {
  private readonly worker = new Worker(join(process.cwd(), 'build/recording-work.mjs'), {
    resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
  })
  private readonly said: SaidByWork[] = []
  private heard: (() => void) | null = null
  private ended = false
  private readonly late = setTimeout(() => {
    this.refuse(`It takes longer than ${MOST_S / 60} minutes; it was given up.`)
    this.end()
  }, MOST_S * 1000)

  /** Begins it as soon as there is room for one more. */
  static async begin(asked: AskedOfWork): Promise<RecordingWork> {
    await place()
    return new RecordingWork(asked)
  }

  private constructor(asked: AskedOfWork) {
    this.worker.on('message', (m: SaidByWork) => this.hear(m))
    this.worker.on('error', (error: NodeJS.ErrnoException) =>
      this.refuse(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? `It takes more than ${MOST_MB} MB; it was given up.`
          : `It went wrong: ${error.message}.`,
      ),
    )
    this.worker.on('exit', () => {
      clearTimeout(this.late)
      leave()
      if (!this.ended) this.refuse('Its thread ended without a word.')
    })
    this.worker.postMessage(asked)
  }

  private hear(m: SaidByWork): void {
    if (m.say !== 'more' && m.say !== 'file' && m.say !== 'text') this.ended = true
    this.said.push(m)
    this.heard?.()
  }

  private refuse(problem: string): void {
    if (!this.ended) this.hear({ say: 'refused', problem })
  }

  /** What it says next. */
  async next(): Promise<SaidByWork> {
    while (this.said.length === 0)
      await new Promise<void>((resolve) => {
        this.heard = resolve
      })
    return this.said.shift() as SaidByWork
  }

  give(bytes: Uint8Array | null): void {
    this.worker.postMessage({ do: 'piece', bytes } satisfies AskedOfWork)
  }

  end(): void {
    clearTimeout(this.late)
    void this.worker.terminate()
  }
}

/** Work that is asked once and answers once. */
export const workOnce = async (asked: AskedOfWork): Promise<SaidByWork> => {
  const work = await RecordingWork.begin(asked)
  try {
    return await work.next()
  } finally {
    work.end()
  }
}
