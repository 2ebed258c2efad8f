import { createSocket, type RemoteInfo, type Socket } from 'node:dgram'
import { hostAndPort } from '../../core/connections/fields'
import { Line, type LineEvents, type Trouble, trouble } from './line'

const troubleOf = (code: string | undefined, message: string, port: number): Trouble => {
  switch (code) {
    case 'EADDRINUSE':
      return trouble(
        `another program listens on UDP port ${port} already`,
        'Close it, or let the telemetry go to another port and give that here.',
      )
    case 'EACCES':
      return trouble(`the system does not give UDP port ${port} away`, 'Take a port from 1024 on.')
    default:
      return trouble(message, null)
  }
}

/** Who sent the datagram that is read now. */
export interface Sender {
  readonly host: string
  readonly port: number
}

/** A UDP port on which datagrams come; each is one piece. It sends nothing of itself. */
export class UdpLine extends Line {
  private socket: Socket | null = null
  private held = false
  /** The port that it has; 0 while it has none. */
  port = 0
  sender: Sender = { host: '', port: 0 }

  constructor(
    private readonly wanted: { readonly port: number; readonly everywhere: boolean },
    events: LineEvents,
  ) {
    super(events)
  }

  get where(): string {
    return `UDP port ${this.port || this.wanted.port || '…'}`
  }

  protected connect(): void {
    const { port, everywhere } = this.wanted
    // Not shared with another program: of two that listen on one port only one would hear anything.
    const socket = createSocket({ type: 'udp4', reuseAddr: false })
    this.socket = socket
    socket.on('message', (bytes: Buffer, from: RemoteInfo) => {
      if (this.held || this.socket !== socket) return
      this.sender = { host: from.address, port: from.port }
      this.take(bytes)
    })
    socket.on('error', (error: NodeJS.ErrnoException) => {
      if (this.socket !== socket) return
      this.shut()
      this.isClosed(troubleOf(error.code, error.message, port))
    })
    socket.on('listening', () => {
      this.port = socket.address().port
      this.held = false
      this.isOpen()
    })
    socket.bind(port, everywhere ? '0.0.0.0' : '127.0.0.1')
  }

  /** By hand: to whoever spoke last, for there is nobody else. */
  protected write(data: Uint8Array | string): void {
    const { host, port } = this.sender
    if (port > 0) this.socket?.send(data, port, host, () => {})
  }

  /** What comes meanwhile is dropped: telemetry is said again. */
  protected hold(on: boolean): void {
    this.held = on
  }

  private shut(): void {
    const { socket } = this
    this.socket = null
    this.port = 0
    try {
      socket?.close()
    } catch {
      // It has never been open.
    }
  }

  drop(): void {
    this.shut()
    this.isClosed(trouble('it is opened anew'))
  }

  protected finish(): void {
    this.shut()
    this.isUp = false
  }
}

export const senderWords = ({ host, port }: Sender): string => hostAndPort(host, port)
