import { createServer, type Socket } from 'node:net'
import type { SimulatedModelName } from '../../core/controllers/simulated-models'
import { isHttp } from '../../links/line-reader'
import { SimulatedController } from './simulated-controller'

const TREMBLE_MS = 120

export interface ServedController {
  readonly controller: SimulatedController
  readonly port: () => number
  readonly stop: () => void
}

/** Serves a simulated controller: who it is in a line of JSON, then its events, to whoever listened last. */
export const serveController = (
  model: SimulatedModelName,
  identity: string,
  random: () => number,
  listening: (port: number) => void,
): ServedController => {
  const controller = new SimulatedController(model, identity, () => performance.now() * 1000, random)
  let port = 0
  let listener: Socket | null = null
  const server = createServer((socket) => {
    listener?.destroy()
    listener = socket
    socket.setNoDelay(true)
    controller.say = (bytes) => void socket.write(bytes)
    socket.write(`${JSON.stringify(controller.hello())}\n`)
    // A page that was made to speak to this port is no computer of a cockpit; nobody else has anything to say.
    socket.on('data', (bytes) => isHttp(bytes.subarray(0, 256).toString('latin1')) && socket.destroy())
    socket.on('error', () => socket.destroy())
    socket.on('close', () => {
      if (listener !== socket) return
      listener = null
      controller.say = null
    })
  })
  server.on('error', (error) => process.stderr.write(`stand-ins: ${identity}: ${error.message}\n`))
  server.listen(0, '127.0.0.1', () => {
    const address = server.address()
    if (address === null || typeof address !== 'object') return
    port = address.port
    listening(port)
  })
  const trembles = setInterval(() => controller.tremble(), TREMBLE_MS)
  return {
    controller,
    port: () => port,
    stop: () => {
      clearInterval(trembles)
      listener?.destroy()
      server.close()
    },
  }
}
