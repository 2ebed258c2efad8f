import { createSocket } from 'node:dgram'
import type { SeatInputs } from '../../core/connections/seat'
import { heat, motion, session } from './telemetry'
import { Truck } from './truck'

const HZ = 60
/** Steps between two datagrams of what changes slowly. */
const HEAT_EVERY = 12
const SESSION_EVERY = 15

/** Drives a truck in real time and sends its datagrams to a port of this computer. */
export const serveTruck = (port: number, seed = 4) => {
  const truck = new Truck(seed)
  const socket = createSocket('udp4')
  socket.on('error', () => {})
  const send = (bytes: Buffer): void => socket.send(bytes, port, '127.0.0.1', () => {})
  let steps = 0
  let due = performance.now()
  const run = () => {
    const now = performance.now()
    // After a long pause of the machine it goes on from now.
    if (now - due > 500) due = now
    while (due <= now) {
      due += 1000 / HZ
      truck.step(1 / HZ)
      send(motion(truck, steps))
      if (steps % HEAT_EVERY === 0) send(heat(truck, steps / HEAT_EVERY))
      if (steps % SESSION_EVERY === 0) send(session(truck, steps / SESSION_EVERY))
      steps++
    }
    timer = setTimeout(run, Math.max(0, due - performance.now()))
  }
  let timer = setTimeout(run, 0)
  return {
    port,
    sit: (seat: SeatInputs): void => {
      truck.seat = seat
    },
    stop: (): void => {
      clearTimeout(timer)
      socket.close()
    },
  }
}

export type ServedTruck = ReturnType<typeof serveTruck>
