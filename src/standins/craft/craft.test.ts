import { beforeAll, describe, expect, it } from 'vitest'
import { unitNamed } from '../../core/signal/unit'
import { type Craft, makeCraft, STEPS_HZ } from './craft'

const run = (craft: Craft, seconds: number, each?: () => void): Craft => {
  for (let i = 0; i < seconds * STEPS_HZ; i++) {
    craft.step()
    each?.()
  }
  return craft
}
const of = (craft: Craft, name: string) => craft.world.named(name).n
const set = (craft: Craft, name: string, value: number) =>
  craft.world.set(craft.world.variables.indexOf(craft.world.named(name)), value)
const event = (craft: Craft, name: string, value = 0) =>
  craft.world.events.find((e) => e.info.name === name)?.act(value)

describe('the catalogue of the craft', () => {
  const { world } = makeCraft(1)
  it('has about 400 described variables and 120 events, with units that Clavik knows', () => {
    expect(world.variables.filter((v) => v.info.description !== '').length).toBeGreaterThanOrEqual(380)
    expect(world.events.length).toBeGreaterThanOrEqual(120)
    for (const { info } of world.variables)
      if (info.unit) expect(unitNamed(info.unit), `${info.name}: ${info.unit}`).toBeDefined()
  })
  it('describes all but those that nobody described, and lacks a few', () => {
    const bare = world.variables.filter((v) => v.info.description === '')
    expect(bare.length).toBeGreaterThan(50)
    expect(new Set(bare.map((v) => v.info.group))).toEqual(new Set(['Undescribed']))
    expect(world.variables.filter((v) => v.value === null).map((v) => v.info.name)).toContain(
      'gear.tail.position',
    )
  })
})

describe('the craft', () => {
  it('moves a good third of its variables all the time, keeps some in 32 bits, and every number is one', () => {
    const craft = run(makeCraft(1), 200)
    const { variables } = craft.world
    let last = variables.map((v) => v.value)
    const moved = new Array<number>(variables.length).fill(0)
    for (let frame = 0; frame < 100; frame++) {
      // Two steps a frame, as they are told.
      run(craft, 2 / STEPS_HZ)
      const now = variables.map((v) => v.value)
      for (const i of now.keys()) if (now[i] !== last[i]) moved[i] = (moved[i] as number) + 1
      last = now
    }
    const share = moved.filter((m) => m > 50).length / variables.length
    expect(share).toBeGreaterThan(0.3)
    expect(share).toBeLessThan(0.5)
    for (const v of variables)
      if (typeof v.value === 'number') expect(Number.isFinite(v.value), v.info.name).toBe(true)
    set(craft, 'f.2', 0.3)
    craft.step()
    expect(of(craft, 'f.2')).toBe(Math.fround(0.3))
  })
  it('has 20,000 names on top where that is asked for, a third of which move, and flies as without them', () => {
    const [plain, large] = [makeCraft(3), makeCraft(3, 20_000)].map((c) => run(c, 2)) as [Craft, Craft]
    expect(large.world.variables.length).toBe(plain.world.variables.length + 20_000)
    for (const v of plain.world.variables) expect(large.world.named(v.info.name).value).toBe(v.value)
    const before = large.world.variables.map((v) => v.value)
    large.step()
    const moved = large.world.variables.filter((v, i) => v.value !== before[i]).length
    expect(moved).toBeGreaterThan(6000)
  })

  it('flies the same way from the same seed, and another way from another', () => {
    const [a, b, c] = [7, 7, 8].map((seed) => run(makeCraft(seed), 60).world.variables.map((v) => v.value))
    expect(a).toEqual(b)
    expect(a).not.toEqual(c)
  })

  describe('on the mail run, by itself', () => {
    const seen = new Set<string>()
    let wheelsAshore = 1
    let wheelsAfloat = 0
    let landings = 0
    beforeAll(() => {
      const craft = makeCraft(12)
      let flying = false
      run(craft, 1500, () => {
        const airborne = craft.world.named('surface.airborne').is
        seen.add(String(craft.world.named('run.phase').value))
        if (flying && !airborne) {
          landings++
          const down = of(craft, 'gear.main.left.position')
          if (craft.world.named('surface.land').is) wheelsAshore = Math.min(wheelsAshore, down)
          else wheelsAfloat = Math.max(wheelsAfloat, down)
        }
        flying = airborne
      })
    })
    it('goes through every phase and lands more than once', () => {
      for (const phase of ['taking off', 'climbing', 'descending', 'landing', 'slowing'])
        expect(seen).toContain(phase)
      expect(landings).toBeGreaterThanOrEqual(2)
    })
    it('has its wheels down on the grass and up on the water', () => {
      expect(wheelsAshore).toBe(1)
      expect(wheelsAfloat).toBe(0)
    })
  })

  it('moves its wheels in their own time: transit first, then locked', () => {
    const craft = run(makeCraft(1), 2)
    expect(set(craft, 'gear.lever', 2)).toBeNull()
    run(craft, 3)
    expect(of(craft, 'gear.main.right.position')).toBeGreaterThan(0.2)
    expect(of(craft, 'gear.transit')).toBe(1)
    run(craft, 6)
    expect(of(craft, 'gear.all.down')).toBe(1)
    event(craft, 'gear.up')
    run(craft, 2)
    event(craft, 'gear.off')
    const halfway = of(craft, 'gear.main.right.position')
    run(craft, 3)
    expect(of(craft, 'gear.main.right.position')).toBe(halfway)
  })

  it('really stops what hangs on the main bus when that is dead', () => {
    const craft = run(makeCraft(1), 5)
    event(craft, 'floats.bilge.left.on')
    run(craft, 2)
    expect(of(craft, 'floats.bilge.left.current')).toBeGreaterThan(10)
    for (const e of ['elec.generator.left.off', 'elec.generator.right.off', 'elec.battery.off'])
      event(craft, e)
    run(craft, 3)
    expect(of(craft, 'elec.bus.main.volts')).toBe(0)
    expect(of(craft, 'floats.bilge.left.current')).toBe(0)
    expect(of(craft, 'lights.beacon.lit')).toBe(0)
    set(craft, 'gear.lever', 2)
    run(craft, 5)
    expect(of(craft, 'gear.main.right.position')).toBe(0)
    event(craft, 'elec.battery.on')
    run(craft, 5)
    expect(of(craft, 'gear.main.right.position')).toBeGreaterThan(0.3)
  })

  it('burns fuel, and an engine without fuel stops', () => {
    const craft = run(makeCraft(1), 60)
    expect(of(craft, 'fuel.used')).toBeGreaterThan(1)
    event(craft, 'engine.left.stop')
    run(craft, 20)
    expect(of(craft, 'engine.left.running')).toBe(0)
    expect(of(craft, 'engine.right.running')).toBe(1)
    event(craft, 'engine.left.start')
    run(craft, 30)
    expect(of(craft, 'engine.left.running')).toBe(1)
  })

  it('leaves alone what a hand has taken over, until it is handed back', () => {
    const craft = makeCraft(12)
    event(craft, 'gear.down')
    run(craft, 90)
    expect(of(craft, 'surface.airborne')).toBe(1)
    expect(of(craft, 'gear.lever')).toBe(2)
    event(craft, 'run.resume')
    run(craft, 1)
    expect(of(craft, 'gear.lever')).toBe(0)
  })

  it.each([
    ['sim.time', 5, 'sim.time cannot be set'],
    ['gear.lever', 7, 'gear.lever takes 0 to 2, not 7'],
    ['gear.lever', Number.NaN, 'gear.lever takes a finite number'],
  ])('refuses %s = %s with a sentence', (name, value, words) => {
    expect(set(makeCraft(1), name, value)).toBe(words)
  })
})
