import { readFileSync } from 'node:fs'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { Engine } from '../src/core/engine/engine'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { apply } from '../src/core/rig/edit'
import { boardsOf, emptyRig } from '../src/core/rig/rig'
import { readRigFile } from '../src/core/rig/rig-file'
import { Feed } from '../src/hub/feed'
import { HandClient } from '../src/hub/hand-client'
import { Tab } from '../src/hub/tab'
import { makeCraft, STEPS_HZ } from '../src/standins/craft/craft'
import { randomFrom } from '../src/standins/craft/world'
import { craft as sourceOf } from '../tests/rigs'
import { print } from './measure'

const HOUR_S = 3600
const SETTLED_S = 600
const FRAME_HZ = 30
/** How many knobs, buttons and levers are worked in each second. */
const MOVEMENTS_A_SECOND = 10

setFlagsFromString('--expose-gc')
const collect = runInNewContext('gc') as () => void

const heap = (): number => {
  collect()
  collect()
  return process.memoryUsage().heapUsed / 1e6
}

/** An hour of the mail run with the demo rig, its controls worked all the time and a tab that looks at everything. */
export const benchMemory = (): void => {
  const file = readRigFile(readFileSync('demo/skerry-12.rig.json', 'utf8'))
  if ('problem' in file) throw new Error(file.problem)
  const rig = apply(emptyRig(), file.diff)
  const craft = makeCraft(12)
  const { variables, events } = craft.world
  const engine = new Engine()
  const feed = new Feed(engine, new HandClient(1, ''))
  let bytes = 0
  const tab = new Tab({
    send: (text) => {
      bytes += text.length
    },
    isFull: () => false,
  })
  tab.watchesAll = true
  tab.selected = 'radio-knob'
  const tabs = new Set([tab])
  const random = randomFrom(4)
  let now = 0
  const step = (input: Parameters<Engine['step']>[0]): void => {
    for (const e of engine.step(input, now)) {
      if (e.is === 'set') craft.world.set(e.variable, e.value)
      else if (e.is === 'event') events[e.event]?.act(Number(e.value ?? 0))
      else continue
      engine.step({ is: 'answer', request: e.request, problem: null }, now)
    }
  }
  step({
    is: 'sources',
    sources: [
      sourceOf({
        craft: 'Skerry 12',
        variables: variables.map((v) => v.info),
        events: events.map((e) => e.info),
      }),
    ],
  })
  step({ is: 'rig', rig, diff: null })
  tab.show('paths', [...engine.units.keys()])
  for (const board of boardsOf(rig)) {
    const loaded = wantedConfiguration(rig, board.id)
    step({ is: 'board', boardId: board.id, up: true, loaded, boot: 1, bytesPerS: 0 })
  }
  step({ is: 'source', source: 'craft', up: true })
  step({ is: 'arm', armed: true })
  const controls = [...engine.units.values()].flatMap((u) => u.controls).filter((c) => c.slot >= 0)
  const work = (): void => {
    const control = controls[Math.floor(random() * controls.length)]
    if (!control) return
    const most = control.aspect.kind === 'positions' ? 2 ** control.terminals.length : 1024
    const value =
      control.aspect.kind === 'encoder' ? ((control.raw ?? 0) + 4) & 0xffff : Math.floor(random() * most)
    step({ is: 'report', boardId: control.board?.id ?? '', slot: control.slot, value })
  }
  const told = variables.map(() => undefined as number | string | null | undefined)
  let settled = 0
  for (let second = 0; second < HOUR_S; second++) {
    if (second === SETTLED_S) settled = heap()
    for (let f = 0; f < FRAME_HZ; f++) {
      now += 1000 / FRAME_HZ
      for (let k = 0; k < STEPS_HZ / FRAME_HZ; k++) craft.step()
      const indexes: number[] = []
      for (const [i, v] of variables.entries()) {
        if (told[i] === v.value) continue
        told[i] = v.value
        indexes.push(i)
      }
      step({ is: 'frame', source: 'craft', indexes, values: indexes.map((i) => told[i] ?? null) })
      if (f % (FRAME_HZ / MOVEMENTS_A_SECOND) === 0) work()
      // A tab is told ten times a second here, so that the hour takes less than a minute.
      if (f % 3 === 0) feed.run(tabs)
    }
  }
  const end = heap()
  print({
    name: 'memory of engine and feed after an hour of the mail run, against after ten minutes',
    value: end,
    unit: 'MB',
    ratio: end / settled,
    limit: 1.05,
  })
  print({
    name: 'the same: told to a tab that looks at everything',
    value: bytes / HOUR_S / 1000,
    unit: 'kB/s',
  })
}
