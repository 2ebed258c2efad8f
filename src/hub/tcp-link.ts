import { connect, type Socket } from 'node:net'

export interface TcpEvents {
  readonly opened: () => void
  /** What came, in memory that is used again for what comes next. */
  readonly received: (bytes: Uint8Array) => void
  readonly closed: (problem: string) => void
}

const FIRST_PAUSE_MS = 100
const LONGEST_PAUSE_MS = 2000
const READ_BYTES = 65_536

/** A TCP connection that comes back by itself, with a pause that grows while nobody answers. */
export class TcpLink {
  private socket: Socket | null = null
  private pauseMs = FIRST_PAUSE_MS
  private readonly memory = new Uint8Array(READ_BYTES)
  private ended = false
  private retry: NodeJS.Timeout | null = null

  constructor(
    readonly port: number,
    private readonly events: TcpEvents,
  ) {}

  open(): void {
    const socket = connect({
      host: '127.0.0.1',
      port: this.port,
      noDelay: true,
      // Read into the same memory each time: quicker than a new buffer and an event for each.
      onread: {
        buffer: this.memory,
        callback: (length, bytes) => {
          this.events.received(bytes.subarray(0, length))
          return true
        },
      },
    })
    this.socket = socket
    let problem = 'the connection was closed'
    socket.on('connect', () => {
      this.pauseMs = FIRST_PAUSE_MS
      this.events.opened()
    })
    socket.on('error', (error: NodeJS.ErrnoException) => {
      problem = error.code === 'ECONNREFUSED' ? `nobody answers on port ${this.port}` : error.message
    })
    socket.on('close', () => {
      if (this.socket !== socket) return
      this.socket = null
      this.events.closed(problem)
      if (this.ended) return
      this.retry = setTimeout(() => this.open(), this.pauseMs)
      this.pauseMs = Math.min(LONGEST_PAUSE_MS, this.pauseMs * 2)
    })
  }

  send(data: Uint8Array | string): void {
    if (this.socket && !this.socket.connecting) this.socket.write(data)
  }

  /** Drops the connection; it comes back by itself unless ended. */
  drop(): void {
    this.socket?.destroy()
  }

  end(): void {
    this.ended = true
    if (this.retry) clearTimeout(this.retry)
    this.drop()
  }
}
