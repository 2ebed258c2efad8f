import { Engine } from '../src/core/engine/engine'
import type { Input } from '../src/core/engine/input'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { type Block, decodeBlock, encodeBlock } from '../src/core/recording/block'
import { Example } from '../src/core/recording/example'
import { Recorder } from '../src/core/recording/recorder'
import type { SimulatorCatalogue } from '../src/core/rig/simulator-catalogue'
import { Keeper } from '../src/hub/recordings/keeper'
import { makeCraft } from '../src/standins/craft/craft'
import { randomFrom } from '../src/standins/craft/world'
import { craft as sourceOf } from '../tests/rigs'
import { manyLamps, manyVariables } from './big-rig'
import { print, slownessNow } from './measure'

const VARIABLES = 20_000
const CHANGES_A_FRAME = 6_000
const HZ = 30
const SECONDS = 120
const HOUR_S = 3600
const MOST_MB_AN_HOUR = 300
const PARTS = 500
const ROUNDS = 5

type Frame = Extract<Input, { is: 'frame' }>

/** So many of them are held at once that plain arrays would make this a bench of the memory. */
const plain = (indexes: readonly number[], values: readonly number[]): Frame => ({
  is: 'frame',
  source: 'craft',
  indexes: Uint32Array.from(indexes),
  values: Float64Array.from(values),
})

/** Any 6,000 of 20,000, anywhere between 0 and 100: nothing that could be foreseen. */
const noise = (): { catalogue: SimulatorCatalogue; frame: (n: number) => Frame } => {
  const random = randomFrom(5)
  return {
    catalogue: manyVariables(VARIABLES),
    frame: () => {
      const indexes = Array.from({ length: CHANGES_A_FRAME }, () => Math.floor(random() * VARIABLES))
      return plain(
        indexes,
        indexes.map(() => Math.round(random() * 1000) / 10),
      )
    },
  }
}

/** The simulated craft with as many further variables, a third of which walks about. */
const walks = (): ReturnType<typeof noise> => {
  const craft = makeCraft(12, VARIABLES)
  const { variables, events } = craft.world
  const told: unknown[] = []
  return {
    catalogue: {
      craft: 'Skerry 12',
      variables: variables.map((v) => v.info),
      events: events.map((e) => e.info),
    },
    frame: () => {
      craft.step()
      craft.step()
      const indexes: number[] = []
      const values: number[] = []
      for (const [i, { value }] of variables.entries()) {
        if (typeof value === 'string' || value === null) continue
        const is = Number(Number(value).toPrecision(9))
        if (told[i] === is) continue
        told[i] = is
        indexes.push(i)
        values.push(is)
      }
      return plain(indexes, values)
    },
  }
}

const measured = async (name: string, { catalogue, frame }: ReturnType<typeof noise>): Promise<void> => {
  const sources = [sourceOf(catalogue)]
  const rig = manyLamps(PARTS, VARIABLES)
  const frames = Array.from({ length: SECONDS * HZ }, (_, n) => frame(n))
  const engine = new Engine()
  engine.step({ is: 'sources', sources }, 0)
  engine.step({ is: 'rig', rig, diff: null }, 0)
  for (const boardId of Object.keys(rig.board)) {
    const loaded = wantedConfiguration(rig, boardId)
    engine.step({ is: 'board', boardId, up: true, loaded, boot: 1, bytesPerS: 0 }, 0)
  }
  engine.step({ is: 'source', source: 'craft', up: true }, 0)
  engine.step({ is: 'arm', armed: true }, 0)
  const blocks: Block[] = []
  let now = 0
  const run = (recorder: Recorder | null): number => {
    const began = performance.now()
    for (const f of frames) {
      now += 1000 / HZ
      recorder?.note(f, now)
      const effects = engine.step(f, now)
      recorder?.ordered(effects)
    }
    return performance.now() - began
  }
  const chosen = new Uint8Array(catalogue.variables.length).fill(1)
  // What the hub has to do with these frames in any case: read them as they come over the line.
  const told = frames.map((f) => JSON.stringify({ i: Array.from(f.indexes), v: Array.from(f.values) }))
  const read = (): number => {
    const began = performance.now()
    for (const text of told) JSON.parse(text)
    return performance.now() - began
  }
  const without: number[] = []
  const withIt: number[] = []
  const reading: number[] = []
  for (let i = 0; i < ROUNDS; i++) {
    without.push(run(null))
    blocks.length = 0
    const recorder = new Recorder(engine, sources, chosen, now, (b) => blocks.push(b))
    withIt.push(run(recorder))
    recorder.end(now)
    reading.push(read())
  }
  const exact = new Uint8Array(catalogue.variables.length)
  for (const v of engine.variablesInUse()) exact[v] = 1
  let bytes = 0
  const kept: Uint8Array[] = []
  const keeper = new Keeper(
    {
      block: async (_, b) => {
        bytes += b.bytes.length
        kept.push(b.bytes)
      },
      end: async () => {},
      why: () => null,
    },
    () => {},
  )
  const encoding = performance.now()
  for (const [n, b] of blocks.entries()) keeper.add('one', n, b, exact, [])
  const encodedMs = performance.now() - encoding
  await keeper.settled()
  const anHour = (bytes / SECONDS) * HOUR_S
  const [slow, quick] = [Math.min(...withIt), Math.min(...without)]
  const slowness = await slownessNow()
  const lines = [
    ['an hour on the disk', anHour / 1e6, 'MB', MOST_MB_AN_HOUR],
    ['in the hub, against 5% of a quiet core', (slow - quick) / 1000 / SECONDS, 'cores', 0.05 * slowness],
    ['beside it, against half a quiet core', encodedMs / 1000 / SECONDS, 'cores', 0.5 * slowness],
  ] as const
  for (const [what, value, unit, limit] of lines)
    print({ name: `recording, ${name}: ${what}`, value, unit, ratio: value / limit, limit: 1 })
  print({
    name: `recording, ${name}: in the hub, to reading the frames`,
    value: slow - quick,
    unit: 'ms',
    ratio: (slow - quick) / Math.min(...reading),
    limit: 0.5,
  })
}

/** How much faster than it was an example is played with a rig. */
const benchExample = (): void => {
  const { catalogue, frame } = noise()
  const sources = [sourceOf(catalogue)]
  const rig = manyLamps(PARTS, VARIABLES)
  const engine = new Engine()
  engine.step({ is: 'sources', sources }, 0)
  const blocks: Block[] = []
  const chosen = new Uint8Array(VARIABLES).fill(1)
  const recorder = new Recorder(engine, sources, chosen, 0, (b) => blocks.push(decodeBlock(encodeBlock(b))))
  for (let n = 1; n <= 20 * HZ; n++) recorder.note(frame(n), (n * 1000) / HZ)
  recorder.end(20_000)
  const began = performance.now()
  const example = new Example({ sources, armed: true }, rig, 0, Number.POSITIVE_INFINITY)
  for (const b of blocks) example.play(b)
  example.shown()
  const value = 20_000 / (performance.now() - began)
  print({ name: 'recording: an example of 500 lamps, times as fast as it was', value, unit: '×' })
}

/** What a recording takes: in the way of the engine, beside it, and on the disk. */
export const benchRecording = async (): Promise<void> => {
  await measured('anything at any time', noise())
  await measured('the simulated craft', walks())
  benchExample()
}
