import type { SimulatorValue } from '../../engine/input'
import type { Micros } from '../../units-of-measure'
import type { Block } from '../block'
import type { Moment, Standing } from '../moment'
import { Reel, type Scene } from '../reel'

/** A piece of a recording on its way to a file, its time counted from where the recording begins to count. */
export type Passage =
  | {
      readonly is: 'whole'
      readonly at: Micros
      readonly values: readonly SimulatorValue[]
      readonly standing: Standing
    }
  | {
      readonly is: 'frame'
      readonly at: Micros
      readonly source: number
      readonly told: number
      readonly variables: readonly number[]
      readonly values: readonly SimulatorValue[]
    }
  | { readonly is: 'moment'; readonly at: Micros; readonly moment: Moment }

/** What a block has between two times: where it is the first one, everything as it stands there before what comes. */
export function* passagesOf(
  scene: Scene,
  block: Block,
  from: Micros,
  until: Micros,
  isFirst: boolean,
): Iterable<Passage> {
  const reel = new Reel(block)
  const begin = Math.max(from, block.from)
  const { kept, standing } = reel.skipTo(isFirst ? begin : begin - 1)
  if (isFirst) {
    const values = Array.from(kept, (k, v) => scene.value(block, v, k))
    yield { is: 'whole', at: begin - from, values, standing }
  }
  const { frames } = block
  for (let at = reel.nextAt(); at !== null && at <= until; at = reel.nextAt()) {
    const item = reel.take()
    if (item?.is === 'moment') yield { is: 'moment', at: at - from, moment: item.moment }
    if (item?.is !== 'frame') continue
    const f = item.frame
    const range = [frames.start[f] as number, frames.start[f + 1] as number] as const
    const variables = Array.from(frames.variables.subarray(...range))
    const values = Array.from(frames.values.subarray(...range), (k, i) =>
      scene.value(block, variables[i] as number, k),
    )
    const [source, told] = [frames.source[f] as number, frames.told[f] as number]
    yield { is: 'frame', at: at - from, source, told, variables, values }
  }
}
