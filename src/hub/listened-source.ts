import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import type { RawReaders } from '../links/raw-reader'
import type { Line } from './lines/line'
import { Rate } from './rate'
import type { SourceClient, SourceEvents } from './source-client'
import { ToldValues } from './told-values'

/** How long it is said that something odd came. */
export const SAID_MS = 5000

/** What sources have in common that are only listened to: nobody asks them anything, and they take no orders. */
export abstract class ListenedSource implements SourceClient {
  readonly carries = 'source'
  readonly rate = new Rate(performance.now())
  readonly delayMs = null
  up = false
  problem: string | null = 'not opened yet'
  cure: string | null = null
  bad = 0
  protected readonly values = new ToldValues()
  protected heardAt = 0
  private quiet = false

  constructor(
    readonly connection: string,
    protected readonly events: SourceEvents,
  ) {}

  abstract readonly line: Line
  abstract readonly catalogue: SimulatorCatalogue
  abstract readonly rawReaders: () => RawReaders
  abstract get odd(): readonly string[]
  abstract check(now: number): void
  /** Why a value cannot be set, or an event sent. */
  protected abstract readonly refuses: { readonly set: string; readonly event: string }

  get craft(): string {
    return ''
  }

  open(): void {
    this.line.open()
  }

  close(why: string): void {
    this.line.end()
    this.lost(why)
  }

  /** It is there from now on. */
  protected arrived(): void {
    this.problem = null
    this.cure = null
    if (this.up) return
    this.up = true
    this.heardAt = performance.now()
    this.quiet = false
    this.events.up(true)
  }

  protected lost(problem: string, cure: string | null = null): void {
    this.problem = problem
    this.cure = cure
    if (!this.up) return
    // It may come back as another, or say only what differs from then on.
    this.values.lose()
    this.tellChanges()
    this.up = false
    this.events.up(false)
  }

  protected tellQuiet(quiet: boolean): void {
    if (quiet === this.quiet) return
    this.quiet = quiet
    this.events.quiet(quiet)
  }

  /** Tells what has changed since it was last told. */
  protected tellChanges(at = performance.now() / 1000): void {
    const { indexes, values } = this.values.take()
    if (indexes.length > 0) this.events.frame(indexes, values, at)
  }

  subscribe(asked: number[] | 'all', anew: boolean): void {
    if (anew) this.values.forget()
    this.values.want(asked)
    this.tellChanges()
  }

  askEcho(): void {}

  set(request: number, _variable?: number, _value?: number | string): void {
    this.events.answer(request, this.refuses.set)
  }

  event(request: number): void {
    this.events.answer(request, this.refuses.event)
  }

  excuse(now: number): void {
    this.heardAt = Math.max(this.heardAt, now)
  }
}
