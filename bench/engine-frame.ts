import { batch, effect, signal } from '@preact/signals-core'
import { Engine } from '../src/core/engine/engine'
import { packLamp } from '../src/core/signal/lamp-state'
import { randomFrom } from '../src/standins/craft/world'
import { craft } from '../tests/rigs'
import { manyLamps, manyVariables, readBy } from './big-rig'
import { inTurn, print } from './measure'

const VARIABLES = 10_000
const BINDINGS = 5_000
const CHANGES = 1_000
const FRAMES = 200

/** The same graph twice: our engine, and hand-written closures in @preact/signals-core. */
export const benchEngineFrame = (): void => {
  const random = randomFrom(1)
  const frames = Array.from({ length: FRAMES }, () => {
    const indexes = new Set<number>()
    while (indexes.size < CHANGES) indexes.add(Math.floor(random() * VARIABLES))
    return { indexes: [...indexes], values: Array.from({ length: CHANGES }, () => random() * 2) }
  })

  const engine = new Engine()
  engine.step({ is: 'sources', sources: [craft(manyVariables(VARIABLES))] }, 0)
  engine.step({ is: 'rig', rig: manyLamps(BINDINGS, VARIABLES), diff: null }, 0)
  engine.step(
    {
      is: 'frame',
      source: 'craft',
      indexes: Array.from({ length: VARIABLES }, (_, i) => i),
      values: new Array<number>(VARIABLES).fill(0),
    },
    0,
  )
  engine.step({ is: 'source', source: 'craft', up: true }, 0)
  engine.step({ is: 'arm', armed: true }, 0)
  let now = 0
  const ours = () => {
    for (const f of frames) {
      now += 33
      engine.step({ is: 'frame', source: 'craft', indexes: f.indexes, values: f.values }, now)
      // What has changed is told others, 30 times a second.
      engine.changes.clear()
    }
  }

  const signals = Array.from({ length: VARIABLES }, () => signal(0))
  const shown = new Int32Array(BINDINGS)
  const value = (i: number): number => (signals[i] as { value: number }).value
  for (let i = 0; i < BINDINGS; i++) {
    const { source, limit, gate } = readBy(i, VARIABLES)
    effect(() => {
      const gated = value(gate) > -1
      const input = value(source)
      const edge = value(limit)
      const packed = !gated ? 0 : input > edge + 0.5 ? 255 : input > edge ? packLamp(1, 2) : 0
      if (shown[i] !== packed) shown[i] = packed
    })
  }
  const reference = () => {
    for (const f of frames) {
      batch(() => {
        for (let k = 0; k < CHANGES; k++)
          (signals[f.indexes[k] as number] as { value: number }).value = f.values[k] as number
      })
    }
  }

  const times = inTurn(ours, reference, 15)
  print({
    name: 'engine frame: 10,000 variables, 5,000 bindings, 1,000 changes, against @preact/signals-core',
    value: times.ours / FRAMES,
    unit: 'ms',
    ratio: times.ratio,
    limit: 1,
  })
}
