import { randomBytes } from 'node:crypto'
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { connect, type Socket } from 'node:net'
import next from 'next'
import { z } from 'zod'
import {
  type Allowed,
  accessObjection,
  isLoopback,
  isPairing,
  loopbackHosts,
  securityHeaders,
} from '../core/access/access'
import { endWithKeeper } from '../process/end-with-keeper'
import { Devices, serveDevices, servePairing } from './devices'
import { screenFile, screenPage } from './screen-files'

const settings = z.object({
  port: z.number().int(),
  livePort: z.number().int(),
  dir: z.string(),
  dataDir: z.string(),
  /** Whether the house may reach it, beside this computer. */
  lan: z.boolean(),
  secret: z.string(),
})
const { port, livePort, dir, dataDir, lan, secret } = settings.parse(
  JSON.parse(process.env.CLAVIK_WEB ?? '{}'),
)

const app = next({ dev: false, dir, hostname: '127.0.0.1', port })
await app.prepare()
const handle = app.getRequestHandler()

const devices = new Devices(dataDir, port, lan)

/** This computer itself, and devices that the builder has paired. */
const allowed = (): Allowed => ({
  hosts: [...loopbackHosts(port), ...devices.hosts],
  devices: devices.digests,
})

const pathOf = (request: IncomingMessage): string => (request.url ?? '/').split('?')[0] ?? '/'

const one = (value: string | string[] | undefined): string | undefined =>
  Array.isArray(value) ? value.join(', ') : value

const objectionTo = (request: IncomingMessage): string | null => {
  const { headers, method = 'GET', socket } = request
  return accessObjection(
    {
      method,
      path: pathOf(request),
      host: headers.host,
      origin: headers.origin,
      site: one(headers['sec-fetch-site']),
      mode: one(headers['sec-fetch-mode']),
      remote: socket.remoteAddress,
      device: Devices.digestIn(request),
    },
    allowed(),
  )
}

/** The page of a screen, and its files: they are no part of the interface, so that old devices can show them. */
const serveScreen = (path: string, nonce: string, response: ServerResponse): boolean => {
  if (path === '/screen' || path.startsWith('/screen/')) {
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

/** Whether a browser asks for a page, and not a program for something else. */
const isPage = ({ method, headers }: IncomingMessage): boolean =>
  method === 'GET' && (headers.accept ?? '').includes('text/html')

const server = createServer((request, response) => {
  const nonce = randomBytes(16).toString('base64')
  const headers = securityHeaders(nonce)
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value)
  const objection = objectionTo(request)
  if (objection !== null) {
    // Somebody who was sent here from another room is shown the door that is meant for them.
    if (lan && !isLoopback(request.socket.remoteAddress) && isPage(request) && !isPairing(pathOf(request))) {
      response.writeHead(303, { location: '/pair' }).end()
      return
    }
    response.writeHead(403, { 'content-type': 'application/json' })
    response.end(JSON.stringify({ reasons: [`Not let in: ${objection}.`] }))
    return
  }
  const path = pathOf(request)
  if (path === '/pair') {
    void servePairing(devices, request, response)
    return
  }
  if (path === '/api/devices') {
    void serveDevices(devices, request, response)
    return
  }
  if (serveScreen(path, nonce, response)) return
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
  if (url !== '/live')
    devices.joins(
      Devices.digestIn(request),
      socket as Socket,
      new URL(url, 'http://clavik').searchParams.get('name') ?? '',
    )
  const hub = connect({ host: '127.0.0.1', port: livePort, noDelay: true }, () => {
    // This computer itself may work what it shows; another one where the builder has said so.
    const touch = isLoopback(request.socket.remoteAddress) || devices.mayTouch(Devices.digestIn(request))
    const headers: string[] = [`x-clavik-secret: ${secret}`, `x-clavik-touch: ${touch ? 'yes' : 'no'}`]
    for (let i = 0; i < request.rawHeaders.length; i += 2) {
      const name = request.rawHeaders[i] as string
      if (!name.toLowerCase().startsWith('x-clavik-')) headers.push(`${name}: ${request.rawHeaders[i + 1]}`)
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
// Left out, the host is every address that this computer has.
server.listen({ port, ...(lan ? {} : { host: '127.0.0.1' }) }, () => process.stdout.write('web ready\n'))
const stop = () => process.exit(0)
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
endWithKeeper(stop)
