import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, statfsSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { BundledRecording } from '../core/recording/bundled'
import { readRigFile } from '../core/rig/rig-file'
import { openDatabase } from '../store/database'
import { createRig } from '../store/edit-store'
import { migrate } from '../store/migrate'
import { addBundled } from '../store/recording-store'
import { loadRig } from '../store/rig-store'
import { buildIfNeeded } from './build'
import { isRunning, takeLock } from './lock'
import { type Options, readOptions } from './options'
import { freePorts, mustBeFree } from './ports'
import { startPostgres } from './postgres'
import { Kept } from './process'
import { inWords, PlainProblem, say } from './say'

const root = process.cwd()
const LEAST_FREE_BYTES = 200 * 1024 * 1024

/** Keeps two starts from sharing a data folder: it has one owner, and a living process behind it. */
const takeFolder = (dataDir: string): (() => void) => {
  const lock = takeLock(join(dataDir, 'lock'), 'start.mjs')
  if ('holder' in lock)
    throw new PlainProblem(
      `Clavik is already running from ${dataDir} (process ${lock.holder}); stop it or choose another folder with --data.`,
    )
  return lock.giveUp
}

/** Which programs belong to which name in the note of processes. */
const programs: Readonly<Record<string, string>> = {
  hub: 'hub.mjs',
  web: 'web.mjs',
  standins: 'standins.mjs',
}

/** Processes of a start whose keeper is gone end by themselves; they are waited for, and ended if they do not. */
const endLeftOvers = async (dataDir: string): Promise<void> => {
  let noted: Record<string, unknown> = {}
  try {
    noted = JSON.parse(readFileSync(join(dataDir, 'processes.json'), 'utf8')) as Record<string, unknown>
  } catch {
    return
  }
  const left = () =>
    Object.entries(programs).flatMap(([name, program]) => {
      const pid = Number(noted[name])
      return pid > 0 && isRunning(pid, program) ? [pid] : []
    })
  for (const signal of ['SIGTERM', 'SIGKILL'] as const) {
    for (const pid of left()) process.kill(pid, signal)
    for (let waited = 0; waited < 5000 && left().length > 0; waited += 50)
      await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

const prepareFolder = ({ dataDir, fresh }: Options): void => {
  if (fresh && existsSync(dataDir)) {
    const aside = `${dataDir}.before-${new Date().toISOString().replace(/[:.]/g, '-')}`
    takeFolder(dataDir)()
    renameSync(dataDir, aside)
    say(`Starting afresh; what was there is kept in ${aside}.`)
  }
  mkdirSync(join(dataDir, 'logs'), { recursive: true })
  const { bavail, bsize } = statfsSync(dataDir)
  if (bavail * bsize < LEAST_FREE_BYTES) {
    throw new PlainProblem(
      `The disk is nearly full: ${Math.round((bavail * bsize) / 1e6)} MB are free at ${dataDir} and 200 are needed.`,
    )
  }
}

const prepareDatabase = async (url: string): Promise<void> => {
  const db = openDatabase(url)
  try {
    await migrate(db, join(root, 'db/migrations'))
    if (await loadRig(db)) return
    const demo = readRigFile(readFileSync(join(root, 'demo/skerry-12.rig.json'), 'utf8'))
    if ('problem' in demo) throw new PlainProblem(`The demo rig cannot be read: ${demo.problem}`)
    const rigId = demo.diff.find((c) => c.table === 'rig')?.id ?? 'rig'
    await createRig(db, rigId, demo.diff)
    const mailRun = JSON.parse(readFileSync(join(root, 'build/mail-run.json'), 'utf8')) as BundledRecording
    await addBundled(db, 'mail-run', rigId, mailRun)
  } finally {
    await db.end()
  }
}

const node = (
  name: string,
  file: string,
  dataDir: string,
  env: Record<string, string>,
  started: () => void,
  more: { readonly saysAlive?: boolean; readonly mapped?: boolean } = {},
): Kept =>
  new Kept({
    name,
    saysAlive: more.saysAlive ?? false,
    command: process.execPath,
    args: [...(more.mapped === false ? [] : ['--enable-source-maps']), join(root, 'build', file)],
    env: { NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', ...env },
    readyWhen: 'ready',
    logFile: join(dataDir, 'logs', `${name}.log`),
    started,
  })

/** Which process is which, for whoever looks after this start. */
const noteProcesses = (
  dataDir: string,
  named: ReadonlyMap<string, Kept>,
  ports: Record<string, number>,
): void => {
  const pids = Object.fromEntries([...named].map(([name, kept]) => [name, kept.pid]))
  // Written beside and put in place, so that nobody ever reads half of it.
  const file = join(dataDir, 'processes.json')
  try {
    writeFileSync(`${file}.new`, JSON.stringify({ supervisor: process.pid, ...pids, ports }))
    renameSync(`${file}.new`, file)
  } catch (error) {
    // A full disk must not stop what runs.
    process.stderr.write(`${inWords(error)}\n`)
  }
}

const start = async (options: Options): Promise<void> => {
  const { port, dataDir } = options
  await mustBeFree(port)
  prepareFolder(options)
  const unlock = takeFolder(dataDir)
  await endLeftOvers(dataDir)
  const running: Kept[] = []
  let stopping = false
  const stop = async (code: number) => {
    if (stopping) return
    stopping = true
    for (const kept of running.reverse()) await kept.stop()
    unlock()
    process.exit(code)
  }
  process.on('SIGINT', () => void stop(0))
  process.on('SIGTERM', () => void stop(0))
  process.on('SIGHUP', () => void stop(0))
  try {
    await buildIfNeeded(root)
    const [pgPort, livePort, handPort] = (await freePorts(3)) as [number, number, number]
    // Known to these processes only, for as long as they run.
    const secret = randomBytes(24).toString('hex')
    const named = new Map<string, Kept>()
    const note = () => setImmediate(() => noteProcesses(dataDir, named, { livePort, handPort }))
    const craft = node(
      'stand-ins',
      'standins.mjs',
      dataDir,
      { CLAVIK_STANDINS: JSON.stringify({ dataDir, handPort, secret }) },
      note,
    )
    running.push(craft)
    const [postgres] = await Promise.all([
      startPostgres(dataDir, pgPort, options.throwaway, note),
      craft.start(),
    ])
    running.unshift(postgres.kept)
    await prepareDatabase(postgres.url)
    const hub = node(
      'hub',
      'hub.mjs',
      dataDir,
      {
        CLAVIK_HUB: JSON.stringify({
          dataDir,
          databaseUrl: postgres.url,
          livePort,
          handPort,
          portFolders: options.portFolders,
          secret,
        }),
      },
      note,
      { saysAlive: true },
    )
    const web = node(
      'web',
      'web.mjs',
      dataDir,
      {
        CLAVIK_WEB: JSON.stringify({ port, livePort, dir: root, dataDir, lan: options.lan, secret }),
        CLAVIK_SECRET: secret,
        CLAVIK_DATABASE_URL: postgres.url,
        CLAVIK_HUB_STATUS: `http://127.0.0.1:${livePort}/status`,
      },
      note,
      // The maps of all that Next.js loads would be read at each start.
      { mapped: false },
    )
    for (const [name, kept] of Object.entries({ postgres: postgres.kept, standins: craft, hub, web }))
      named.set(name, kept)
    running.push(hub, web)
    await Promise.all([hub.start(), web.start()])
    note()
    say(`Clavik is ready: http://127.0.0.1:${port}`)
    if (options.lan) say('Open to the house: Bench offers a code with which a device is paired.')
    say('Ctrl C stops everything; the rig is kept.')
  } catch (error) {
    process.stderr.write(`${inWords(error)}\n`)
    await stop(1)
  }
}

try {
  await start(readOptions(process.argv.slice(2), root))
} catch (error) {
  process.stderr.write(`${inWords(error)}\n`)
  process.exit(1)
}
