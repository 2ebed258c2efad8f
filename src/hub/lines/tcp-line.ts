import { connect, type Socket } from 'node:net'
import { hostAndPort } from '../../core/connections/fields'
import { Line, type LineEvents, type Trouble, trouble } from './line'

const READ_BYTES = 65_536
/** Nobody at all answers at some addresses: that is not waited for as long as a system would. */
const PATIENCE_MS = 4000

export interface TcpPlace {
  readonly host: string
  readonly port: number
}

/** What stands behind the code of an error, and its cure. */
const troubleOf = (code: string | undefined, message: string, { host, port }: TcpPlace): Trouble => {
  const at = hostAndPort(host, port)
  switch (code) {
    case 'ECONNREFUSED':
      return trouble(
        `nobody answers on port ${port} of ${host}`,
        'Start what should answer there, or correct computer and port.',
      )
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return trouble(`no computer is known as ${host}`, 'Correct the name, or give its address in numbers.')
    case 'EHOSTUNREACH':
    case 'ENETUNREACH':
    case 'ETIMEDOUT':
      return trouble(
        `${at} is not reached`,
        'Look whether that computer is on, in this network, and lets the port through its firewall.',
      )
    case 'ECONNRESET':
    case 'EPIPE':
      return trouble(`${at} broke the connection off`, null)
    default:
      return trouble(message || 'the connection was closed', null)
  }
}

/** A TCP connection. Where it leads is asked anew each time: a trouble in place of it says why that is not known. */
export class TcpLine extends Line {
  private socket: Socket | null = null
  private readonly memory = new Uint8Array(READ_BYTES)

  constructor(
    private readonly place: () => TcpPlace | Trouble,
    events: LineEvents,
  ) {
    super(events)
  }

  get where(): string {
    const place = this.place()
    return 'port' in place ? hostAndPort(place.host, place.port) : ''
  }

  protected connect(): void {
    const place = this.place()
    if (!('port' in place)) {
      this.isClosed(place)
      return
    }
    const { host, port } = place
    const socket = connect({
      host,
      port,
      noDelay: true,
      // Read into the same memory each time: quicker than a new buffer and an event for each.
      onread: {
        buffer: this.memory,
        callback: (length, bytes) => {
          this.take(bytes.subarray(0, length))
          return true
        },
      },
    })
    this.socket = socket
    let why = trouble('the other end closed the connection')
    const patience = setTimeout(() => {
      why = troubleOf('ETIMEDOUT', '', place)
      socket.destroy()
    }, PATIENCE_MS)
    socket.on('connect', () => {
      clearTimeout(patience)
      this.isOpen()
    })
    socket.on('error', (error: NodeJS.ErrnoException) => {
      why = troubleOf(error.code, error.message, place)
    })
    socket.on('close', () => {
      clearTimeout(patience)
      if (this.socket !== socket) return
      this.socket = null
      this.isClosed(why)
    })
  }

  protected write(data: Uint8Array | string): void {
    if (this.socket && !this.socket.connecting) this.socket.write(data)
  }

  protected hold(on: boolean): void {
    if (on) this.socket?.pause()
    else this.socket?.resume()
  }

  drop(): void {
    this.socket?.destroy()
  }

  protected finish(): void {
    const { socket } = this
    this.socket = null
    if (!socket) return
    if (socket.connecting) socket.destroy()
    else {
      socket.end()
      // What does not take its end is ended.
      setTimeout(() => socket.destroy(), 500).unref()
    }
  }
}
