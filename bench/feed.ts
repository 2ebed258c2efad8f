import { Engine } from '../src/core/engine/engine'
import { wantedConfiguration } from '../src/core/harness/configuration'
import { boardsOf } from '../src/core/rig/rig'
import { Feed } from '../src/hub/feed'
import { HandClient } from '../src/hub/hand-client'
import { Tab } from '../src/hub/tab'
import { craft } from '../tests/rigs'
import { manyLamps, manyVariables } from './big-rig'
import { inTurn, print, quietMs } from './measure'

const PARTS = 2_000
const VARIABLES = 4_000
const FEEDS_HZ = 30
/** What the live feed takes while nothing happens, with a tab that shows all of a large rig. */
export const benchFeed = (): void => {
  const engine = new Engine()
  const rig = manyLamps(PARTS, VARIABLES)
  engine.step({ is: 'sources', sources: [craft(manyVariables(VARIABLES))] }, 0)
  engine.step({ is: 'rig', rig, diff: null }, 0)
  for (const board of boardsOf(rig)) {
    const loaded = wantedConfiguration(rig, board.id)
    engine.step({ is: 'board', boardId: board.id, up: true, loaded, boot: 1, bytesPerS: 0 }, 0)
  }
  engine.step({ is: 'source', source: 'craft', up: true }, 0)
  engine.step({ is: 'arm', armed: true }, 0)
  const feed = new Feed(engine, new HandClient(1, ''))
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
  const { ours, ratio } = inTurn(second, () => quietMs(10), 30)
  print({
    name: `a second of the live feed while nothing happens, one tab that shows all of ${PARTS} parts, against a hundredth of a core`,
    value: ours,
    unit: 'ms',
    ratio,
    limit: 1,
  })
}
