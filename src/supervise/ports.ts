import { createServer } from 'node:net'
import { PlainProblem } from './say'

const listenOn = (port: number): Promise<number> =>
  new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => {
      const address = server.address()
      const got = typeof address === 'object' && address ? address.port : port
      server.close(() => resolve(got))
    })
  })

/** Ports on loopback that nobody uses now, all different. */
export const freePorts = async (count: number): Promise<number[]> => {
  const found = new Set<number>()
  while (found.size < count) found.add(await listenOn(0))
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
