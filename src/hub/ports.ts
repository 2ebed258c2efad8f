import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { USUAL_SPEED } from '../core/connections/board-serial'
import type { FoundPort } from '../core/live/feed'
import type { ProgramState } from '../core/programs/programs'
import { BoardTalk } from './board-talk'
import { SerialLine } from './lines/serial-line'
import { Looking } from './looking'

/** How long a board has to answer: after its port is opened, many start anew first. */
const ANSWER_MS = 4000
const ASK_EVERY_MS = 250

/** Names under which systems keep ports that something was plugged into; ports that are only soldered on say nothing of that. */
const PLUGGED = /^(ttyUSB|ttyACM|ttyAMA|rfcomm|cu\.usb|cu\.wch|cu\.SLAB)/

/** Lists what is plugged in. */
export type LookForPorts = () => Promise<readonly string[]>

const namesIn = (folder: string): Promise<string[]> => readdir(folder).catch(() => [])

/** Ports by the system's own names; on Windows, which has no such folder, by the maintained package. */
export const portsHere =
  (folders: readonly string[]): LookForPorts =>
  async () => {
    const more = await Promise.all(folders.map(async (f) => (await namesIn(f)).map((n) => join(f, n))))
    if (process.platform === 'win32') {
      const { SerialPort } = await import('serialport')
      return [...(await SerialPort.list()).map((p) => p.path), ...more.flat()]
    }
    const system = (await namesIn('/dev')).filter((n) => PLUGGED.test(n)).map((n) => join('/dev', n))
    return [...system, ...more.flat()].sort()
  }

interface Port {
  readonly path: string
  readonly fresh: boolean
  state: 'not asked' | 'asking' | 'board' | 'nothing'
  identity: string | null
  model: string
  /** The number of its program, where it is Clavik's own. */
  number: number | null
  problem: string | null
  cure: string | null
}

/** Who has to do with ports. */
export interface PortSurroundings {
  /** Whether an open connection of the rig has this port. */
  readonly isTaken: (path: string) => boolean
  /** Whether a connection of the rig has this port, or opens it as soon as it can. */
  readonly isWanted: (path: string) => boolean
  /** A board has answered on a port that no connection has. */
  readonly board: (path: string, identity: string) => void
  /** How the writing of a program to what is on a port stands. */
  readonly program: (path: string) => ProgramState | null
  /** Ports have come or gone. */
  readonly changed: (came: readonly string[], went: readonly string[]) => void
}

/**
 * The serial ports that are plugged in. One that is plugged in while Clavik runs is asked at once whether a board answers;
 * one that was there before is only asked when the builder says so, for it may be something that must not be disturbed.
 */
export class Ports {
  private readonly ports = new Map<string, Port>()
  private readonly asking = new Map<string, () => void>()
  private readonly looking = new Looking(() => this.lookNow())
  private looked = false

  constructor(
    private readonly look: LookForPorts,
    private readonly around: PortSurroundings,
  ) {}

  open(): void {
    this.looking.open()
  }

  close(): void {
    this.looking.close()
    for (const stop of this.asking.values()) stop()
  }

  async lookNow(): Promise<void> {
    const there = new Set(await this.look())
    const came = [...there].filter((path) => !this.ports.has(path))
    const went = [...this.ports.keys()].filter((path) => !there.has(path))
    for (const path of went) {
      this.asking.get(path)?.()
      this.ports.delete(path)
    }
    for (const path of came) {
      const nothing = { identity: null, model: '', number: null, problem: null, cure: null }
      this.ports.set(path, { path, fresh: this.looked, state: 'not asked', ...nothing })
    }
    const wasThere = this.looked
    this.looked = true
    if (came.length + went.length > 0) this.around.changed(came, went)
    if (wasThere) for (const path of came) this.ask(path)
  }

  /** Whoever asks on a port stops, and what is known of it is forgotten. */
  leave(path: string): void {
    this.asking.get(path)?.()
    const port = this.ports.get(path)
    if (port)
      Object.assign(port, { state: 'not asked', identity: null, model: '', number: null, problem: null })
  }

  /** Whether a board has answered on a port. */
  answers(path: string): boolean {
    return this.ports.get(path)?.state === 'board'
  }

  isThere(path: string): boolean {
    return this.ports.has(path)
  }

  /** Asks whether a board answers on a port, and says what came of it. */
  ask(path: string, speed: number = USUAL_SPEED): void {
    const port = this.ports.get(path)
    if (!port || this.asking.has(path) || this.around.isWanted(path)) return
    port.state = 'asking'
    port.problem = null
    port.cure = null
    let heard = 0
    const end = () => {
      clearInterval(ticks)
      clearTimeout(patience)
      this.asking.delete(path)
      line.end()
    }
    const nothing = (problem: string, cure: string | null) => {
      end()
      Object.assign(port, { state: 'nothing', problem, cure })
    }
    const talk: BoardTalk = new BoardTalk(
      { changed: () => {}, report: () => {}, shown: () => {}, drawn: () => false },
      { send: (bytes) => line.send(bytes), drop: () => {}, now: () => performance.now() },
    )
    const line = new SerialLine(() => ({ path, speed, dataBits: 8 }), {
      opened: () => talk.opened(),
      received: (bytes) => {
        heard += bytes.length
        talk.receive(bytes)
        if (talk.identity === '') return
        const { identity, model, program: number } = talk
        end()
        Object.assign(port, { state: 'board', identity, model, number, problem: null, cure: null })
        this.around.board(path, identity)
      },
      closed: ({ problem, cure }) => nothing(problem, cure),
    })
    const ticks = setInterval(() => talk.check(performance.now()), ASK_EVERY_MS)
    const patience = setTimeout(() => {
      if (heard === 0)
        nothing(
          'nothing answers',
          'Is a program with the board link on it? Another speed is tried by adding it by hand.',
        )
      else nothing(talk.problem ?? 'what it says is not the board link', talk.cure)
    }, ANSWER_MS)
    this.asking.set(path, end)
    line.open()
  }

  /** The port on which a board with this identity was found, or null. */
  portOf(identity: string): string | null {
    for (const p of this.ports.values()) if (p.identity === identity) return p.path
    return null
  }

  /** What is plugged in, and what is known of it, by name. */
  found(): FoundPort[] {
    return [...this.ports.values()]
      .sort((a, b) => (a.path < b.path ? -1 : 1))
      .map((p) => {
        const { path, fresh, identity, model, number, problem, cure } = p
        const state = this.around.isTaken(path) ? 'in use' : p.state
        const program = this.around.program(path)
        return { path, what: wordsFor(path), fresh, state, identity, model, number, program, problem, cure }
      })
  }
}

/** What kind of port a system's name tells of. */
const wordsFor = (path: string): string => {
  const name = path.split('/').at(-1) ?? path
  if (/^(ttyACM|cu\.usbmodem)/.test(name)) return 'a board with USB of its own'
  if (/^(ttyUSB|cu\.(usbserial|wch|SLAB))/.test(name)) return 'a board or cable with a USB serial chip'
  if (name.startsWith('rfcomm')) return 'a radio link'
  return 'a serial port'
}
