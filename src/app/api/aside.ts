import { Worker } from 'node:worker_threads'

/** A kind of work that is done in a thread of its own, so that no page waits for it. */
export interface Aside {
  /** The whole path of the bundle that does it. */
  readonly bundle: string
  readonly mostMs: number
  readonly mostMb: number
  /** So many at a time; the next ones wait. */
  readonly most: number
  /** How long a thread is kept for the next piece; left out where each has one of its own. */
  readonly keptMs?: number
  /** What is said of it when it takes too long or too much, or fails. */
  readonly words: { readonly late: string; readonly large: string; readonly failed: string }
}

/** How work was ended that gave no answer, in a sentence. */
export interface EndedAside {
  readonly problem: string
}

/** Work of one kind: each piece in a thread with an end to its time and its memory. */
export const asideOf = <Task, Answer>(kind: Aside): ((task: Task) => Promise<Answer | EndedAside>) => {
  const threads = new Threads(kind)
  let running = 0
  const waiting: (() => void)[] = []
  return async (task) => {
    if (running >= kind.most) await new Promise<void>((resolve) => waiting.push(resolve))
    running++
    try {
      return await inThread<Task, Answer>(kind, threads, task)
    } finally {
      running--
      waiting.shift()?.()
    }
  }
}

/** The threads of one kind of work: a new one each time, or one that is kept for a while. */
class Threads {
  private idle: Worker | null = null
  private ending: NodeJS.Timeout | undefined

  constructor(private readonly kind: Aside) {}

  take(): Worker {
    const worker = this.idle
    this.idle = null
    clearTimeout(this.ending)
    if (worker) return worker
    const { bundle, mostMb } = this.kind
    return new Worker(bundle, {
      resourceLimits: { maxOldGenerationSizeMb: mostMb, maxYoungGenerationSizeMb: 32, stackSizeMb: 4 },
    })
  }

  /** Puts one back that has done its work. */
  done(worker: Worker): void {
    worker.removeAllListeners()
    if (!this.kind.keptMs || this.idle) {
      void worker.terminate()
      return
    }
    this.idle = worker
    worker.unref()
    // One that ends by itself is not taken again.
    worker.once('exit', () => {
      if (this.idle === worker) this.idle = null
    })
    worker.on('error', () => {})
    this.ending = setTimeout(() => {
      this.idle = null
      void worker.terminate()
    }, this.kind.keptMs)
    this.ending.unref()
  }
}

const inThread = <Task, Answer>(kind: Aside, threads: Threads, task: Task): Promise<Answer | EndedAside> =>
  new Promise((resolve) => {
    const worker = threads.take()
    worker.removeAllListeners()
    const failed = (problem: string) => {
      clearTimeout(late)
      worker.removeAllListeners()
      worker.on('error', () => {})
      resolve({ problem })
      void worker.terminate()
    }
    const late = setTimeout(() => failed(kind.words.late), kind.mostMs)
    worker.once('message', (answer: Answer) => {
      clearTimeout(late)
      threads.done(worker)
      resolve(answer)
    })
    worker.once('error', (error: NodeJS.ErrnoException) =>
      failed(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? kind.words.large
          : `${kind.words.failed}: ${error.message}`,
      ),
    )
    worker.once('exit', () => failed(`${kind.words.failed}: its thread ended without a word.`))
    worker.postMessage(task)
  })
