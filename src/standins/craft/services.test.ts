import { describe, expect, it } from 'vitest'
import { type Craft, makeCraft, STEPS_HZ } from './craft'
import { services } from './services'
import { World } from './world'

/** The craft after a minute of its own, with the services in hand. */
const ready = (): Craft => run(makeCraft(3), 60)
const run = (craft: Craft, seconds: number): Craft => {
  for (let i = 0; i < seconds * STEPS_HZ; i++) craft.step()
  return craft
}
const of = (craft: Craft, name: string): number => craft.world.named(name).n
const set = (craft: Craft, name: string, value: number) =>
  craft.world.set(craft.world.variables.indexOf(craft.world.named(name)), value)
/** The services by themselves, beside what they read of the other systems. */
const alone = () => {
  const world = new World(1).inGroup('Test')
  for (const side of ['left', 'right']) world.flag(`engine.${side}.running`, 'An engine turns')
  world.flag('elec.external.connected', 'Shore power is plugged in')
  for (const name of ['bus.main', 'bus.essential', 'generator.left', 'generator.right', 'battery'])
    world.number(`elec.${name}.volts`, 'V', 'A voltage')
  const { step } = services(world, { mainLive: () => true, draws: () => 0 })
  return {
    world,
    of: (name: string) => world.named(name).n,
    set: (name: string, value: number) => {
      world.named(name).n = value
    },
    step: () => step(1 / STEPS_HZ),
  }
}
/** Everything that feeds the main bus, out. */
const dead = (craft: Craft): Craft => {
  for (const name of ['elec.battery.switch', 'elec.generator.left.switch', 'elec.generator.right.switch'])
    set(craft, name, 0)
  return run(craft, 2)
}

describe('heaters', () => {
  it.each(['pitot.left', 'pitot.right', 'window', 'stall'])(
    'of the %s warm and cool in their time',
    (name) => {
      const craft = ready()
      set(craft, `heat.${name}.switch`, 0)
      run(craft, 120)
      const cold = of(craft, `heat.${name}.temperature`)
      set(craft, `heat.${name}.switch`, 1)
      run(craft, 1)
      expect(of(craft, `heat.${name}.on`)).toBe(1)
      const soon = of(craft, `heat.${name}.temperature`)
      expect(soon).toBeGreaterThan(cold)
      expect(soon).toBeLessThan(cold + 10)
      run(craft, 120)
      expect(of(craft, `heat.${name}.temperature`)).toBeGreaterThan(55)
      set(craft, `heat.${name}.switch`, 0)
      run(craft, 120)
      expect(of(craft, `heat.${name}.temperature`)).toBeLessThan(12)
    },
  )

  it('draw from the bus, and stop with it', () => {
    const craft = ready()
    for (const name of ['window', 'stall', 'pitot.left', 'pitot.right']) set(craft, `heat.${name}.switch`, 1)
    run(craft, 2)
    expect(of(craft, 'heat.window.on')).toBe(1)
    dead(craft)
    for (const name of ['window', 'stall', 'pitot.left', 'pitot.right'])
      expect(of(craft, `heat.${name}.on`), name).toBe(0)
  })
})

describe('wipers', () => {
  it('move while they are on and fed, faster at the second speed, and stay where they stop', () => {
    const craft = ready()
    const travel = (mode: number): number => {
      set(craft, 'wiper.mode', mode)
      let way = 0
      let before = of(craft, 'wiper.angle')
      for (let i = 0; i < 10 * STEPS_HZ; i++) {
        craft.step()
        way += Math.abs(of(craft, 'wiper.angle') - before)
        before = of(craft, 'wiper.angle')
      }
      return way
    }
    expect(travel(0)).toBe(0)
    const slow = travel(1)
    expect(slow).toBeGreaterThan(100)
    expect(travel(2)).toBeGreaterThan(slow * 1.6)
    expect(of(craft, 'wiper.moving')).toBe(1)
    dead(craft)
    expect(of(craft, 'wiper.moving')).toBe(0)
    const stands = of(craft, 'wiper.angle')
    run(craft, 5)
    expect(of(craft, 'wiper.angle')).toBe(stands)
    expect(stands).toBeGreaterThanOrEqual(0)
    expect(stands).toBeLessThanOrEqual(90)
  })
})

describe('the voltmeter', () => {
  it('shows what it is switched to', () => {
    const craft = ready()
    const sources = ['elec.bus.main.volts', 'elec.generator.left.volts', 'elec.battery.volts']
    for (const [i, name] of sources.entries()) {
      set(craft, 'elec.volts.source', i)
      run(craft, 0.2)
      expect(of(craft, 'elec.volts.shown'), name).toBeCloseTo(of(craft, name), 6)
    }
  })

  it('shows shore power only while that is plugged in and switched on', () => {
    const { of, set, step } = alone()
    set('elec.volts.source', 3)
    const shown = (plugged: number, switched: number): number => {
      set('elec.external.connected', plugged)
      set('elec.external.switch', switched)
      step()
      return of('elec.volts.shown')
    }
    expect([shown(0, 0), shown(0, 1), shown(1, 0), shown(1, 1)]).toEqual([0, 0, 0, 28])
  })
})

describe('inverter and door', () => {
  it('gives alternating current while it is on and the bus is live', () => {
    const craft = ready()
    set(craft, 'elec.inverter.switch', 1)
    run(craft, 0.2)
    expect(of(craft, 'elec.inverter.online')).toBe(1)
    dead(craft)
    expect(of(craft, 'elec.inverter.online')).toBe(0)
  })

  it('opens the door while both engines stand, and shuts it when one turns', () => {
    const { of, set, step, world } = alone()
    const toggle = () => world.events.find((e) => e.info.name === 'cabin.door.toggle')?.act(0)
    toggle()
    step()
    expect(of('cabin.door.open')).toBe(1)
    set('engine.right.running', 1)
    step()
    expect(of('cabin.door.open')).toBe(0)
    toggle()
    step()
    expect(of('cabin.door.open')).toBe(0)
  })
})
