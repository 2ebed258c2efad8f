import { expect, it } from 'vitest'
import { emptySeat } from '../../core/connections/seat'
import { torskLayout } from '../../core/connections/torsk-layout'
import { type DatagramValue, LayoutReader } from '../../core/datagrams/read-datagram'
import { heat, motion, session } from './telemetry'
import { LIMIT, Truck } from './truck'

const drive = (truck: Truck, seconds: number, each: (t: Truck) => void = () => {}) => {
  for (let i = 0; i < seconds * 60; i++) {
    truck.step(1 / 60)
    each(truck)
  }
}

it('drives up the hill by itself, run after run, and never beyond what it is built for', () => {
  const truck = new Truck(4)
  let fastest = 0
  let hottest = 0
  const gears = new Set<number>()
  const runs = new Set<number>()
  let sound = true
  drive(truck, 700, (t) => {
    fastest = Math.max(fastest, t.rpm)
    hottest = Math.max(hottest, t.water)
    gears.add(t.gear)
    runs.add(t.run)
    sound &&= [t.speed, t.rpm, t.position, ...t.acceleration, ...t.tyres, ...t.discs].every(Number.isFinite)
  })
  expect(sound).toBe(true)
  expect(fastest).toBeGreaterThan(8000)
  expect(fastest).toBeLessThanOrEqual(LIMIT + 60)
  expect(hottest).toBeLessThan(110)
  expect([...gears].sort()).toEqual([0, 1, 2, 3, 4, 5])
  expect(truck.best).toBeGreaterThan(120)
  expect([...runs]).toEqual([1, 2, 3])
  expect(truck.runs).toBe(3)
})

it('a practice has no number of runs, and a recce no clock and no hurry', () => {
  const truck = new Truck(4)
  truck.seat = { ...emptySeat, session: 'practice' }
  drive(truck, 20)
  expect(truck.runs).toBe(0)
  expect(truck.clock).toBeGreaterThan(5)
  const slow = new Truck(4)
  slow.seat = { ...emptySeat, session: 'recce' }
  let fastest = 0
  drive(slow, 60, (t) => {
    fastest = Math.max(fastest, t.speed)
  })
  expect(slow.clock).toBe(0)
  expect(fastest).toBeLessThan(20)
})

it('what a foot presses is what it tells, and the engine follows', () => {
  const truck = new Truck(4)
  truck.seat = { ...emptySeat, gear: 0, throttle: 1, clutch: 1, brake: 1 }
  drive(truck, 3)
  expect(truck.throttle).toBe(1)
  expect(truck.rpm).toBeGreaterThan(8500)
  expect(truck.limiting).toBe(true)
  truck.seat = { ...truck.seat, throttle: 0 }
  drive(truck, 3)
  expect(truck.rpm).toBeLessThan(1500)
  expect(truck.speed).toBe(0)
})

it('its bytes are what the layout says of them', () => {
  const truck = new Truck(4)
  truck.seat = { ...emptySeat, lights: true, steering: -0.5 }
  drive(truck, 40)
  const reader = new LayoutReader(torskLayout)
  const told: Record<string, DatagramValue> = {}
  for (const bytes of [motion(truck, 2401), session(truck, 160), heat(truck, 200)]) {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    const packet = reader.packetOf(view)
    if (typeof packet !== 'number') throw new Error('no packet')
    reader.read(
      view,
      packet,
      () => true,
      (slot, v) => {
        told[reader.variables[slot]?.name ?? ''] = v
      },
    )
  }
  const near = (name: string, value: number, decimals = 3) =>
    expect(told[name], name).toBeCloseTo(value, decimals)
  near('speed', truck.speed)
  near('engine.speed', truck.rpm, 2)
  near('engine.limit', 9000)
  near('gear', truck.gear)
  near('steering', -0.5, 4)
  near('lights.on', 1)
  near('handbrake.on', 0)
  near('throttle', truck.throttle)
  near('acceleration.2', truck.acceleration[1])
  near('wheel.slip.4', truck.slip[3] as number)
  near('suspension.1', truck.suspension[0] as number)
  near('fuel.flow', truck.flow)
  near('stage.position', truck.position, 1)
  near('altitude', truck.altitude, 2)
  near('stage.clock', truck.clock, 2)
  near('session', 1)
  near('runs', 3)
  near('air.temperature', 14)
  near('water.temperature', truck.water, 0)
  near('battery', truck.battery, 2)
  near('tyre.temperature.3', truck.tyres[2] as number, 0)
  near('tyre.pressure.2', truck.pressures[1] as number, 0)
  near('brake.temperature.1', truck.discs[0] as number, 0)
  near('fuel', truck.fuel)
  expect(told.course).toBe('Brant Ridge')
  expect(told.craft).toBe('Torsk R4')
  expect(told.datagrams).toBe(2401)
  expect(Object.keys(told)).toHaveLength(reader.variables.length)
})
