import { Engine } from '../src/core/engine/engine'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { boardsOf } from '../src/core/rig/rig'
import { Feed } from '../src/hub/feed'
import { HandClient } from '../src/hub/hand-client'
import { Tab } from '../src/hub/tab'
import { manyLamps, manyVariables } from './big-rig'
import { inTurn, print } from './measure'

const PARTS = 2_000
const VARIABLES = 4_000
const FEEDS_HZ = 30
/**
 * Work whose time on a quiet core of this kind is known, 1 ms, so that a share of a core can be told on a busy one:
 * so many turns of a loop that does sums.
 */
const TURNS_A_MS = 1_000_000
const referenceMs = (): void => {
  let x = 1
  for (let i = 0; i < TURNS_A_MS; i++) x = (Math.imul(x, 1_103_515_245) + 12_345) | 0
  if (x === 42) process.stdout.write('')
}

/** What the live feed takes while nothing happens, with a tab that shows all of a large rig. */
export const benchFeed = (): void => {
  const engine = new Engine()
  const rig = manyLamps(PARTS, VARIABLES)
  engine.step({ is: 'catalogue', catalogue: manyVariables(VARIABLES) }, 0)
  engine.step({ is: 'rig', rig, diff: null }, 0)
  for (const board of boardsOf(rig)) {
    const loaded = wantedConfiguration(rig, board.id)
    engine.step({ is: 'board', boardId: board.id, up: true, loaded, boot: 1, bytesPerS: 0 }, 0)
  }
  engine.step({ is: 'simulator', up: true }, 0)
  engine.step({ is: 'arm', armed: true }, 0)
  const feed = new Feed(engine, new HandClient(1, () => {}))
  const tab = new Tab({ send: () => {}, isFull: () => false })
  const ids = [...engine.units.keys()]
  tab.show('parts', ids)
  tab.show('says', ids)
  tab.show('paths', ids)
  tab.wantsAgreements = true
  tab.selected = ids[0] ?? null
  const tabs = new Set([tab])
  feed.run(tabs)
  // A second of the feed against ten milliseconds of work: a hundredth of a core.
  const second = (): void => {
    for (let i = 0; i < FEEDS_HZ; i++) feed.run(tabs)
  }
  const hundredth = (): void => {
    for (let i = 0; i < 10; i++) referenceMs()
  }
  const { ours, reference } = inTurn(second, hundredth, 30)
  print({
    name: `a second of the live feed while nothing happens, one tab that shows all of ${PARTS} parts, against a hundredth of a core`,
    value: ours,
    unit: 'ms',
    ratio: ours / reference,
    limit: 1,
  })
}
