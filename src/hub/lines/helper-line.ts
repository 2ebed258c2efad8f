import { type ChildProcess, spawn } from 'node:child_process'
import { Line, type LineEvents, type Trouble, trouble } from './line'

/** A small program of our own at the other end: its input and output are the line. It ends with its input. */
export class HelperLine extends Line {
  private child: ChildProcess | null = null

  constructor(
    /** What is run, or why nothing can be just now. */
    private readonly command: () => readonly [string, ...string[]] | Trouble,
    private readonly place: () => string,
    events: LineEvents,
  ) {
    super(events)
  }

  get where(): string {
    return this.place()
  }

  protected connect(): void {
    const command = this.command()
    if ('problem' in command) {
      this.isClosed(command)
      return
    }
    const [program, ...args] = command
    const child = spawn(program, args, { stdio: ['pipe', 'pipe', 'ignore'] })
    this.child = child
    const gone = (why: string) => {
      if (this.child !== child) return
      this.child = null
      this.isClosed(trouble(why))
    }
    child.on('error', (error: NodeJS.ErrnoException) =>
      gone(error.code === 'ENOENT' ? `${program} is not on this computer` : error.message),
    )
    child.on('exit', () => gone('its helper has ended'))
    child.on('spawn', () => this.child === child && this.isOpen())
    child.stdin?.on('error', () => {})
    child.stdout?.on('data', (bytes: Buffer) => this.take(bytes))
  }

  protected write(data: Uint8Array | string): void {
    this.child?.stdin?.write(data)
  }

  protected hold(on: boolean): void {
    if (on) this.child?.stdout?.pause()
    else this.child?.stdout?.resume()
  }

  drop(): void {
    this.child?.kill()
  }

  protected finish(): void {
    const { child } = this
    this.child = null
    this.isUp = false
    child?.stdin?.end()
    // One that does not take its end is ended.
    setTimeout(() => child?.kill('SIGKILL'), 500).unref()
  }
}

/** Nobody at the other end: what is said is only shown. */
export class ShownLine extends Line {
  readonly where = 'only shown'

  protected connect(): void {
    setImmediate(() => this.isOpen())
  }

  protected write(): void {}
  protected hold(): void {}

  drop(): void {
    this.isClosed(trouble('it is opened anew'))
  }

  protected finish(): void {
    this.isUp = false
  }
}
