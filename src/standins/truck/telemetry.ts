import { sessions } from '../../core/connections/seat'
import { COURSE_M } from './course'
import { LIMIT, type Truck } from './truck'

// Written out byte by byte, as a program would that has never heard of layouts: `core/connections/torsk-layout.ts` says the same
// in its own words, and a test holds one against the other.

export const MOTION = 1
export const SESSION = 2
export const HEAT = 3

const begun = (bytes: number, kind: number, count: number): Buffer => {
  const b = Buffer.alloc(bytes)
  b.writeUInt8(kind, 0)
  b.writeUInt8(1, 1)
  b.writeUInt32LE(count >>> 0, 4)
  return b
}

const floats = (b: Buffer, at: number, ...values: readonly number[]): void => {
  for (const [i, v] of values.entries()) b.writeFloatLE(v, at + 4 * i)
}

const tenth = (x: number): number => Math.round(x * 10)

export const motion = (t: Truck, count: number): Buffer => {
  const b = begun(128, MOTION, count)
  floats(b, 8, t.time, t.speed, t.rpm, LIMIT)
  b.writeInt8(t.gear, 24)
  b.writeUInt8(
    (t.handbrake > 0.5 ? 1 : 0) | (t.seat.lights ? 2 : 0) | (t.limiting ? 4 : 0) | (t.spins ? 8 : 0),
    25,
  )
  b.writeUInt16LE(Math.round((t.steering + 1) * 32_767.5), 26)
  floats(b, 28, t.throttle, t.brake, t.clutch, t.handbrake)
  floats(b, 44, ...t.acceleration)
  floats(b, 56, ...t.wheels)
  floats(b, 72, ...t.slip)
  floats(b, 88, ...t.suspension)
  floats(b, 104, t.boost, t.flow, t.heading, t.gradient, t.altitude, t.position)
  return b
}

export const session = (t: Truck, count: number): Buffer => {
  const b = begun(96, SESSION, count)
  b.writeUInt8(sessions.indexOf(t.seat.session), 8)
  b.writeUInt8(t.run & 255, 9)
  b.writeUInt8(t.runs, 10)
  b.writeUInt8(t.split, 11)
  b.writeUInt32LE(Math.round(t.clock * 1000), 12)
  b.writeUInt32LE(Math.round(t.best * 1000), 16)
  b.writeInt32LE(Math.round(t.difference * 1000), 20)
  b.writeFloatLE(COURSE_M, 24)
  b.writeUInt16LE(t.penalties, 28)
  b.write('Brant Ridge', 32, 31, 'utf8')
  b.write('Torsk R4', 64, 23, 'utf8')
  b.writeUInt8(40 + 14, 88)
  b.writeUInt8(1, 89)
  return b
}

export const heat = (t: Truck, count: number): Buffer => {
  const b = begun(48, HEAT, count)
  b.writeInt16LE(tenth(t.water), 8)
  b.writeInt16LE(tenth(t.oil), 10)
  b.writeUInt16LE(Math.round(t.oilPressure), 12)
  b.writeUInt16LE(Math.round(t.battery * 1000), 14)
  for (let i = 0; i < 4; i++) {
    b.writeInt16LE(tenth(t.tyres[i] as number), 16 + 2 * i)
    b.writeUInt16LE(tenth(t.pressures[i] as number), 24 + 2 * i)
    b.writeInt16LE(tenth(t.discs[i] as number), 32 + 2 * i)
  }
  b.writeFloatLE(t.fuel, 40)
  return b
}
