import { createServer, type Server, type Socket } from 'node:net'
import { type FromStandins, handLine, readerOfHands, type ToStandins } from '../links/hand-link'
import { isHttp } from '../links/line-reader'
import { type BoardMemory, SimulatedBoard } from './boards/simulated-board'
import { type ServedCluster, serveCluster } from './cluster/cluster-server'
import { type ServedController, serveController } from './controllers/controller-server'
import type { SimulatedController } from './controllers/simulated-controller'
import { makeCraft } from './craft/craft'
import { randomFrom } from './craft/world'
import { serveCraft } from './craft-server'
import { Stands } from './stands'
import { type ServedTruck, serveTruck } from './truck/truck-server'

export interface BoardPlace {
  readonly identity: string
  readonly model: string
  /** Contacts that are closed before anybody has touched the panel, and where wipers stand then. */
  readonly closed: readonly number[]
  readonly wipers: readonly (readonly [number, number])[]
}

/** A board under a hand is stepped as its program runs; one that nobody touches only as often as lamps and needles need. */
const STEP_MS = 2
const QUIET_STEP_MS = 25
const MOST_BEHIND_US = 400_000
const METER_MS = 33
const now = () => Math.round(performance.now() * 1000)

/** Lets the hand do what it was asked to; what is to be told of that goes to whoever watches. */
const handle = (
  board: SimulatedBoard,
  m: Exclude<ToStandins, { say: 'drive' }>,
  tell: (m: FromStandins) => void,
): void => {
  const { hands, identity } = board
  switch (m.say) {
    case 'move':
      for (const c of m.contacts) hands.moveContact(c.pin, c.closed, now())
      break
    case 'turn':
      hands.turn(...m.pins, m.changes)
      break
    case 'slide':
      if (m.glides) hands.glide(m.pin, m.level, now())
      else hands.slide(m.pin, m.level)
      break
    case 'solder':
      board.solder(m.chips, m.slots)
      tell({ say: 'is like', identity, at: board.beLike(m.natures), natures: m.natures })
      break
    case 'attend':
      board.isAttended = m.on
      break
  }
}

/** The same on a controller, which has contacts and axes and nothing else. */
const handleController = (it: SimulatedController, m: Exclude<ToStandins, { say: 'drive' }>): void => {
  if (m.say === 'move') it.move(m.contacts)
  else if (m.say === 'slide') it.slide(m.pin, m.level)
  else if (m.say === 'handle') it.handle(m.control, m.to)
}

type Be = Extract<ToStandins, { say: 'be' }>
const none = { boards: [], crafts: [], trucks: [], clusters: [], controllers: [] }

/** An end to what one may ask for, and to what is remembered of boards that are put away. */
const MOST_BOARDS = 60
const MOST_CRAFTS = 8
const MOST_REMEMBERED = 200

/** One simulated board on a port of its own. */
class Served {
  socket: Socket | null = null
  steppedAt = 0
  told = ''
  readonly board: SimulatedBoard
  readonly server: Server

  constructor(
    readonly place: BoardPlace,
    seed: number,
    memory: BoardMemory | undefined,
    listening: (port: number) => void,
  ) {
    const { identity, model, closed, wipers } = place
    const kept = memory ?? { closed: [...closed], wipers }
    this.board = new SimulatedBoard(identity, model, kept, randomFrom(seed), (bytes) => {
      this.socket?.write(bytes)
    })
    this.server = createServer((socket) => this.take(socket))
    this.server.on('error', (error) => process.stderr.write(`stand-ins: ${identity}: ${error.message}\n`))
    this.server.listen(0, '127.0.0.1', () => {
      const address = this.server.address()
      if (address !== null && typeof address === 'object') listening(address.port)
    })
  }

  private take(socket: Socket): void {
    this.socket?.destroy()
    this.socket = socket
    socket.setNoDelay(true)
    this.board.connect(now())
    let first = true
    socket.on('data', (bytes) => {
      // A page that was made to speak to this port is no computer of a cockpit.
      if (first && isHttp(bytes.subarray(0, 256).toString('latin1'))) socket.destroy()
      else this.board.receive(bytes, now())
      first = false
    })
    socket.on('error', () => socket.destroy())
    socket.on('close', () => {
      if (this.socket !== socket) return
      this.socket = null
      this.board.disconnect()
    })
  }

  close(): void {
    this.socket?.destroy()
    this.server.close()
  }
}

/** One simulated craft on a port of its own. */
class ServedCraft {
  port = 0
  private readonly served: { readonly server: Server; readonly stop: () => void }

  constructor(
    readonly seed: number,
    readonly further: number,
    listening: (port: number) => void,
  ) {
    this.served = serveCraft(makeCraft(seed, further), 0)
    const { server } = this.served
    server.on('error', (error) => process.stderr.write(`stand-ins: craft: ${error.message}\n`))
    server.on('listening', () => {
      const address = server.address()
      if (address === null || typeof address !== 'object') return
      this.port = address.port
      listening(address.port)
    })
  }

  close(): void {
    this.served.stop()
  }
}

/** What is remembered of simulated boards, by rig and identity; of an earlier day by identity alone. */
export type Memories = Record<string, BoardMemory>

/** Serves the hands on all stand-ins and their meters; whoever knows the secret says which there are to be. */
export const serveStandins = (
  hand: { readonly port: number; readonly secret: string },
  memories: Memories,
  keep: (memories: Memories) => void,
): Server => {
  const boards: Served[] = []
  /** The rig that all of them are of. */
  let rig = ''
  /** What a board is remembered by: its namesake in another rig begins blank, and other parts hang on the same places of it. */
  const keyOf = (identity: string) => `${rig} ${identity}`
  const ports = new Map<string, number>()
  /** What boards held that have been put away, for their return. */
  const away = new Map(Object.entries(memories))
  const watchers = new Set<Socket>()
  const tellAll = (message: FromStandins) => {
    for (const w of watchers) w.write(handLine(message))
  }
  const find = (identity: string) => boards.find((b) => b.place.identity === identity)
  const serve = (place: BoardPlace) => {
    const { identity } = place
    const names = [keyOf(identity), identity]
    const memory = names.map((n) => away.get(n)).find((m) => m !== undefined)
    boards.push(
      new Served(place, boards.length + 1, memory, (port) => {
        ports.set(identity, port)
        tellAll({ say: 'board', identity, port })
      }),
    )
    for (const n of names) away.delete(n)
  }
  const putAway = (served: Served) => {
    const { identity } = served.place
    served.close()
    boards.splice(boards.indexOf(served), 1)
    ports.delete(identity)
    away.set(keyOf(identity), served.board.memory)
    while (away.size > MOST_REMEMBERED) away.delete(away.keys().next().value as string)
    tellAll({ say: 'board', identity, port: 0 })
  }
  /** Makes the boards those that there are to be; what is there already goes on. */
  const matchBoards = (places: readonly BoardPlace[]) => {
    const wanted = new Map(places.slice(0, MOST_BOARDS).map((b) => [b.identity, b]))
    for (const served of [...boards]) {
      const { identity, model } = served.place
      if (wanted.get(identity)?.model !== model) putAway(served)
    }
    for (const place of wanted.values()) if (!find(place.identity)) serve(place)
  }

  const craftAt = (id: string) => (port: number) => tellAll({ say: 'craft', id, port })
  const goneCraft = (id: string) => tellAll({ say: 'craft', id, port: 0 })
  const crafts = new Stands<Be['crafts'][number], ServedCraft>({
    most: MOST_CRAFTS,
    isSame: (c, w) => c.seed === w.seed && c.further === w.further,
    make: ({ id, seed, further }) => new ServedCraft(seed, further, craftAt(id)),
    stop: (c) => c.close(),
    gone: goneCraft,
  })
  const trucks = new Stands<Be['trucks'][number], ServedTruck>({
    most: MOST_CRAFTS,
    isSame: (t, w) => t.port === w.port,
    make: ({ port }) => serveTruck(port),
    stop: (t) => t.stop(),
    gone: () => {},
  })
  const clusters = new Stands<Be['clusters'][number], ServedCluster>({
    most: MOST_CRAFTS,
    isSame: () => true,
    make: ({ id }) => serveCluster(craftAt(id)),
    stop: (c) => c.stop(),
    gone: goneCraft,
  })
  const controllers = new Stands<Be['controllers'][number], ServedController>({
    most: MOST_CRAFTS,
    isSame: (c, w) => c.controller.model === w.model,
    make: ({ id, model }) =>
      serveController(model, id, randomFrom(7), (port) => tellAll({ say: 'board', identity: id, port })),
    stop: (c) => c.stop(),
    gone: (identity) => {
      toldOf.delete(identity)
      tellAll({ say: 'board', identity, port: 0 })
    },
  })
  const match = (m: Omit<Be, 'say' | 'rig'>) => {
    matchBoards(m.boards)
    crafts.match(m.crafts)
    trucks.match(m.trucks)
    clusters.match(m.clusters)
    controllers.match(m.controllers)
  }
  /** What was metered of controllers last. */
  const toldOf = new Map<string, string>()

  const remember = () =>
    keep(
      Object.fromEntries([...away, ...boards.map((b) => [keyOf(b.place.identity), b.board.memory] as const)]),
    )

  let touched: () => void = () => {}
  const meter = () => {
    for (const served of boards) {
      const { place, board } = served
      if (!board.looksOther()) continue
      const message = handLine({
        say: 'pins',
        identity: place.identity,
        closed: board.hands.closedPins(),
        levels: [...board.pinLevels],
        wipers: board.hands.wipers(),
        shows: [...board.shows],
      })
      if (served.told === message) continue
      served.told = message
      for (const w of watchers) w.write(message)
    }
    for (const [identity, { controller }] of controllers.there) {
      const [closed, wipers] = [
        controller.closedPins(),
        controller.wipers().map(([p, l]) => [p, l] as [number, number]),
      ]
      const message = handLine({ say: 'pins', identity, closed, wipers, levels: [], shows: [] })
      if (toldOf.get(identity) === message) continue
      toldOf.set(identity, message)
      for (const w of watchers) w.write(message)
    }
  }
  const obey = (m: Exclude<ToStandins, { say: 'hello' }>) => {
    if (m.say === 'be') {
      // Those of another rig have nothing to do with this one's, whatever they are called.
      if (m.rig !== rig) match(none)
      rig = m.rig
      match(m)
      // Kept at once, whatever happens to the process a moment later.
      remember()
    } else if (m.say === 'drive') trucks.there.get(m.id)?.sit(m.seat)
    else {
      const board = find(m.identity)?.board
      const it = controllers.there.get(m.identity)?.controller
      if (board) handle(board, m, tellAll)
      else if (it) handleController(it, m)
    }
    touched()
  }
  const welcome = (socket: Socket) => {
    watchers.add(socket)
    for (const [identity, port] of ports) socket.write(handLine({ say: 'board', identity, port }))
    for (const [identity, c] of controllers.there)
      if (c.port() !== 0) socket.write(handLine({ say: 'board', identity, port: c.port() }))
    for (const told of toldOf.values()) socket.write(told)
    for (const [id, { port }] of [...crafts.there, ...clusters.there])
      if (port !== 0) socket.write(handLine({ say: 'craft', id, port }))
    for (const { told } of boards) if (told !== '') socket.write(told)
  }
  const hands = createServer((socket) => {
    const reader = readerOfHands()
    socket.setNoDelay(true)
    socket.setEncoding('utf8')
    socket.on('data', (text: string) => {
      for (const m of reader.push(text)) {
        if (m.say === 'hello') {
          if (m.secret === hand.secret && !watchers.has(socket)) welcome(socket)
        } else if (watchers.has(socket)) obey(m)
      }
      // Who does not know the secret, or is a browser, moves nothing.
      if (!watchers.has(socket) || reader.foreign) socket.destroy()
    })
    socket.on('error', () => socket.destroy())
    socket.on('close', () => watchers.delete(socket))
  }).listen(hand.port, '127.0.0.1')

  let steppedTo = now()
  let timer: NodeJS.Timeout | null = null
  const isBusy = () => boards.some((b) => b.board.isTouched)
  const run = () => {
    const t = now()
    // A board's own time goes on evenly, also when this process was kept from running for a moment.
    steppedTo = Math.max(steppedTo, t - MOST_BEHIND_US)
    while (steppedTo + STEP_MS * 1000 <= t) {
      steppedTo += STEP_MS * 1000
      for (const b of boards) {
        if (!b.board.isTouched && steppedTo - b.steppedAt < QUIET_STEP_MS * 1000) continue
        b.steppedAt = steppedTo
        b.board.step(steppedTo)
      }
    }
    timer = setTimeout(run, isBusy() ? STEP_MS : QUIET_STEP_MS)
  }
  run()
  /** A hand has come to a board: it is busy from now on. */
  touched = () => {
    if (timer) clearTimeout(timer)
    timer = setTimeout(run, 0)
  }
  setInterval(meter, METER_MS)
  setInterval(remember, 1000)
  process.on('exit', remember)
  return hands
}
