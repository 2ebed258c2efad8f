import { expect, it } from 'vitest'
import { catalogue, craft, smallRig, V } from '../../../tests/rigs'
import { deviceDescription } from '../device-line/description'
import { addRow, apply } from '../rig/edit'
import { Engine } from './engine'

const rigSending = (...values: { value: string; unit?: string }[]) =>
  apply(smallRig({}), [
    addRow('connection', {
      ...{ id: 'd', name: 'Display', position: 1, on: true },
      settings: {
        ...{ kind: 'device tcp', host: '127.0.0.1', port: 9, prefix: '' },
        description: deviceDescription.parse({ send: values.map((v, i) => ({ name: `v${i}`, ...v })) }),
      },
    }),
  ])

const flying = (...values: { value: string; unit?: string }[]) => {
  const engine = new Engine()
  engine.step({ is: 'sources', sources: [craft(catalogue)] }, 0)
  engine.step({ is: 'rig', rig: rigSending(...values), diff: null }, 0)
  engine.step({ is: 'frame', source: 'craft', indexes: [V.speed, V.height], values: [100, 1000] }, 0)
  engine.step({ is: 'source', source: 'craft', up: true }, 0)
  return engine
}

it('what goes out is what the craft says, in the unit that is wanted', () => {
  const engine = flying(
    { value: 'speed', unit: 'km/h' },
    { value: 'height > 500 ? "high" : "low"' },
    { value: '7' },
  )
  expect(engine.outgoing.now('d', '0').value).toBeCloseTo(185.2, 9)
  expect(engine.outgoing.now('d', '1')).toEqual({ value: 'high', problem: null })
  expect(engine.variablesInUse().has(V.speed)).toBe(true)
  expect(engine.outgoing.now('d', '9')).toEqual({ value: null, problem: null })
  expect(engine.outgoing.now('nobody', '0')).toEqual({ value: null, problem: null })
})

it('what a source told that has gone is not known any more, and does not stand still as if it were there', () => {
  const engine = flying({ value: 'speed' }, { value: '7' }, { value: 'otherwise(speed, 0)' })
  engine.step({ is: 'source', source: 'craft', up: false }, 1)
  expect(engine.outgoing.now('d', '0').value).toBe(null)
  expect(engine.outgoing.now('d', '2').value).toBe(null)
  // What needs nobody goes on.
  expect(engine.outgoing.now('d', '1').value).toBe(7)
  engine.step({ is: 'source', source: 'craft', up: true }, 2)
  expect(engine.outgoing.now('d', '0').value).toBe(100)
})

it('a value that cannot be worked out says why, and no other is the worse for it', () => {
  const engine = flying({ value: 'speed +' }, { value: 'height' }, { value: 'volts.of.nobody' })
  expect(engine.outgoing.now('d', '0').problem).not.toBe(null)
  expect(engine.outgoing.now('d', '1')).toEqual({ value: 1000, problem: null })
  expect(engine.outgoing.now('d', '2').problem).toContain('volts.of.nobody')
})
