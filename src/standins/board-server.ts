import { createServer, type Server, type Socket } from 'node:net'
import { handLine, readerOfHands, type ToStandins } from '../links/hand-link'
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

/** Serves each simulated board on a port of its own, and the hands and meters of all of them on another. */
export const serveBoards = (
  places: readonly BoardPlace[],
  handPort: number,
  memories: Record<string, BoardMemory>,
  keep: (memories: Record<string, BoardMemory>) => void,
): Server[] => {
  const boards = places.map((place, i) => ({
    place,
    socket: null as Socket | null,
    board: null as SimulatedBoard | null,
    seed: i + 1,
    steppedAt: 0,
  }))
  for (const b of boards) {
    const { identity, model, closed, wipers } = b.place
    const memory = memories[identity] ?? {
      configuration: [],
      closed: [...closed],
      wipers: wipers ?? [],
    }
    b.board = new SimulatedBoard(identity, model, memory, randomFrom(b.seed), (bytes) => {
      b.socket?.write(bytes)
    })
  }
  const remember = () =>
    keep(Object.fromEntries(boards.flatMap((b) => (b.board ? [[b.place.identity, b.board.memory]] : []))))

  const servers = boards.map((b) => {
    const server = createServer((socket) => {
      b.socket?.destroy()
      b.socket = socket
      socket.setNoDelay(true)
      b.board?.connect(now())
      socket.on('data', (bytes) => b.board?.receive(bytes, now()))
      socket.on('error', () => socket.destroy())
      socket.on('close', () => {
        if (b.socket !== socket) return
        b.socket = null
        b.board?.disconnect()
      })
    })
    return server.listen(b.place.port, '127.0.0.1')
  })

  let touched: () => void = () => {}
  const watchers = new Set<Socket>()
  const told = new Map<string, string>()
  const meter = () => {
    for (const { place, board } of boards) {
      if (!board?.looksOther()) continue
      const message = handLine({
        say: 'pins',
        identity: place.identity,
        closed: board.hands.closedPins(),
        levels: [...board.pinLevels],
        wipers: board.hands.wipers(),
        shows: [...board.shows],
      })
      if (told.get(place.identity) === message) continue
      told.set(place.identity, message)
      for (const w of watchers) w.write(message)
    }
  }
  const hands = createServer((socket) => {
    const reader = readerOfHands()
    watchers.add(socket)
    for (const message of told.values()) socket.write(message)
    socket.setNoDelay(true)
    socket.setEncoding('utf8')
    socket.on('data', (text: string) => {
      for (const m of reader.push(text)) {
        const board = boards.find((b) => b.place.identity === m.identity)?.board
        if (board) handle(board, m)
        touched()
      }
    })
    socket.on('error', () => socket.destroy())
    socket.on('close', () => watchers.delete(socket))
  }).listen(handPort, '127.0.0.1')

  let steppedTo = now()
  let timer: NodeJS.Timeout | null = null
  const isBusy = () => boards.some((b) => b.board?.isTouched)
  const run = () => {
    const t = now()
    // A board's own time goes on evenly, also when this process was kept from running for a moment.
    steppedTo = Math.max(steppedTo, t - MOST_BEHIND_US)
    while (steppedTo + STEP_MS * 1000 <= t) {
      steppedTo += STEP_MS * 1000
      for (const b of boards) {
        if (!b.board || (!b.board.isTouched && steppedTo - b.steppedAt < QUIET_STEP_MS * 1000)) continue
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
