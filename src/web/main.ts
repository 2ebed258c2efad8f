import { createServer } from 'node:http'
import { connect } from 'node:net'
import next from 'next'
import { z } from 'zod'

const settings = z.object({ port: z.number().int(), livePort: z.number().int(), dir: z.string() })
const { port, livePort, dir } = settings.parse(JSON.parse(process.env.CLAVIK_WEB ?? '{}'))

const app = next({ dev: false, dir, hostname: '127.0.0.1', port })
await app.prepare()
const handle = app.getRequestHandler()
const server = createServer((request, response) => void handle(request, response))

/** A page of another origin must not listen in, nor throw switches. */
const sameOrigin = (origin: string | undefined, host: string | undefined): boolean =>
  origin === undefined || (URL.canParse(origin) && new URL(origin).host === host)

// The live feed passes through to the hub byte by byte, so that the browser sees one origin.
server.on('upgrade', (request, socket, head) => {
  if (request.url !== '/live' || !sameOrigin(request.headers.origin, request.headers.host)) {
    socket.end('HTTP/1.1 403 Forbidden\r\n\r\n')
    return
  }
  const hub = connect({ host: '127.0.0.1', port: livePort, noDelay: true }, () => {
    const headers: string[] = []
    for (let i = 0; i < request.rawHeaders.length; i += 2)
      headers.push(`${request.rawHeaders[i]}: ${request.rawHeaders[i + 1]}`)
    hub.write(`GET /live HTTP/1.1\r\n${headers.join('\r\n')}\r\n\r\n`)
    hub.write(head)
    hub.pipe(socket)
    socket.pipe(hub)
  })
  hub.on('error', () => socket.destroy())
  hub.on('close', () => socket.destroy())
  socket.on('error', () => hub.destroy())
  socket.on('close', () => hub.destroy())
})

server.on('error', (error) => {
  process.stderr.write(`web: ${error.message}\n`)
  process.exit(1)
})
server.listen(port, '127.0.0.1', () => process.stdout.write('web ready\n'))
const stop = () => process.exit(0)
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
