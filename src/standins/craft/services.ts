import type { Electrics } from './electrics'
import { lag, type World } from './world'

/** Heaters, the inverter, the wipers and the door: small things on the main bus, each with its switch. */
export const services = (w: World, power: Pick<Electrics, 'mainLive' | 'draws'>) => {
  w.inGroup('Services')
  const heaters = (
    [
      ['pitot.left', 'left pitot tube', 4],
      ['pitot.right', 'right pitot tube', 4],
      ['window', 'front window', 9],
      ['stall', 'stall vane', 3],
    ] as const
  ).map(([name, words, amps]) => {
    const toggle = w.flag(`heat.${name}.switch`, `Heater switch of the ${words}`, false, {
      system: 'services',
    })
    const on = w.flag(`heat.${name}.on`, `The ${words} is being heated`)
    const warmth = w.number(`heat.${name}.temperature`, '°C', `Temperature of the ${words}`, 9)
    w.switchEvents(`heat.${name}`, `the heater of the ${words}`, 'services', toggle)
    return { toggle, on, warmth, amps }
  })
  const inverter = w.flag('elec.inverter.switch', 'Inverter switch', true, { system: 'services' })
  const inverterOn = w.flag('elec.inverter.online', 'The inverter gives alternating current')
  w.switchEvents('elec.inverter', 'the inverter', 'services', inverter)
  const shore = w.flag('elec.external.switch', 'Takes shore power while it is plugged in', false, {
    system: 'services',
  })
  const wiper = w.number('wiper.mode', null, 'Wipers', 0, {
    system: 'services',
    range: [0, 2],
    choices: ['off', 'slow', 'fast'],
  })
  const angle = w.number('wiper.angle', 'deg', 'Where the wipers stand')
  const wipes = w.flag('wiper.moving', 'The wipers move')
  const source = w.number('elec.volts.source', null, 'What the voltmeter is switched to', 2, {
    system: 'services',
    range: [0, 5],
    choices: ['bus left', 'generator left', 'battery', 'shore', 'generator right', 'bus right'],
  })
  const meter = w.number('elec.volts.shown', 'V', 'What the voltmeter shows')
  const running = (['left', 'right'] as const).map((side) => w.named(`engine.${side}.running`))
  const door = w.flag('cabin.door.open', 'The cabin door is open')
  w.event('cabin.door.toggle', 'Opens or closes the cabin door', 'services', () => {
    door.is = !door.is
  })
  const external = w.named('elec.external.connected')
  const sources = [
    w.named('elec.bus.main.volts'),
    w.named('elec.generator.left.volts'),
    w.named('elec.battery.volts'),
    null,
    w.named('elec.generator.right.volts'),
    w.named('elec.bus.essential.volts'),
  ]
  let time = 0

  power.draws(() => heaters.reduce((sum, h) => sum + (h.on.is ? h.amps : 0), inverterOn.is ? 2 : 0))
  return {
    step(dt: number): void {
      time += dt
      for (const h of heaters) {
        h.on.is = h.toggle.is && power.mainLive()
        h.warmth.n = lag(h.warmth.n, h.on.is ? 62 : 9, 20, dt)
      }
      inverterOn.is = inverter.is && power.mainLive()
      wipes.is = wiper.n > 0 && power.mainLive()
      if (wipes.is) angle.n = 45 + 45 * Math.sin(time * 3 * wiper.n)
      const metered = sources[Math.round(source.n)]
      // Shore power has no meter of its own: it is there or not.
      meter.n = metered ? metered.n : external.is && shore.is ? 28 : 0
      // Nobody opens it while an engine turns.
      if (running.some((engine) => engine.is)) door.is = false
    },
  }
}
