import { timingSafeEqual } from 'node:crypto'
import { createServer, type IncomingMessage, type Server } from 'node:http'
import { type WebSocket, WebSocketServer } from 'ws'
import { z } from 'zod'
import { seatInputs } from '../core/connections/seat'
import { touched } from '../core/elements/touch'
import { exerciseSchema } from '../core/engine/exercise'
import type { Alive, ToHub } from '../core/live/feed'
import { parseOutside } from '../core/plain-json'
import { outsideId } from '../core/rig/edit-schema'
import { scopeColumns, scopeKinds } from '../core/scope/find'
import type { Millis } from '../core/units-of-measure'
import { Bucket } from './bucket'
import type { Hub } from './hub'
import { Fingers } from './screens/fingers'
import { Tab, type TabLine } from './tab'

const id = outsideId
const names = z.array(z.string().max(200)).max(50_000)
const toHub = z.discriminatedUnion('say', [
  z.object({ say: z.literal('select'), partId: id.nullable() }),
  z.object({ say: z.literal('watch'), all: z.boolean() }),
  z.object({
    say: z.literal('show'),
    subject: z.enum(['parts', 'says', 'paths']),
    parts: z.array(id).max(20_000),
  }),
  z.object({ say: z.literal('values'), names: z.array(z.string().max(200)).max(50_000) }),
  z.object({ say: z.literal('screens'), ids: z.array(id).max(200) }),
  z.object({ say: z.literal('agreements'), on: z.boolean() }),
  z.object({
    say: z.literal('operate'),
    partId: id,
    aspectId: id,
    movement: z.discriminatedUnion('to', [
      z.object({ to: z.literal('position'), position: z.string().max(40) }),
      z.object({ to: z.literal('turn'), clicks: z.number().int().min(-50).max(50) }),
      z.object({ to: z.literal('slide'), level: z.number().min(0).max(1) }),
    ]),
  }),
  z.object({ say: z.literal('touch'), element: id, by: touched }),
  z.object({ say: z.literal('settle'), partIds: z.array(id).max(5000) }),
  z.object({ say: z.enum(['ask port', 'load program', 'forget program']), path: z.string().max(200) }),
  z.object({ say: z.enum(['raw', 'datagrams', 'bus', 'controller']), connection: id.nullable() }),
  z.object({ say: z.literal('drive'), connection: id, seat: seatInputs }),
  z.object({
    say: z.literal('handle'),
    connection: id,
    control: z.int().min(0).max(200),
    to: z.number().min(0).max(100),
  }),
  z.object({
    say: z.literal('raw send'),
    connection: id,
    hex: z
      .string()
      .max(8192)
      .regex(/^([0-9a-f]{2})+$/, 'bytes are pairs of hexadecimal digits'),
  }),
  z.object({ say: z.literal('echo'), connection: id }),
  z.object({ say: z.literal('lines'), connection: id, dtr: z.boolean(), rts: z.boolean() }),
  z.object({ say: z.enum(['probe', 'probe twin']), of: z.object({ partId: id, aspectId: id }).nullable() }),
  z.object({ say: z.literal('follow'), on: z.boolean() }),
  z.object({ say: z.literal('scope'), on: z.boolean() }),
  z.object({ say: z.literal('scope lists'), pinned: names, muted: names, bound: names }),
  z.object({
    say: z.literal('scope find'),
    ask: z.number().int(),
    query: z.object({
      search: z.string().max(200),
      only: z.enum(scopeKinds),
      group: z.string().max(200).nullable(),
      sort: z.object({ by: z.enum(scopeColumns), down: z.boolean() }),
    }),
  }),
  z.object({ say: z.literal('scope show'), rows: z.array(z.number().int().min(0)).max(500) }),
  z.object({
    say: z.enum(['scope write', 'scope event']),
    name: z.string().max(200),
    typed: z.string().max(500),
  }),
  z.object({ say: z.literal('scope moved'), ms: z.number().min(0).max(3_600_000) }),
  z.object({ say: z.literal('scope forget') }),
  z.object({ say: z.literal('hunt'), on: z.boolean() }),
  z.object({ say: z.enum(['hunt mark', 'hunt unmark']) }),
  z.object({ say: z.literal('hunt part'), partId: id.nullable() }),
  z.object({
    say: z.literal('record'),
    name: z.string().trim().min(1, 'a recording needs a name').max(120),
    names: names.nullable(),
  }),
  z.object({ say: z.enum(['record end', 'replay close']) }),
  z.object({ say: z.literal('record mark'), words: z.string().max(200) }),
  z.object({ say: z.literal('replay open'), id }),
  z.object({
    say: z.literal('replay change'),
    playing: z.boolean().optional(),
    speed: z.number().min(0.01).max(100).optional(),
    loop: z.boolean().optional(),
    hands: z.boolean().optional(),
    at: z.number().min(0).optional(),
  }),
  z.object({ say: z.literal('replay step'), by: z.union([z.literal(1), z.literal(-1)]) }),
  z.object({ say: z.literal('arm'), armed: z.boolean() }),
  z.object({
    say: z.literal('craft set'),
    choice: z.union([z.literal(['by craft', 'none']), z.strictObject({ set: id })]),
  }),
  z.object({ say: z.literal('load'), boardId: id }),
  z.object({
    say: z.literal('exercise'),
    partIds: z.array(id).max(5000),
    how: exerciseSchema.nullable(),
  }),
]) satisfies z.ZodType<ToHub>

/** What a tab says, as text: obeyed where it is understood, and answered with a sentence where it is not. */
export const hearText = (hub: Hub, tab: Tab, text: string): void => {
  const parsed = parseOutside(text)
  const message = toHub.safeParse('problem' in parsed ? null : parsed.value)
  if (message.success) hub.hear(tab, message.data)
  else {
    const why = 'problem' in parsed ? parsed.problem : message.error.issues[0]?.message
    tab.send({ say: 'problem', message: `The hub did not understand: ${why}.` })
  }
}

/** A tab that cannot keep up is skipped until it has caught up; it then gets the newest state only. */
const MOST_BUFFERED = 1_000_000
/** One that does not read at all is let go: it can come back and begin anew. */
const MOST_UNREAD = 16_000_000

/** What a tab may say: a hand that turns and slides says a tenth of it. */
const MESSAGES_PER_S = 400
const MOST_MESSAGES = 2 * MESSAGES_PER_S

/** The header in which the web process says the secret of this start. */
export const SECRET_HEADER = 'x-clavik-secret'

/** The header in which the web process says that a device may touch its screen. */
export const TOUCH_HEADER = 'x-clavik-touch'

/** Only the web process is let in: it knows the secret, and has asked the rule who may. */
const knows = (secret: string, request: IncomingMessage): boolean => {
  const said = Buffer.from(String(request.headers[SECRET_HEADER] ?? ''))
  const meant = Buffer.from(secret)
  return said.length === meant.length && timingSafeEqual(said, meant)
}

/** The line to whoever is behind a socket; one that does not read at all is let go. */
const lineOf = (socket: WebSocket): TabLine => ({
  send: (text) => {
    if (socket.bufferedAmount > MOST_UNREAD) socket.terminate()
    else socket.send(text)
  },
  isFull: () => socket.bufferedAmount > MOST_BUFFERED,
})

/** How often a line is asked whether anybody is still there: one whose network went has not said that it goes. */
const ASK_MS = 10_000
/** How often whoever is there hears that the hub is there. */
const ALIVE_MS = 1000
const ALIVE = JSON.stringify({ say: 'alive' } satisfies Alive)

/** Lets go of a line that has not answered from one asking to the next; browsers answer by themselves. */
const letGoWhenGone = (socket: WebSocket, askMs: Millis): void => {
  let answers = true
  socket.on('pong', () => {
    answers = true
  })
  const asking = setInterval(() => {
    if (!answers) socket.terminate()
    answers = false
    socket.ping()
  }, askMs)
  socket.on('close', () => clearInterval(asking))
}

/** Says that the hub is there, whether or not there is anything else to say. */
const sayAlive = (socket: WebSocket, line: TabLine): void => {
  const alive = setInterval(() => line.isFull() || line.send(ALIVE), ALIVE_MS)
  socket.on('close', () => clearInterval(alive))
}

const serveTab = (hub: Hub, socket: WebSocket, line: TabLine): void => {
  const tab = new Tab(line)
  hub.join(tab)
  const patience = new Bucket(MOST_MESSAGES, MESSAGES_PER_S)
  socket.on('message', (data) => {
    // One that only shouts is shed: whoever is there can come back and begin anew.
    if (!patience.take(performance.now())) {
      socket.terminate()
      return
    }
    hearText(hub, tab, String(data))
  })
  socket.on('close', () => hub.leave(tab))
  socket.on('error', () => socket.terminate())
}

/** All that a device can say: a finger on one of its elements. */
const fromScreen = z.strictObject({ say: z.literal('touch'), element: id, by: touched })

/** A device that shows a screen is told of that and of nothing else, and listened to only where it may be touched. */
const serveScreen = (hub: Hub, socket: WebSocket, line: TabLine, name: string, mayTouch: boolean): void => {
  const fingers = new Fingers(hub, name)
  const leave = hub.screens.join(line, name, mayTouch)
  const patience = new Bucket(MOST_MESSAGES, MESSAGES_PER_S)
  socket.on('message', (data) => {
    const parsed = parseOutside(String(data))
    const said = fromScreen.safeParse('problem' in parsed ? null : parsed.value)
    if (!mayTouch || !said.success || !patience.take(performance.now())) {
      socket.terminate()
      return
    }
    const problem = fingers.touch(said.data.element, said.data.by)
    if (problem !== null) line.send(JSON.stringify({ say: 'screen refused', words: problem }))
  })
  socket.on('close', () => {
    fingers.letGo()
    leave()
  })
  socket.on('error', () => socket.terminate())
}

/** The hub's own door, for the web process alone: the live feed at /live, that of single screens at /screen, and its state at /status. */
export const serveLive = (hub: Hub, port: number, secret: string, askMs: Millis = ASK_MS): Server => {
  const server = createServer((request, response) => {
    if (!knows(secret, request)) {
      response.writeHead(403).end()
      return
    }
    if (request.url !== '/status') {
      response.writeHead(404).end()
      return
    }
    response.writeHead(200, { 'content-type': 'application/json' })
    response.end(JSON.stringify(hub.status()))
  })
  const sockets = new WebSocketServer({
    noServer: true,
    maxPayload: 2 * 1024 * 1024,
    perMessageDeflate: false,
  })
  server.on('upgrade', (request, socket, head) => {
    const url = URL.canParse(request.url ?? '', 'http://hub')
      ? new URL(request.url ?? '', 'http://hub')
      : null
    const place = url?.pathname
    if (!knows(secret, request) || (place !== '/live' && place !== '/screen')) {
      socket.end('HTTP/1.1 403 Forbidden\r\n\r\n')
      return
    }
    sockets.handleUpgrade(request, socket, head, (ws) => {
      const line = lineOf(ws)
      letGoWhenGone(ws, askMs)
      sayAlive(ws, line)
      if (place === '/live') serveTab(hub, ws, line)
      else
        serveScreen(
          hub,
          ws,
          line,
          url?.searchParams.get('name') ?? '',
          request.headers[TOUCH_HEADER] === 'yes',
        )
    })
  })
  return server.listen(port, '127.0.0.1')
}
