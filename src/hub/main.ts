import { z } from 'zod'
import { endWithKeeper } from '../process/end-with-keeper'
import { controllersHere } from './controllers/plugged-controllers'
import { Doing } from './doing'
import { Hub } from './hub'
import { serveLive } from './live-server'
import { MemoryFile } from './memory'
import { portsHere } from './ports'
import { ThreadShelf } from './recordings/shelf-thread'
import { RigFollower } from './rig-follower'

const settings = z.object({
  dataDir: z.string(),
  databaseUrl: z.string(),
  livePort: z.number().int(),
  handPort: z.number().int(),
  /** Folders in which serial ports are looked for beside the system's own. */
  portFolders: z.array(z.string()),
  secret: z.string(),
})

const given = settings.parse(JSON.parse(process.env.CLAVIK_HUB ?? '{}'))
const hub = new Hub(
  {
    hand: given.handPort,
    secret: given.secret,
    look: portsHere(given.portFolders),
    lookForControllers: controllersHere(),
    shelf: new ThreadShelf(new URL('./recordings.mjs', import.meta.url), given.databaseUrl),
  },
  new MemoryFile(given.dataDir),
  new Doing(given.dataDir),
)
const follower = new RigFollower(given.databaseUrl, {
  whole: (loaded) => hub.takeLoaded(loaded),
  edit: (entry) => hub.takeEdit(entry),
  database: (up) => {
    hub.database = up ? 'up' : 'down'
  },
  recordings: () => hub.recordingsChanged(),
  words: (words) => hub.takeWords(words),
})
const server = serveLive(hub, given.livePort, given.secret)
server.on('error', (error) => {
  process.stderr.write(`hub: ${error.message}\n`)
  process.exit(1)
})
server.on('listening', () => process.stdout.write('hub ready\n'))
hub.open()
follower.open()

/** What nobody expected is written down, and the cockpit goes on: links, rig and panels are worth more than a clean end. */
const unexpected = (what: string) => (error: unknown) => {
  process.stderr.write(`hub: ${what}: ${error instanceof Error ? error.stack : String(error)}\n`)
}
process.on('uncaughtException', unexpected('unexpected, going on'))
process.on('unhandledRejection', unexpected('unexpected in the background, going on'))

/** So long what was recorded last may take to be kept when the hub is to end. */
const LAST_MS = 3000

const stop = () => {
  setTimeout(() => process.exit(0), LAST_MS)
  void hub.close().finally(() => process.exit(0))
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)

/** The keeper hears from it all the time: one that hangs is noticed, and started anew. */
setInterval(() => process.send?.('alive', () => {}), 1000)
endWithKeeper(stop)
