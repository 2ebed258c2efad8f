import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { makeCraft } from '../../standins/craft/craft'
import { variableOf } from '../bus/database'
import { clusterDatabase } from '../connections/cluster-database'
import { outgoingOf } from '../connections/connections'
import { torskLayout } from '../connections/torsk-layout'
import { LayoutReader } from '../datagrams/read-datagram'
import { harnessFindings } from '../harness/findings/findings'
import { pressVariables } from '../keys/keys'
import { fitFindings } from '../layout/fit/fit'
import { apply } from '../rig/edit'
import { emptyRig, panelsOf, rowsOf, screensOf } from '../rig/rig'
import { readRigFile } from '../rig/rig-file'
import type { SimulatorCatalogue } from '../rig/simulator-catalogue'
import { partsOfKey } from '../screens/screen-key'
import { Engine } from './engine'

const readDemo = (name: string) => {
  const read = readRigFile(readFileSync(new URL(`../../../demo/${name}.rig.json`, import.meta.url), 'utf8'))
  if ('problem' in read) throw new Error(read.problem)
  return apply(emptyRig(), read.diff)
}

const source = (id: string, prefix: string, catalogue: SimulatorCatalogue) => ({
  id,
  name: id,
  on: true,
  prefix,
  catalogue,
})
const world = makeCraft(12).world
const sources = [
  source('truck', 'truck.', {
    craft: 'Torsk R4',
    variables: new LayoutReader(torskLayout).variables,
    events: [],
  }),
  source('craft', '', {
    craft: 'Skerry 12',
    variables: world.variables.map((v) => v.info),
    events: world.events.map((e) => e.info),
  }),
  source('keys', '', { craft: '', variables: [...pressVariables], events: [] }),
]

it.each(['torsk', null])('every path of the truck’s dashboard is sound, whatever is flown: %s', (set) => {
  const rig = readDemo('torsk-r4')
  const engine = new Engine()
  engine.step({ is: 'sources', sources }, 0)
  engine.step({ is: 'rig', rig, diff: null }, 0)
  engine.step({ is: 'craft set', set }, 0)
  const mistakes = [...engine.units.values()].flatMap((u) =>
    u.programs.flatMap((p) => p.mistakes.map((m) => `${u.part.name}: ${m.message}`)),
  )
  expect(mistakes).toEqual([])
  // One panel, two craft: under both sets something hangs on the large needles.
  for (const id of ['revs', 'speed', 'water', 'gear', 'display'])
    expect(engine.units.get(id)?.programs.length, id).toBe(1)
  const sent = rowsOf(rig, 'connection').flatMap((c) =>
    outgoingOf(c.settings).map(({ key }) => engine.outgoing.now(c.id, key).problem),
  )
  expect(sent).toEqual(new Array(8).fill(null))
})

it.each(['torsk-r4', 'skerry-12'])(
  'every property of the screens of %s that follows a value can be worked out',
  (name) => {
    const rig = readDemo(name)
    const engine = new Engine()
    engine.step({ is: 'sources', sources }, 0)
    engine.step({ is: 'rig', rig, diff: null }, 0)
    const cells = screensOf(rig).flatMap((s) => engine.screens.cells(s.id))
    expect(cells.length).toBeGreaterThan(15)
    const names = (key: string) => rig.element[partsOfKey(key)[0]]?.name ?? key
    expect(cells.flatMap((c) => (c.problem === null ? [] : [`${names(c.key)}: ${c.problem}`]))).toEqual([])
  },
)

it('the truck’s dashboard fits, is wired without a finding, and its cluster takes what it is sent', () => {
  const rig = readDemo('torsk-r4')
  expect(harnessFindings(rig).map((f) => f.words)).toEqual([])
  expect(panelsOf(rig).flatMap((p) => fitFindings(rig, p).map((f) => f.words))).toEqual([])
  const cluster = rowsOf(rig, 'connection').find((c) => c.settings.kind === 'simulated cluster')?.settings
  if (cluster?.kind !== 'simulated cluster') throw new Error('no cluster')
  expect(cluster.database).toEqual(clusterDatabase)
  const signals = new Set(clusterDatabase.messages.flatMap((m) => m.signals.map((s) => variableOf(m, s))))
  for (const s of cluster.send)
    for (const v of s.values) expect(signals.has(`${s.message}.${v.signal}`)).toBe(true)
})
