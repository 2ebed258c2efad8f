import type { Micros } from '../units-of-measure'
import type { Block } from './block'
import type { RecordingHead } from './moment'
import type { RecordedSeries } from './packed-series'
import { Reel, Scene } from './reel'

/** Gathers what some variables were, block by block. Texts have no line and are left out; so is what the recording has not. */
export class SeriesOf {
  private readonly wanted: readonly { name: string; variable: number; times: Micros[]; values: number[] }[]
  private readonly of = new Map<number, { times: Micros[]; values: number[] }>()
  private begun = false

  constructor(
    { sources }: RecordingHead,
    names: readonly string[],
    private readonly from: Micros,
    private readonly until: Micros,
  ) {
    const scene = new Scene(sources)
    const { variable: index } = scene.index
    this.wanted = names.flatMap((name) => {
      const variable = index.get(name)
      if (variable === undefined || scene.isText[variable] === 1) return []
      return [{ name, variable, times: [], values: [] }]
    })
    for (const one of this.wanted) this.of.set(one.variable, one)
  }

  play(block: Block): void {
    const { frames } = block
    const reel = new Reel(block)
    if (!this.begun) {
      const { kept } = reel.skipTo(Math.max(this.from, block.from))
      for (const one of this.wanted) {
        one.times.push(0)
        one.values.push(kept[one.variable] as number)
      }
    }
    for (let f = 0; f < frames.at.length; f++) {
      const at = frames.at[f] as number
      if (at > this.until) break
      if (at < this.from) continue
      for (let i = frames.start[f] as number; i < (frames.start[f + 1] as number); i++) {
        const one = this.of.get(frames.variables[i] as number)
        if (!one) continue
        one.times.push(at - this.from)
        one.values.push(frames.values[i] as number)
      }
    }
    this.begun = true
  }

  done(): RecordedSeries[] {
    return this.wanted.map(({ name, times, values }) => ({
      name,
      times: Float64Array.from(times),
      values: Float64Array.from(values),
    }))
  }
}
