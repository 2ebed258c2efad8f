import { leaveGrounds } from '../tests/grounds'
import { benchAssignment } from './assignment'
import { benchBoardLine } from './board-line'
import { benchBus } from './bus'
import { benchCalibrate } from './calibrate'
import { benchExpression } from './compiled-expression'
import { benchConnections } from './connections'
import { benchContactToLamp } from './contact-to-lamp'
import { benchControllers } from './controllers'
import { benchDatagrams } from './datagrams'
import { benchEngineFrame } from './engine-frame'
import { benchFeed } from './feed'
import { benchFirmware } from './firmware'
import { benchMemory } from './memory'
import { benchPanel } from './panel'
import { benchRecording } from './recording'
import { benchScope } from './scope'
import { benchScreens } from './screens'
import { benchSoak } from './soak'
import { benchStore } from './store'

/** Every bench by name. `npm run bench NAME` runs those whose names begin so, `npm run bench` all. */
const benches: Readonly<Record<string, () => void | Promise<void>>> = {
  frame: benchEngineFrame,
  expression: benchExpression,
  calibrate: benchCalibrate,
  line: benchBoardLine,
  feed: benchFeed,
  memory: benchMemory,
  store: benchStore,
  assignment: benchAssignment,
  panel: benchPanel,
  recording: benchRecording,
  scope: benchScope,
  screens: benchScreens,
  contact: benchContactToLamp,
  connections: benchConnections,
  controllers: benchControllers,
  datagrams: benchDatagrams,
  bus: benchBus,
  firmware: benchFirmware,
}

/** Takes an hour, so it runs only when it is asked for by name. */
const long: Readonly<Record<string, () => Promise<void>>> = { soak: benchSoak }

const wanted = process.argv.slice(2)
const chosen = Object.keys(benches).filter((n) => wanted.length === 0 || wanted.some((w) => n.startsWith(w)))
const asked = Object.keys(long).filter((n) => wanted.includes(n))
if (chosen.length + asked.length === 0) {
  process.stderr.write(
    `There is no bench ${wanted.join(', ')}; there are ${Object.keys(benches).join(', ')}.\n`,
  )
  process.exit(2)
}
try {
  for (const name of [...chosen, ...asked]) await (benches[name] ?? long[name])?.()
} finally {
  await leaveGrounds()
}
process.exit(0)
