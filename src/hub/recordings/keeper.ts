import { deflateRawSync } from 'node:zlib'
import { type Block, encodeBlock } from '../../core/recording/block'
import type { RecordedMark } from '../../core/recording/moment'
import type { Micros } from '../../core/units-of-measure'
import type { KeptBlock } from '../../store/recording-store'
import type { ShelfState } from './shelf'

/** What a database that is away may let wait here. */
const MOST_WAITING_BYTES = 64 * 1024 * 1024
const RETRY_MS = 1000

/** What nothing shows, and changes more often, is kept once in so long: five times a second, or less often where there is much of it. */
const THIN_US: Micros = 200_000
const THINNEST_US: Micros = 2_000_000
/** So much a recording may take in a second: 220 MB in an hour. */
const BUDGET_BYTES_PER_S = 60_000

/** How often things are kept from here on, after a block that came to so many bytes. */
const nextSpan = (span: Micros, bytes: number, length: Micros): Micros => {
  const share = bytes / Math.max(1, length / 1e6) / BUDGET_BYTES_PER_S
  // Somewhat more than it takes, and back slowly.
  const wanted = share > 1 ? span * share * 1.1 : share < 0.5 ? span * 0.8 : span
  return Math.min(THINNEST_US, Math.max(THIN_US, wanted))
}

/** Where things are written; what it throws is told by `why`. */
export interface Written {
  readonly block: (id: string, block: KeptBlock) => Promise<void>
  readonly end: (id: string, why: string | null, armed: boolean) => Promise<void>
  /** Why it cannot be written now, in a sentence; null where trying again is no use. */
  readonly why: (error: unknown) => string | null
}

type Job =
  | { readonly id: string; readonly do: 'block'; readonly block: KeptBlock }
  | { readonly id: string; readonly do: 'end'; readonly why: string | null; readonly armed: boolean }

const bytesOf = (job: Job): number => (job.do === 'block' ? job.block.bytes.length : 0)

/** Encodes blocks and writes them in their order, however long that takes; what cannot wait any longer is given up, and said. */
export class Keeper {
  private readonly jobs: Job[] = []
  private waitingBytes = 0
  private problem: string | null = null
  private running = false
  /** By recording, how often what nothing shows is kept. */
  private readonly spans = new Map<string, Micros>()
  /** Recordings of which nothing more is taken, and why. */
  private readonly lost = new Map<string, string>()
  private readonly idle: (() => void)[] = []

  constructor(
    private readonly written: Written,
    private readonly tell: (state: ShelfState) => void,
    private readonly mostBytes = MOST_WAITING_BYTES,
    private readonly retryMs = RETRY_MS,
  ) {}

  add(id: string, n: number, block: Block, exact: Uint8Array, marks: readonly RecordedMark[]): void {
    if (this.lost.has(id)) return
    if (this.waitingBytes > this.mostBytes) {
      this.lose(id, `${this.problem ?? 'it cannot be written'}, and no more of it can wait here`)
      return
    }
    const span = this.spans.get(id) ?? THIN_US
    const thinning = { isExact: (v: number) => exact[v] === 1, span, mostHz: 1e6 / span }
    const bytes = deflateRawSync(encodeBlock(block, thinning))
    this.spans.set(id, nextSpan(span, bytes.length, block.until - block.from))
    this.put({ id, do: 'block', block: { n, from: block.from, until: block.until, bytes, marks } })
  }

  end(id: string, why: string | null, armed: boolean): void {
    this.spans.delete(id)
    this.put({ id, do: 'end', why: this.lost.get(id) ?? why, armed })
  }

  /** Resolves once nothing waits. */
  settled(): Promise<void> {
    return this.jobs.length === 0 && !this.running
      ? Promise.resolve()
      : new Promise((resolve) => this.idle.push(resolve))
  }

  private put(job: Job): void {
    this.jobs.push(job)
    this.waitingBytes += bytesOf(job)
    if (!this.running) void this.run()
  }

  private lose(id: string, why: string): void {
    this.lost.set(id, why)
    this.say({ id, why })
  }

  private say(lost: ShelfState['lost'] = null): void {
    this.tell({ waitingBytes: this.waitingBytes, problem: this.problem, lost })
  }

  private async run(): Promise<void> {
    this.running = true
    for (let job = this.jobs[0]; job; job = this.jobs[0]) {
      try {
        if (job.do === 'block') await this.written.block(job.id, job.block)
        else await this.written.end(job.id, job.why, job.armed)
        this.problem = null
      } catch (error) {
        const why = this.written.why(error)
        if (why !== null) {
          this.problem = why
          this.say()
          await new Promise((resolve) => setTimeout(resolve, this.retryMs))
          continue
        }
        if (!this.lost.has(job.id)) this.lose(job.id, (error as Error).message)
      }
      this.jobs.shift()
      this.waitingBytes -= bytesOf(job)
      this.say()
    }
    this.running = false
    for (const resolve of this.idle.splice(0)) resolve()
  }
}
