import type { Input, SimulatorValue } from '../engine/input'
import { type CatalogueIndex, indexCatalogue } from '../rig/simulator-catalogue'
import { joined, type Source } from '../rig/sources'
import type { Micros } from '../units-of-measure'
import type { Block } from './block'
import { type Moment, type Standing, startsOf } from './moment'
import { StandingNow } from './stands'

/** What a recording is of, looked up once. */
export class Scene {
  readonly starts: readonly number[]
  readonly isText: Uint8Array
  /** Names as they are written, with the places of what they name. */
  readonly index: CatalogueIndex

  constructor(readonly sources: readonly Source[]) {
    this.starts = startsOf(sources)
    this.index = indexCatalogue(joined(sources).catalogue)
    this.isText = Uint8Array.from(this.index.catalogue.variables, (v) => (v.type === 'text' ? 1 : 0))
  }

  idOf(source: number): string {
    return this.sources[source]?.id ?? ''
  }

  /** A kept number as the value that it stands for. */
  value(block: Block, variable: number, kept: number): SimulatorValue {
    if (Number.isNaN(kept)) return null
    return this.isText[variable] === 1 ? (block.texts[kept] ?? null) : kept
  }

  /** A frame as an engine takes it. */
  frameInput(block: Block, f: number): Extract<Input, { is: 'frame' }> {
    const { frames } = block
    const source = frames.source[f] as number
    const from = this.starts[source] as number
    const [begin, end] = [frames.start[f] as number, frames.start[f + 1] as number]
    const indexes = new Uint32Array(end - begin)
    const values: SimulatorValue[] = new Array(end - begin)
    for (let i = begin; i < end; i++) {
      const v = frames.variables[i] as number
      indexes[i - begin] = v - from
      values[i - begin] = this.value(block, v, frames.values[i] as number)
    }
    return { is: 'frame', source: this.idOf(source), indexes, values }
  }

  /** All that each source tells at a moment, as frames. */
  wholeFrames(block: Block, kept: Float64Array): Extract<Input, { is: 'frame' }>[] {
    return this.sources.map(({ id }, s) => {
      const [from, until] = [this.starts[s] as number, this.starts[s + 1] as number]
      const indexes = Uint32Array.from({ length: until - from }, (_, i) => i)
      const values = Array.from(indexes, (i) => this.value(block, from + i, kept[from + i] as number))
      return { is: 'frame', source: id, indexes, values }
    })
  }
}

export type Item =
  | { readonly at: Micros; readonly is: 'frame'; readonly frame: number }
  | { readonly at: Micros; readonly is: 'moment'; readonly moment: Moment }

/** One block, played from beginning to end; what comes next is looked at before it is taken. */
export class Reel {
  private frame = 0
  private moment = 0

  constructor(readonly block: Block) {}

  private get next(): Item | null {
    const { frames, moments } = this.block
    const moment = moments[this.moment]
    if (moment && moment.frame <= this.frame) return { at: moment.at, is: 'moment', moment }
    if (this.frame >= frames.at.length) return moment ? { at: moment.at, is: 'moment', moment } : null
    return { at: frames.at[this.frame] as number, is: 'frame', frame: this.frame }
  }

  /** When what comes next comes, or null at the end. */
  nextAt(): Micros | null {
    return this.next?.at ?? null
  }

  get isFrameNext(): boolean {
    return this.next?.is === 'frame'
  }

  take(): Item | null {
    const { next } = this
    if (next?.is === 'frame') this.frame++
    else if (next) this.moment++
    return next
  }

  /** Goes on to a moment, without anybody being told: what everything is then, and how it stands. What is at that moment itself is in. */
  skipTo(at: Micros): { readonly kept: Float64Array; readonly standing: Standing } {
    const { first, frames, standing } = this.block
    const kept = first.slice()
    const stands = new StandingNow(standing)
    for (let next = this.nextAt(); next !== null && next <= at; next = this.nextAt()) {
      const item = this.take() as Item
      if (item.is === 'moment') stands.take(item.moment)
      else {
        const end = frames.start[item.frame + 1] as number
        for (let i = frames.start[item.frame] as number; i < end; i++)
          kept[frames.variables[i] as number] = frames.values[i] as number
      }
    }
    return { kept, standing: stands.now() }
  }
}
