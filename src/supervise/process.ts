import { type ChildProcess, spawn } from 'node:child_process'
import { createWriteStream, type WriteStream } from 'node:fs'
import { say } from './say'

const FIRST_PAUSE_MS = 250
const LONGEST_PAUSE_MS = 8000
/** After so long without a fall the pause begins small again. */
const STEADY_MS = 20_000
const KILL_AFTER_MS = 6000
/** One that is to say that it is alive, and has not for so long, hangs. */
const SILENT_MS = 10_000
const LOOK_MS = 1000

export interface Recipe {
  readonly name: string
  readonly command: string
  readonly args: readonly string[]
  readonly env?: Readonly<Record<string, string>>
  readonly uid?: number
  readonly gid?: number
  /** What asks it to end politely. */
  readonly endSignal?: NodeJS.Signals
  /** A line on its output that contains this says it is ready. */
  readonly readyWhen: string
  readonly logFile: string
  /** It says that it is alive every second; silent for long, it is ended and started anew. */
  readonly saysAlive?: boolean
  /** Told each time it is started, first or again. */
  readonly started?: () => void
}

/** One process that is kept running: when it dies it is started again, after a pause that grows. */
export class Kept {
  private child: ChildProcess | null = null
  private pauseMs = FIRST_PAUSE_MS
  private ending = false
  private startedAt = 0
  private readonly log: WriteStream
  private lastWords = ''

  constructor(private readonly recipe: Recipe) {
    this.log = createWriteStream(recipe.logFile, { flags: 'a' })
    this.log.on('error', () => {})
  }

  get pid(): number | undefined {
    return this.child?.pid
  }

  /** Starts it; resolves when it first says that it is ready, rejects when it dies before. */
  start(): Promise<void> {
    return new Promise((resolve, reject) => {
      this.launch(resolve, () =>
        reject(new Error(`${this.recipe.name} did not start: ${this.lastWords || 'no word from it'}`)),
      )
    })
  }

  private launch(ready: () => void, neverReady: (() => void) | null): void {
    const { command, args, env, uid, gid, readyWhen, name } = this.recipe
    const ids = uid === undefined ? {} : { uid, gid }
    const child = spawn(command, args, {
      env: { ...process.env, ...env },
      stdio: this.recipe.saysAlive ? ['pipe', 'pipe', 'pipe', 'ipc'] : ['pipe', 'pipe', 'pipe'],
      ...ids,
    })
    this.child = child
    this.startedAt = Date.now()
    this.recipe.started?.()
    let wasReady = false
    if (this.recipe.saysAlive) this.watch(child)
    const hear = (chunk: Buffer) => {
      this.log.write(chunk)
      const text = chunk.toString()
      this.lastWords = text.trim().split('\n').at(-1) ?? this.lastWords
      if (!wasReady && text.includes(readyWhen)) {
        wasReady = true
        ready()
      }
    }
    child.stdout?.on('data', hear)
    child.stderr?.on('data', hear)
    child.stdin?.on('error', () => {})
    child.on('error', (error) => {
      this.lastWords = error.message
    })
    child.on('close', (code, signal) => {
      this.child = null
      if (this.ending) return
      if (!wasReady && neverReady) {
        neverReady()
        return
      }
      if (Date.now() - this.startedAt > STEADY_MS) this.pauseMs = FIRST_PAUSE_MS
      say(`${name} stopped (${signal ?? `code ${code}`}); starting it again in ${this.pauseMs / 1000} s.`)
      setTimeout(() => {
        if (!this.ending) this.launch(() => say(`${name} is back.`), null)
      }, this.pauseMs)
      this.pauseMs = Math.min(LONGEST_PAUSE_MS, this.pauseMs * 2)
    })
  }

  /** Ends a process that hangs. Time in which this process itself was kept from running does not count. */
  private watch(child: ChildProcess): void {
    let heardAt = performance.now()
    let lookedAt = heardAt
    child.on('message', () => {
      heardAt = performance.now()
    })
    const look = setInterval(() => {
      const now = performance.now()
      if (now - lookedAt > 3 * LOOK_MS) heardAt = now
      lookedAt = now
      if (now - heardAt < SILENT_MS) return
      say(`${this.recipe.name} has hung for ${SILENT_MS / 1000} s; it is ended.`)
      child.kill('SIGKILL')
      clearInterval(look)
    }, LOOK_MS)
    child.on('close', () => clearInterval(look))
  }

  /** Ends it: politely first, then not. */
  async stop(): Promise<void> {
    this.ending = true
    const { child } = this
    if (!child) return
    await new Promise<void>((resolve) => {
      const force = setTimeout(() => child.kill('SIGKILL'), KILL_AFTER_MS)
      child.once('close', () => {
        clearTimeout(force)
        resolve()
      })
      child.kill(this.recipe.endSignal ?? 'SIGTERM')
    })
  }
}
