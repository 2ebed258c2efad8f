import { inflateRawSync } from 'node:zlib'
import { type Block, decodeBlock } from '../src/core/recording/block'
import type { RecordedMark } from '../src/core/recording/moment'
import { Keeper, type Written } from '../src/hub/recordings/keeper'
import type { RecordingBegun, Shelf, ShelfState, TakenRecording } from '../src/hub/recordings/shelf'
import type { KeptBlock } from '../src/store/recording-store'

interface Kept extends RecordingBegun {
  readonly blocks: KeptBlock[]
  armed: boolean
  why: string | null
  ended: boolean
}

/** A shelf without a database: what is encoded, compressed and written in order is as it is elsewhere. */
export class MemoryShelf implements Shelf {
  told: (state: ShelfState) => void = () => {}
  readonly kept = new Map<string, Kept>()
  /** What writing meets with, as long as it is set. */
  refuses: Error | null = null
  /** Whether that passes. */
  passes = true
  readonly keeper: Keeper

  constructor(mostBytes?: number) {
    const must = () => {
      if (this.refuses) throw this.refuses
    }
    const written: Written = {
      block: async (id, block) => {
        must()
        this.kept.get(id)?.blocks.push(block)
      },
      end: async (id, why, armed) => {
        must()
        const kept = this.kept.get(id)
        if (kept) Object.assign(kept, { why, armed, ended: true })
      },
      why: (error) => (this.passes ? (error as Error).message : null),
    }
    this.keeper = new Keeper(written, (state) => this.told(state), mostBytes, 5)
  }

  async begin(recording: RecordingBegun): Promise<void> {
    if (this.refuses) throw this.refuses
    this.kept.set(recording.id, { ...recording, blocks: [], armed: false, why: null, ended: false })
  }

  add(id: string, n: number, block: Block, exact: Uint8Array, marks: readonly RecordedMark[]): void {
    this.keeper.add(id, n, block, exact, marks)
  }

  end(id: string, why: string | null, armed: boolean): void {
    this.keeper.end(id, why, armed)
  }

  settled(): Promise<void> {
    return this.keeper.settled()
  }

  async take(id: string): Promise<TakenRecording | null> {
    const kept = this.kept.get(id)
    if (!kept) return null
    const { name, blocks, sources, armed } = kept
    return {
      id,
      name,
      head: { sources, armed },
      from: 0,
      until: blocks.at(-1)?.until ?? 0,
      marks: blocks.flatMap((b) => b.marks),
      blocks,
    }
  }

  async read(id: string, n: number): Promise<Block | null> {
    const block = this.kept.get(id)?.blocks.find((b) => b.n === n)
    return block ? decodeBlock(inflateRawSync(block.bytes)) : null
  }
}
