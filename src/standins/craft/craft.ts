import { autopilot } from './autopilot'
import { electrics } from './electrics'
import { engines } from './engines'
import { flight } from './flight'
import { floats } from './floats'
import { fuel } from './fuel'
import { further } from './further'
import { hidden } from './hidden'
import { groundAt, home, mailRun } from './mail-run'
import { radios } from './radios'
import { reckoned } from './reckoned'
import { services } from './services'
import { warnings } from './warnings'
import { wheels } from './wheels'
import { World } from './world'

/** Steps of the model a second; the link tells frames at half of it. */
export const STEPS_HZ = 60
const DT = 1 / STEPS_HZ

/**
 * The Skerry 12: all its systems, stepped together. The same seed and the same hands give the same flight. `more` names without
 * meaning come on top, to try the size of large simulators.
 */
export const makeCraft = (seed: number, more = 0) => {
  const w = new World(seed)
  w.inGroup('Simulator')
  const time = w.number('sim.time', 's', 'Time since the simulator started')
  const steps = w.number('sim.steps', null, 'Steps of the model so far')
  const power = electrics(w)
  const tanks = fuel(w, power)
  const both = engines(w, power, tanks)
  const gear = wheels(w, power)
  const hull = floats(w, power)
  const air = flight(w, { latitude: home.latitude, longitude: home.longitude, heading: 40 })
  const sets = radios(w, power, air)
  const pilot = autopilot(w, power, air, sets)
  const run = mailRun(w, { flight: air, engines: both, wheels: gear, floats: hull, autopilot: pilot, power })
  const comforts = services(w, power)
  const lamps = warnings(w, power)
  const value = (name: string) => w.named(name)
  lamps.add('battery', 'Battery discharges', () => value('elec.battery.current').n > 15)
  lamps.add('bus', 'Main bus dead', () => !power.mainLive())
  for (const side of ['left', 'right'] as const) {
    lamps.add(
      `generator.${side}`,
      `Generator off line, ${side}`,
      () => !value(`elec.generator.${side}.online`).is,
    )
    lamps.add(`oil.${side}`, `Oil pressure low, ${side}`, () => value(`engine.${side}.oil.low`).is)
    lamps.add(`fire.${side}`, `Engine fire, ${side}`, () => value(`engine.${side}.fire`).is)
    lamps.add(`bilge.${side}`, `Water in the float, ${side}`, () => value(`floats.${side}.water.high`).is)
    lamps.add(`fuel.${side}`, `Fuel low, ${side}`, () => value(`fuel.${side}.inner.low`).is)
  }
  lamps.add('stall', 'Stall', () => value('speed.stalling').is)
  lamps.add('wheels', 'Wheels neither up nor down', () => value('gear.transit').is)
  const others = reckoned(w)
  const masses = further(w, more)
  w.inGroup('Not on this craft')
  w.absent('ice.boots.pressure', 'psi', 'Pressure of the de-icing boots')
  w.absent('cabin.altitude', 'ft', 'Cabin altitude')
  w.absent('engine.centre.n1', '%', 'Gas generator speed, centre engine')
  w.absent('gear.tail.position', 'ratio', 'Travel of the tail wheel')
  const unknown = hidden(w, {
    lever: () => gear.lever.n,
    n1: () => both.both[0].n1.n + both.both[1].n1.n,
    horn: () => value('gear.horn.sounding').n,
  })

  return {
    world: w,
    step(): void {
      steps.n++
      time.n = steps.n * DT
      const speed = air.speed.true.n * (1852 / 3600)
      const afloat = air.state.water.is
      const ashore = air.state.land.is
      sets.step(DT)
      run.step(DT)
      pilot.step()
      power.step(DT, both.n1())
      tanks.step(DT, both.flows(), air.air.temperature.n)
      both.step(DT, speed, air.air.temperature.n)
      gear.step(DT, {
        slowAndLow: air.at.height.n < 500 && air.speed.indicated.n < 100,
        onWater: afloat,
        onLand: ashore,
        weightN: air.state.mass.n * 9.81,
      })
      hull.step(DT, { onWater: afloat, speed, waveM: air.air.waves.n })
      const brake = gear.brakes.parking.is ? 1 : (gear.brakes.left.n + gear.brakes.right.n) / 2
      air.step(DT, {
        thrustN: both.thrust(),
        waterDragN: hull.drag.n,
        wheels: gear.drag(),
        brakes: brake,
        fuelKg: value('fuel.total.quantity').n,
        bilgeL: hull.water(),
        flapPower: power.mainLive(),
        ground: groundAt(air.at.latitude.n, air.at.longitude.n),
      })
      comforts.step(DT)
      lamps.step()
      // What follows from others is reckoned as often as it is told.
      if (steps.n % 2 === 0) others.step(2 * DT)
      unknown.step(DT)
      masses.step()
    },
  }
}
export type Craft = ReturnType<typeof makeCraft>
