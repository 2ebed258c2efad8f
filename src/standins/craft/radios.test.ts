import { describe, expect, it } from 'vitest'
import { type Craft, makeCraft, STEPS_HZ } from './craft'

const run = (craft: Craft, seconds: number) => {
  for (let i = 0; i < seconds * STEPS_HZ; i++) craft.step()
}
const value = (craft: Craft, name: string) => craft.world.named(name).value
const set = (craft: Craft, name: string, v: number) => {
  const index = craft.world.variables.findIndex((x) => x.info.name === name)
  return craft.world.set(index, v)
}
const send = (craft: Craft, name: string) => craft.world.events.find((e) => e.info.name === name)?.act(0)

describe('the radios', () => {
  it('exchange the frequency in use with the one that waits', () => {
    const craft = makeCraft(12)
    const [active, standby] = [value(craft, 'radio.one.active'), value(craft, 'radio.one.standby')]
    send(craft, 'radio.one.swap')
    expect([value(craft, 'radio.one.active'), value(craft, 'radio.one.standby')]).toEqual([standby, active])
  })
  it('are dead without the essential bus', () => {
    const craft = makeCraft(12)
    run(craft, 2)
    expect(value(craft, 'radio.two.powered')).toBe(1)
    set(craft, 'elec.bus.tie.switch', 0)
    run(craft, 2)
    expect(value(craft, 'radio.two.powered')).toBe(0)
    expect(value(craft, 'radio.two.receiving')).toBe(0)
  })
  it('take no frequency beyond their band', () => {
    expect(set(makeCraft(12), 'radio.one.standby', 140)).toContain('takes 118 to 137')
  })
})

describe('the beacon receiver', () => {
  it('tells where a beacon lies, and nothing at all on a frequency without one', () => {
    const craft = makeCraft(12)
    run(craft, 1)
    expect(value(craft, 'beacon.station')).toBe('TER')
    expect(value(craft, 'beacon.bearing')).toBeGreaterThan(40)
    expect(value(craft, 'beacon.bearing')).toBeLessThan(80)
    set(craft, 'beacon.frequency', 500)
    run(craft, 1)
    expect(value(craft, 'beacon.bearing')).toBeNull()
    expect(value(craft, 'beacon.signal')).toBe(0)
  })
})

describe('the identification', () => {
  it('sends its mark for a while, and only when it is switched on', () => {
    const craft = makeCraft(12)
    run(craft, 1)
    send(craft, 'code.ident.send')
    run(craft, 1)
    expect(value(craft, 'code.ident')).toBe(1)
    run(craft, 20)
    expect(value(craft, 'code.ident')).toBe(0)
    set(craft, 'code.mode', 1)
    send(craft, 'code.ident.send')
    run(craft, 1)
    expect(value(craft, 'code.ident')).toBe(0)
  })
  it('answers now and then while it is on', () => {
    const craft = makeCraft(12)
    let answers = 0
    let before = 0
    for (let i = 0; i < 60 * STEPS_HZ; i++) {
      craft.step()
      const now = Number(value(craft, 'code.reply'))
      if (now > before) answers++
      before = now
    }
    expect(answers).toBeGreaterThan(10)
    expect(answers).toBeLessThan(40)
  })
})

describe('the autopilot', () => {
  it('holds its heading instead when the beacon it flies to is lost', () => {
    const craft = makeCraft(12)
    run(craft, 120)
    send(craft, 'ap.engage')
    send(craft, 'ap.beacon.toggle')
    run(craft, 1)
    expect(value(craft, 'ap.beacon.mode')).toBe(1)
    set(craft, 'beacon.frequency', 500)
    run(craft, 1)
    expect([value(craft, 'ap.beacon.mode'), value(craft, 'ap.heading.mode')]).toEqual([0, 1])
  })
})
