import { randomInt } from 'node:crypto'
import { createServer } from 'node:net'
import { PlainProblem } from './say'

/** Below what systems hand out by themselves: until it is bound, no outgoing connection of anybody takes one of these. */
const FIRST = 16_000
const SPAN = 16_000
const MOST_TRIES = 500

const listenOn = (port: number): Promise<void> =>
  new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => server.close(() => resolve()))
  })

/** Ports on loopback that nobody uses now, all different, of the `span` from `first` on. */
export const freePorts = async (count: number, first = FIRST, span = SPAN): Promise<number[]> => {
  const found = new Set<number>()
  for (let tries = 0; found.size < count; tries++) {
    if (tries === MOST_TRIES)
      throw new PlainProblem(`Nearly all ports between ${first} and ${first + span} are in use.`)
    const port = first + randomInt(span)
    if (
      await listenOn(port).then(
        () => true,
        () => false,
      )
    )
      found.add(port)
  }
  return [...found]
}

/** Refuses, in a sentence, a port that somebody uses. */
export const mustBeFree = async (port: number): Promise<void> => {
  try {
    await listenOn(port)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EACCES') {
      throw new PlainProblem(`Port ${port} is not open to this user; choose one above 1023 with --port.`)
    }
    throw new PlainProblem(
      `Port ${port} is in use by another program; stop it or choose another with --port.`,
    )
  }
}
