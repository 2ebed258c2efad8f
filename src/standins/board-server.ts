import { createServer, type Server, type Socket } from 'node:net'
import { type FromStandins, handLine, readerOfHands, type ToStandins } from '../links/hand-link'
import { isHttp } from '../links/line-reader'
import { type BoardMemory, SimulatedBoard } from './boards/simulated-board'
import { randomFrom } from './craft/world'

export interface BoardPlace {
  readonly identity: string
  readonly model: string
  readonly closed: readonly number[]
  readonly wipers?: readonly (readonly [number, number])[] | undefined
  readonly port: number
}

/** A board under a hand is stepped as its program runs; one that nobody touches only as often as lamps and needles need. */
const STEP_MS = 2
const QUIET_STEP_MS = 10
const MOST_BEHIND_US = 400_000
const METER_MS = 33
const now = () => Math.round(performance.now() * 1000)

/** Lets the hand do what it was asked to. */
const handle = (board: SimulatedBoard, m: ToStandins): void => {
  const { hands } = board
  switch (m.say) {
    case 'move':
      for (const c of m.contacts) hands.moveContact(c.pin, c.closed, now())
      break
    case 'turn':
      hands.turn(...m.pins, m.changes)
      break
    case 'slide':
      hands.slide(m.pin, m.level)
      break
    case 'solder':
      board.solder(m.chips)
      break
  }
}

/** Simulated boards beside those of the demo: an end to what one may ask for. */
const MOST_BOARDS = 40

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
    const kept = memory ?? { configuration: [], closed: [...closed], wipers: wipers ?? [] }
    this.board = new SimulatedBoard(identity, model, kept, randomFrom(seed), (bytes) => {
      this.socket?.write(bytes)
    })
    this.server = createServer((socket) => this.take(socket))
    this.server.listen(place.port, '127.0.0.1', () => {
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

/** What is remembered of simulated boards, by identity. */
export type Memories = Record<string, BoardMemory & { readonly made?: { readonly model: string } }>

/** Serves each simulated board on a port of its own, and the hands and meters of all of them on another. */
export const serveBoards = (
  places: readonly BoardPlace[],
  hand: { readonly port: number; readonly secret: string },
  memories: Memories,
  keep: (memories: Memories) => void,
): Server[] => {
  const boards: Served[] = []
  const ports = new Map<string, number>()
  /** Boards that were asked for, with their models: they come back with the process. */
  const made = new Map<string, string>()
  const watchers = new Set<Socket>()
  const tellAll = (message: FromStandins) => {
    for (const w of watchers) w.write(handLine(message))
  }
  const serve = (place: BoardPlace) => {
    const served = new Served(place, boards.length + 1, memories[place.identity], (port) => {
      ports.set(place.identity, port)
      tellAll({ say: 'board', identity: place.identity, port })
    })
    boards.push(served)
    return served
  }
  const find = (identity: string) => boards.find((b) => b.place.identity === identity)
  const simulate = (identity: string, model: string) => {
    if (find(identity) || boards.length >= MOST_BOARDS) return
    made.set(identity, model)
    serve({ identity, model, closed: [], port: 0 })
  }
  const putAway = (identity: string) => {
    const served = find(identity)
    if (!served || !made.delete(identity)) return
    served.close()
    boards.splice(boards.indexOf(served), 1)
    ports.delete(identity)
    tellAll({ say: 'board', identity, port: 0 })
  }
  const servers = places.map((place) => serve(place).server)
  for (const [identity, memory] of Object.entries(memories))
    if (memory.made) simulate(identity, memory.made.model)

  const remember = () =>
    keep(
      Object.fromEntries(
        boards.map(({ place: { identity }, board }) => {
          const model = made.get(identity)
          return [identity, { ...board.memory, ...(model === undefined ? {} : { made: { model } }) }]
        }),
      ),
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
  }
  const obey = (m: Exclude<ToStandins, { say: 'hello' }>) => {
    if (m.say === 'simulate') simulate(m.identity, m.model)
    else if (m.say === 'put away') putAway(m.identity)
    else {
      const board = find(m.identity)?.board
      if (board) handle(board, m)
    }
    // What was asked for is kept at once, whatever happens to the process a moment later.
    if (m.say === 'simulate' || m.say === 'put away') remember()
    touched()
  }
  const welcome = (socket: Socket) => {
    watchers.add(socket)
    for (const [identity, port] of ports) socket.write(handLine({ say: 'board', identity, port }))
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
  return [...servers, hands]
}
