import { existsSync, readSync, writeSync } from 'node:fs'
import { SerialPort } from 'serialport'
import { Line, type LineEvents, type Trouble, trouble } from './line'

export interface SerialSettings {
  readonly path: string
  readonly speed: number
  readonly dataBits: 7 | 8
}

/** The two lines by which a computer resets or wakes a board, and how many bits a byte has. */
export interface SerialHand {
  readonly dtr?: boolean | undefined
  readonly rts?: boolean | undefined
}

const isPosix = process.platform !== 'win32'

/** What the system's refusal means, and its cure. */
export const serialTrouble = (message: string, path: string): Trouble => {
  if (/permission denied|access denied|EACCES|EPERM/i.test(message))
    return trouble(
      `this program may not open ${path}: it belongs to another user`,
      isPosix
        ? 'Let your user into its group (`ls -l` names it, mostly dialout): sudo usermod -aG dialout $USER, then log in anew.'
        : 'Close what holds the port, or start with the right to open it.',
    )
  if (/lock|busy|temporarily unavailable|EBUSY|EAGAIN/i.test(message))
    return trouble(
      `another program holds ${path}`,
      'Close it, most often a serial monitor; Clavik goes on by itself.',
    )
  if (/no such file|ENOENT|file not found/i.test(message))
    return trouble(`nothing is plugged in as ${path}`, 'Plug it in, or choose the port it is on now.')
  if (/not a (tty|typewriter)|inappropriate ioctl|ENOTTY/i.test(message))
    return trouble(`${path} is no serial port`, 'Choose another port.')
  if (/baud|speed|invalid argument|EINVAL/i.test(message))
    return trouble(`${path} does not know this speed`, 'Choose another speed.')
  return trouble(`${path} cannot be opened: ${message.replace(/^Error:? */, '')}`, null)
}

const unplugged = (path: string): Trouble =>
  trouble(`${path} was unplugged`, 'Plug it in again; Clavik goes on by itself.')

/** What a port that is open is on Linux and macOS: a file that does not wait, and somebody who says when there is something in it. */
interface OpenFile {
  readonly fd: number
  readonly poller: { once: (event: 'readable', then: (error: Error | null) => void) => void }
}

const fileOf = (port: SerialPort): OpenFile | null => {
  const file = port.port as Partial<OpenFile> | undefined
  return isPosix && typeof file?.fd === 'number' && file.poller ? (file as OpenFile) : null
}

const READ_BYTES = 4096
const isNothingNow = (error: unknown): boolean =>
  ['EAGAIN', 'EWOULDBLOCK', 'EINTR'].includes((error as NodeJS.ErrnoException).code ?? '')

/**
 * A serial port, opened and set up by the maintained package for that, and held for this program alone. Where the port is a
 * file it is read and written here, at once: the package’s own way goes over other threads, a quarter of a millisecond each.
 */
export class SerialLine extends Line {
  private port: SerialPort | null = null
  private file: OpenFile | null = null
  private readonly memory = new Uint8Array(READ_BYTES)
  private held = false
  private waits = false
  /** The port that stood last: as long as it is not there again, it was unplugged. */
  private stood = ''

  constructor(
    private readonly settings: () => SerialSettings,
    events: LineEvents,
  ) {
    super(events)
  }

  get where(): string {
    return this.settings().path
  }

  protected connect(): void {
    const { path, speed, dataBits } = this.settings()
    // Asked first: a port that is not there is the usual case, and is asked for often.
    if (isPosix && !existsSync(path)) {
      this.isClosed(path === this.stood ? unplugged(path) : serialTrouble('ENOENT', path))
      return
    }
    const port = new SerialPort({ path, baudRate: speed, dataBits, autoOpen: false, highWaterMark: 4096 })
    this.port = port
    let why = unplugged(path)
    const closed = () => {
      if (this.port !== port) return
      this.port = null
      this.file = null
      this.isClosed(why)
    }
    port.on('error', (error) => {
      why = serialTrouble(error.message, path)
      if (!port.isOpen) closed()
    })
    port.on('close', closed)
    port.open((error) => {
      if (error) {
        why = serialTrouble(error.message, path)
        closed()
      } else if (this.port === port) {
        this.held = false
        this.waits = false
        this.stood = path
        this.file = fileOf(port)
        if (this.file) this.waitFor(port, this.file)
        else port.on('data', (bytes: Buffer) => this.take(bytes))
        this.isOpen()
      } else port.close(() => {})
    })
  }

  /** Reads as soon as there is something, until the port is closed or gone. */
  private waitFor(port: SerialPort, file: OpenFile): void {
    if (this.waits) return
    this.waits = true
    file.poller.once('readable', (error) => {
      if (this.file !== file) return
      this.waits = false
      if (!error && (this.held || this.readNow(file))) {
        if (!this.held) this.waitFor(port, file)
        return
      }
      if (port.isOpen) port.close(() => {})
    })
  }

  /** Takes what is there; false where the port is gone. */
  private readNow(file: OpenFile): boolean {
    try {
      const count = readSync(file.fd, this.memory)
      // Nothing at all, although there was something: nobody is at the other end any more.
      if (count === 0) return false
      this.take(this.memory.subarray(0, count))
      return true
    } catch (error) {
      return isNothingNow(error)
    }
  }

  protected write(data: Uint8Array | string): void {
    if (this.file) {
      this.writeNow(this.file, data)
      return
    }
    // What the kernel does not take any more is dropped: states are told again, and nothing queues up.
    if (this.port?.isOpen && this.port.writableLength < 16_384) this.port.write(Buffer.from(data))
  }

  /** What the port does not take now is dropped: its frame is damaged then, is counted, and told again. */
  private writeNow(file: OpenFile, data: Uint8Array | string): void {
    try {
      writeSync(file.fd, Buffer.from(data))
    } catch (error) {
      if (!isNothingNow(error)) this.drop()
    }
  }

  protected hold(on: boolean): void {
    const { port, file } = this
    this.held = on
    if (!port) return
    if (file && !on) this.waitFor(port, file)
    else if (!file && on) port.pause()
    else if (!file) port.resume()
  }

  /** Sets the control lines by hand; what is wrong with that, or null. */
  setLines(hand: SerialHand): Promise<string | null> {
    const { port } = this
    if (!port?.isOpen) return Promise.resolve('the port is not open')
    return new Promise((resolve) => {
      port.set(hand, (error) => resolve(error ? error.message : null))
    })
  }

  drop(): void {
    const { port } = this
    if (port?.isOpen) port.close(() => {})
  }

  protected finish(): void {
    const { port } = this
    this.port = null
    this.file = null
    if (!port?.isOpen) return
    port.drain(() => port.close(() => {}))
    setTimeout(() => port.isOpen && port.close(() => {}), 500).unref()
  }
}

/** Where a connection's board was found, if that is another port than its settings say. */
export interface SerialPlaces {
  placeOf(connection: string): string | null
}
