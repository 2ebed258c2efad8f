import { randomBytes } from 'node:crypto'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { connect } from 'node:net'
import next from 'next'
import { z } from 'zod'
import { type Allowed, accessObjection, loopbackHosts, securityHeaders } from '../core/access/access'
import { endWithKeeper } from '../process/end-with-keeper'
import { screenFile, screenPage } from './screen-files'

const settings = z.object({
  port: z.number().int(),
  livePort: z.number().int(),
  dir: z.string(),
  secret: z.string(),
})
const { port, livePort, dir, secret } = settings.parse(JSON.parse(process.env.CLAVIK_WEB ?? '{}'))

const app = next({ dev: false, dir, hostname: '127.0.0.1', port })
await app.prepare()
const handle = app.getRequestHandler()

/** Nobody is paired yet: only this computer itself is let in. */
const allowed: Allowed = { hosts: loopbackHosts(port), devices: new Set() }

const one = (value: string | string[] | undefined): string | undefined =>
  Array.isArray(value) ? value.join(', ') : value

const objectionTo = (request: IncomingMessage): string | null => {
  const { headers, method = 'GET', socket } = request
  return accessObjection(
    {
      method,
      host: headers.host,
      origin: headers.origin,
      site: one(headers['sec-fetch-site']),
      mode: one(headers['sec-fetch-mode']),
      remote: socket.remoteAddress,
      device: one(headers['x-clavik-device']),
    },
    allowed,
  )
}

/** The page of a screen, and its files: they are no part of the interface, so that old devices can show them. */
const serveScreen = (url: string, nonce: string, response: ServerResponse): boolean => {
  const [path = ''] = url.split('?')
  if (path.startsWith('/screen/')) {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' })
    response.end(screenPage(nonce))
    return true
  }
  if (!path.startsWith('/screen-files/')) return false
  const file = screenFile(dir, path.slice('/screen-files/'.length))
  if (file)
    response.writeHead(200, { 'content-type': file.type, 'cache-control': 'no-cache' }).end(file.bytes)
  else response.writeHead(404).end()
  return true
}

const server = createServer((request, response) => {
  const nonce = randomBytes(16).toString('base64')
  const headers = securityHeaders(nonce)
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value)
  const objection = objectionTo(request)
  if (objection !== null) {
    response.writeHead(403, { 'content-type': 'application/json' })
    response.end(JSON.stringify({ reasons: [`Not let in: ${objection}.`] }))
    return
  }
  if (serveScreen(request.url ?? '/', nonce, response)) return
  // By this Next.js knows the nonce that its own scripts carry.
  request.headers['content-security-policy'] = headers['Content-Security-Policy']
  void handle(request, response)
})

// The live feed passes through to the hub byte by byte, so that the browser sees one origin.
server.on('upgrade', (request, socket, head) => {
  const { url = '' } = request
  if ((url !== '/live' && !/^\/screen\?name=[^\s]*$/.test(url)) || objectionTo(request) !== null) {
    socket.end('HTTP/1.1 403 Forbidden\r\n\r\n')
    return
  }
  const hub = connect({ host: '127.0.0.1', port: livePort, noDelay: true }, () => {
    const headers: string[] = [`x-clavik-secret: ${secret}`]
    for (let i = 0; i < request.rawHeaders.length; i += 2) {
      const name = request.rawHeaders[i] as string
      if (name.toLowerCase() !== 'x-clavik-secret') headers.push(`${name}: ${request.rawHeaders[i + 1]}`)
    }
    hub.write(`GET ${url} HTTP/1.1\r\n${headers.join('\r\n')}\r\n\r\n`)
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
endWithKeeper(stop)
