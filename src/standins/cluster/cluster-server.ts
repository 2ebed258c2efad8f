import { createServer, type Socket } from 'node:net'
import { isHttp } from '../../links/line-reader'
import { Cluster } from './cluster'

const STEP_MS = 20
const TELL_EVERY = 5
const BELL = '\x07'

/** A serial adapter as its maker’s sheet says it behaves, with a cluster on its bus. */
class Adapter {
  private held = ''
  private isOpen = false
  private speed: number | null = null

  constructor(
    private readonly cluster: Cluster,
    private readonly say: (text: string) => void,
  ) {}

  hear(text: string): void {
    for (const c of text) {
      if (c !== '\r') {
        this.held = (this.held + c).slice(0, 40)
        continue
      }
      const line = this.held
      this.held = ''
      this.say(this.obey(line))
    }
  }

  private obey(line: string): string {
    switch (line[0]) {
      case 'S':
        if (this.isOpen || !/^S[0-8]$/.test(line)) return BELL
        this.speed = Number(line[1])
        return '\r'
      case 'O':
        if (this.isOpen || this.speed === null) return BELL
        this.isOpen = true
        return '\r'
      case 'C':
        if (!this.isOpen) return BELL
        this.isOpen = false
        return '\r'
      case 'V':
        return 'V1011\r'
      case 'F':
        return this.isOpen ? 'F00\r' : BELL
      case 't':
        return this.send(line)
      default:
        return BELL
    }
  }

  private send(line: string): string {
    const read = /^t([0-9A-Fa-f]{3})([0-8])((?:[0-9A-Fa-f]{2})*)$/.exec(line)
    if (!this.isOpen || !read || (read[3] as string).length !== Number(read[2]) * 2) return BELL
    this.cluster.take(
      Number.parseInt(read[1] as string, 16),
      Buffer.from(read[3] as string, 'hex'),
      performance.now() / 1000,
    )
    return 'z\r'
  }

  pass(id: number, data: Uint8Array): void {
    if (this.isOpen)
      this.say(
        `t${id.toString(16).padStart(3, '0')}${data.length}${Buffer.from(data).toString('hex').toUpperCase()}\r`,
      )
  }
}

/** Serves a cluster behind an adapter on a port of its own. */
export const serveCluster = (listening: (port: number) => void) => {
  const cluster = new Cluster()
  const adapters = new Map<Socket, Adapter>()
  const server = createServer((socket) => {
    socket.setNoDelay(true)
    const adapter = new Adapter(cluster, (text) => socket.write(text))
    adapters.set(socket, adapter)
    let first = true
    socket.on('data', (bytes) => {
      const text = bytes.toString('latin1')
      // A page that was made to speak to this port is no program of a cockpit.
      if (first && isHttp(text.slice(0, 256))) socket.destroy()
      else adapter.hear(text)
      first = false
    })
    socket.on('error', () => socket.destroy())
    socket.on('close', () => adapters.delete(socket))
  })
  server.on('error', (error) => process.stderr.write(`stand-ins: cluster: ${error.message}\n`))
  const served = {
    port: 0,
    stop: (): void => {
      clearInterval(timer)
      for (const socket of adapters.keys()) socket.destroy()
      server.close()
    },
  }
  server.listen(0, '127.0.0.1', () => {
    const address = server.address()
    if (address === null || typeof address !== 'object') return
    served.port = address.port
    listening(address.port)
  })
  let steps = 0
  const timer = setInterval(() => {
    cluster.step(performance.now() / 1000, STEP_MS / 1000)
    if (++steps % TELL_EVERY !== 0) return
    const { id, data } = cluster.tells()
    for (const adapter of adapters.values()) adapter.pass(id, data)
  }, STEP_MS)
  return served
}

export type ServedCluster = ReturnType<typeof serveCluster>
