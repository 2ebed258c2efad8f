import { expect, it } from 'vitest'
import { catalogue, smallRig } from '../../tests/rigs'
import { Engine } from '../core/engine/engine'
import type { Source } from '../core/rig/sources'
import { freshMemory } from './memory'
import { HubSources } from './sources'

it('a source whose values the engine has lost is asked for all of them anew, although it went on speaking', () => {
  const engine = new Engine()
  engine.step({ is: 'rig', rig: smallRig({}), diff: null }, 0)
  const asked: [string, boolean][] = []
  const client = (connection: string) => ({
    ...{ carries: 'source', connection, up: true },
    subscribe: (_: unknown, anew: boolean) => asked.push([connection, anew]),
  })
  let told: Source[] = []
  const sources = new HubSources({
    engine,
    file: { memory: freshMemory(), keep: () => {} } as never,
    connections: () => ({ sources: () => told, client, sourceClients: () => [] }) as never,
    recordings: () => ({ played: null, stop: () => {} }) as never,
    scope: () => ({}) as never,
    step: (input) => void engine.step(input, 0),
    changed: () => {},
    status: () => {},
    sent: () => {},
    wantsAll: () => true,
  })
  const source = (id: string, of = catalogue): Source => ({
    id,
    name: id,
    on: true,
    prefix: `${id}.`,
    catalogue: of,
  })
  told = [source('a'), source('b')]
  sources.take('a')
  // The one that has just described itself is asked by whoever heard that.
  expect(asked.filter(([, anew]) => anew)).toEqual([['b', true]])
  engine.step({ is: 'frame', source: 'a', indexes: [1], values: [28] }, 0)
  asked.length = 0
  // The same told by a list that is another: its values are gone.
  told = [source('a', { ...catalogue }), told[1] as Source]
  sources.take()
  expect(engine.variables.read(1)).toBe(null)
  expect(asked.filter(([, anew]) => anew)).toEqual([['a', true]])
  asked.length = 0
  sources.take()
  expect(asked).toEqual([])
})
