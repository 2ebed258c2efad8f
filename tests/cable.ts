import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { SerialPort } from 'serialport'
import { pause, until } from './app'
import { PlainBoard } from './plain-board'

/** A folder of serial ports: each a pair of pseudo-terminals, one end for Clavik and one for the test. */
export class Ports {
  readonly folder = mkdtempSync(join(tmpdir(), 'clavik-ports-'))
  private readonly far = mkdtempSync(join(tmpdir(), 'clavik-far-'))
  private readonly cables = new Map<string, ChildProcess>()

  /** Plugs a cable in; gives its far end. */
  async plug(name: string): Promise<string> {
    const near = join(this.folder, name)
    const far = join(this.far, name)
    this.cables.set(name, spawn('socat', [`pty,raw,echo=0,link=${near}`, `pty,raw,echo=0,link=${far}`]))
    await until(`the port ${name} is there`, () => existsSync(near) && existsSync(far))
    return far
  }

  async unplug(name: string): Promise<void> {
    const cable = this.cables.get(name)
    this.cables.delete(name)
    // It may be about to end by itself, since an end was closed: asked in that moment it ends without tidying up.
    cable?.kill('SIGKILL')
    await until(
      `the cable ${name} is gone`,
      () => !cable || cable.exitCode !== null || cable.signalCode !== null,
    )
    for (const folder of [this.folder, this.far]) rmSync(join(folder, name), { force: true })
  }

  remove(): void {
    for (const cable of this.cables.values()) cable.kill('SIGKILL')
    for (const folder of [this.folder, this.far]) rmSync(folder, { recursive: true, force: true })
  }
}

/** A board at the far end of a cable, spoken for by another program’s reader of serial ports. */
export class SerialBoard {
  readonly board: PlainBoard
  private port: SerialPort | null = null
  private readonly beat: NodeJS.Timeout

  constructor(identity: string, model: string, program?: number) {
    this.board = new PlainBoard(
      identity,
      new Uint8Array(0),
      (bytes) => this.port?.write(Buffer.from(bytes)),
      program === undefined ? { model } : { model, program },
    )
    this.beat = setInterval(() => this.port?.isOpen && this.board.beat(), 200)
  }

  async plugInto(far: string): Promise<void> {
    const port = new SerialPort({ path: far, baudRate: 115_200, autoOpen: false })
    port.on('data', (bytes: Buffer) => this.board.receive(bytes))
    port.on('error', () => {})
    await new Promise<void>((resolve, reject) => port.open((error) => (error ? reject(error) : resolve())))
    this.port = port
    this.board.plugged()
  }

  async pullOut(): Promise<void> {
    const { port } = this
    this.port = null
    if (port?.isOpen) await new Promise<void>((resolve) => port.close(() => resolve()))
    await pause(50)
  }

  end(): void {
    clearInterval(this.beat)
    if (this.port?.isOpen) this.port.close(() => {})
  }
}
