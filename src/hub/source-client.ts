import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import type { RawReaders } from '../links/raw-reader'
import type { Line } from './lines/line'
import type { Rate } from './rate'

/** What comes of what a source says. */
export interface SourceEvents {
  readonly described: () => void
  readonly up: (up: boolean) => void
  /** Values have stopped coming, or come again, while the source is there. */
  readonly quiet: (quiet: boolean) => void
  /** `told` is the source’s own time, as it said it. */
  readonly frame: (indexes: number[], values: (number | string | boolean | null)[], told: number) => void
  readonly answer: (request: number, problem: string | null) => void
}

/** Whoever speaks with one source of values, whatever its kind. */
export interface SourceClient {
  readonly carries: 'source'
  /** The row of the rig that it is. */
  readonly connection: string
  readonly line: Line
  /** What it tells, as it said last, and of what. */
  readonly catalogue: SimulatorCatalogue | null
  readonly craft: string
  readonly up: boolean
  /** Why it is not up, or what is wrong although it is, and what the builder can do about it. */
  readonly problem: string | null
  readonly cure: string | null
  /** Milliseconds from a question to its answer, when last measured; null where nothing is asked. */
  readonly delayMs: number | null
  /** What came and was not understood. */
  readonly bad: number
  /** What is odd about what it tells, in sentences. */
  readonly odd: readonly string[]
  readonly rate: Rate
  /** Readers for eyes of what comes and of what goes. */
  readonly rawReaders: () => RawReaders
  open(): void
  /** Lets go of it for good. */
  close(why: string): void
  /** Asks for just these of its values, if that differs from what was asked. */
  subscribe(asked: number[] | 'all', anew: boolean): void
  askEcho(heard?: ((ms: number) => void) | null): void
  set(request: number, variable: number, value: number | string): void
  event(request: number, event: number, value: number | string | null): void
  /** This process was kept from running: what has come meanwhile is read before anybody counts as gone. */
  excuse(now: number): void
  /** To be called several times a second: notices what has gone quiet. */
  check(now: number): void
}
