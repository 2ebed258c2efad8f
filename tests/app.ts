import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { ListedRig } from '../src/core/rig/rig-list'
import { type FromSimulator, line, readerOfSimulator, type ToSimulator } from '../src/links/simulator-link'
import { freePorts } from '../src/supervise/ports'
import { folderForData } from './grounds'

const root = fileURLToPath(new URL('..', import.meta.url))

/** A port that nobody uses, nor will before it is bound. */
export const freePort = async (): Promise<number> => (await freePorts(1))[0] as number

export const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Who can say what was to be seen when something was waited for in vain. */
export const witnesses = new Set<() => Promise<string>>()

const whatWasSeen = async (): Promise<string> => {
  const said = await Promise.all([...witnesses].map((w) => w().catch(String)))
  return said.map((s) => `\n${s}`).join('')
}

/** What a quiet machine does at once may take a busy one this long. Nothing is slower for it that holds in the end. */
export const PATIENCE_MS = 45_000

export const until = async (
  what: string,
  holds: () => unknown | Promise<unknown>,
  ms = PATIENCE_MS,
): Promise<void> => {
  const end = Date.now() + ms
  // What holds soon is seen soon; what takes long is asked after less often, since asking costs time, too.
  for (let between = 15; ; between = Math.min(1.4 * between, 120)) {
    if (await holds()) return
    if (Date.now() > end)
      throw new Error(`waited ${ms} ms in vain until ${what}${ms >= PATIENCE_MS ? await whatWasSeen() : ''}`)
    await pause(between)
  }
}

type Name = 'supervisor' | 'postgres' | 'standins' | 'hub' | 'web'

/** The whole of Clavik, started by its own command on free ports with a data folder of its own. */
export class App {
  output = ''
  exitCode: number | null = null
  private child: ChildProcess | null = null

  constructor(
    readonly dataDir: string,
    readonly port: number,
  ) {}

  static async make(): Promise<App> {
    return new App(mkdtempSync(join(folderForData(), 'app-')), await freePort())
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`
  }

  async start(...more: string[]): Promise<void> {
    this.output = ''
    this.exitCode = null
    const args = ['--port', String(this.port), '--data', this.dataDir, '--throwaway', ...more]
    const child = spawn(join(root, 'bin/start'), args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
    this.child = child
    const hear = (bytes: Buffer) => {
      this.output += bytes.toString()
    }
    child.stdout?.on('data', hear)
    child.stderr?.on('data', hear)
    child.on('close', (code) => {
      this.exitCode = code ?? -1
    })
    await until(
      'Clavik is ready or gives up',
      () => this.output.includes('is ready:') || this.exitCode !== null,
      150_000,
    )
    if (!this.output.includes('is ready:')) throw new Error(this.output)
  }

  /** As Ctrl C does. */
  async stop(): Promise<void> {
    this.child?.kill('SIGINT')
    await until('everything has ended', () => this.exitCode !== null, 30_000)
  }

  async remove(): Promise<void> {
    if (this.child && this.exitCode === null) await this.stop()
    rmSync(this.dataDir, { recursive: true, force: true })
  }

  private notes(): Record<Name, number> & {
    ports: { livePort: number; handPort: number }
  } {
    return JSON.parse(readFileSync(join(this.dataDir, 'processes.json'), 'utf8'))
  }

  pid(name: Name): number {
    return this.notes()[name]
  }

  /** Where the simulated craft answers now. */
  async craftPort(): Promise<number> {
    let port = 0
    await until('the simulated craft is there', async () => {
      const { simulator } = (await this.health()).body as { simulator?: { address: string } }
      port = Number(simulator?.address.split(':').at(-1) ?? 0)
      return port > 0
    })
    return port
  }

  /** The ports of processes that only other processes of this start have any business with. */
  get ports(): { livePort: number; handPort: number } {
    return this.notes().ports
  }

  /** The rig that is open, as it is kept: its id, and the text of its file. */
  async openRig(): Promise<{ id: string; text: string }> {
    const { rigs } = (await (await fetch(`${this.address}/api/rigs`)).json()) as { rigs: ListedRig[] }
    const id = rigs.find((r) => r.open)?.id ?? ''
    return { id, text: await (await fetch(`${this.address}/api/rigs/${id}/file`)).text() }
  }

  /** What is asked of all rigs, as the page asks it. */
  private async rigs(asked: Record<string, unknown>): Promise<string> {
    const response = await fetch(`${this.address}/api/rigs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: this.address },
      body: JSON.stringify(asked),
    })
    const said = (await response.json()) as { id?: string }
    if (!said.id) throw new Error(`${JSON.stringify(asked)} was not done: ${JSON.stringify(said)}`)
    return said.id
  }

  /**
   * Opens the demo’s rig as it comes, under its own name. An empty one is opened before it, so that every board, craft and
   * controller goes and comes as if it had never been there; what there was is put aside under other names.
   */
  async resetRig(): Promise<void> {
    const { rigs } = (await (await fetch(`${this.address}/api/rigs`)).json()) as { rigs: ListedRig[] }
    const between = await this.rigs({ do: 'begin', name: `between ${Date.now()}` })
    await this.rigs({ do: 'open', id: between })
    await until('nothing is left of the rig before', async () => {
      const { body } = await this.health()
      const { boards, simulator } = body as { boards: unknown[]; simulator: { address: string } }
      return boards.length === 0 && simulator.address === ''
    })
    for (const { id, removed } of rigs) {
      if (removed) continue
      await this.rigs({ do: 'rename', id, name: `was ${id}`.slice(0, 100) })
      await this.rigs({ do: 'remove', id })
    }
    await this.rigs({ do: 'open', id: await this.rigs({ do: 'demo' }) })
    await this.rigs({ do: 'remove', id: between })
    await until('the demo is there as it comes', async () => {
      const { body } = await this.health()
      return body.ok === true && (body.boards as unknown[]).length > 0
    })
  }

  signal(name: Name, signal: NodeJS.Signals): void {
    process.kill(this.pid(name), signal)
  }

  /** The same, to all that it has begun as well. */
  signalAll(name: Name, signal: NodeJS.Signals): void {
    const pid = this.pid(name)
    for (const id of readdirSync('/proc').filter((f) => /^\d+$/.test(f))) {
      const stat = existsSync(`/proc/${id}/stat`) ? readFileSync(`/proc/${id}/stat`, 'utf8') : ''
      if (Number(stat.split(') ').at(-1)?.split(' ')[1]) === pid) process.kill(Number(id), signal)
    }
    process.kill(pid, signal)
  }

  async health(): Promise<{ status: number; body: Record<string, unknown> }> {
    // A line of its own each time: one that was kept may have been another application's, on the same port.
    const response = await fetch(`${this.address}/api/health`, { headers: { connection: 'close' } }).catch(
      (error) => {
        throw new Error(`no word of its health; Clavik said: ${this.output}`, { cause: error })
      },
    )
    return { status: response.status, body: (await response.json()) as Record<string, unknown> }
  }
}

/** A second listener at the craft's own side, that sees its variables without Clavik in between. */
export class CraftSide {
  private readonly names: string[] = []
  private readonly now = new Map<string, number | string | boolean | null>()
  private readonly socket: Socket
  private ready = false

  constructor(port: number) {
    const reader = readerOfSimulator()
    this.socket = connect(port, '127.0.0.1')
    this.socket.setEncoding('utf8')
    this.socket.on('data', (text: string) => {
      for (const m of reader.push(text)) this.take(m)
    })
    this.socket.on('error', () => {})
  }

  private say(message: ToSimulator): void {
    this.socket.write(line(message))
  }

  private take(m: FromSimulator): void {
    if (m.say === 'catalogue') {
      this.names.push(...m.variables.map((v) => (v as { name: string }).name))
      this.say({ say: 'subscribe', i: 'all' })
    } else if (m.say === 'frame') {
      for (const [k, i] of m.i.entries()) this.now.set(this.names[i] ?? '', m.v[k] ?? null)
      this.ready = true
    }
  }

  async open(): Promise<this> {
    await until('the craft tells its variables', () => this.ready)
    return this
  }

  value(name: string): number {
    return Number(this.now.get(name))
  }

  set(name: string, value: number): void {
    this.say({ say: 'set', id: 1, i: this.names.indexOf(name), v: value })
  }

  close(): void {
    this.socket.destroy()
  }
}
