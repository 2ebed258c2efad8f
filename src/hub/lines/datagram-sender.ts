import { createSocket, type Socket } from 'node:dgram'
import { lookup } from 'node:dns/promises'
import { isIP } from 'node:net'

/** A name is looked up anew after so long. */
const KNOWN_MS = 30_000

/** Sends datagrams to computers by name. What cannot be sent is said, and otherwise forgotten: the next one is newer. */
export class DatagramSender {
  private socket: Socket | null = null
  private readonly known = new Map<string, { readonly address: string | null; readonly at: number }>()
  private readonly asking = new Set<string>()
  /** Why the last one did not go. */
  problem: string | null = null

  send(bytes: Uint8Array, host: string, port: number): void {
    const address = isIP(host) ? host : this.addressOf(host)
    if (address === null) return
    this.socket ??= this.open()
    this.socket.send(bytes, port, address, (error) => {
      this.problem = error ? `nothing can be sent to ${host}: ${error.message}` : null
    })
  }

  private open(): Socket {
    const socket = createSocket('udp4')
    socket.on('error', (error) => {
      this.problem = error.message
      socket.close()
      if (this.socket === socket) this.socket = null
    })
    socket.unref()
    return socket
  }

  private addressOf(host: string): string | null {
    const known = this.known.get(host)
    if ((!known || performance.now() - known.at > KNOWN_MS) && !this.asking.has(host)) {
      this.asking.add(host)
      void lookup(host, 4)
        .then(
          ({ address }) => address,
          () => null,
        )
        .then((address) => {
          this.asking.delete(host)
          if (address === null) this.problem = `no computer is known as ${host}`
          this.known.set(host, { address: address ?? known?.address ?? null, at: performance.now() })
        })
    }
    return known?.address ?? null
  }

  close(): void {
    this.socket?.close()
    this.socket = null
  }
}
