import { approach, clamp, lag, type World } from './world'

/** A battery, two generators, a main and an essential bus that really go dead, and what hangs on them. */
export const electrics = (w: World) => {
  w.inGroup('Electrics')
  const hand = { system: 'electrics' }
  const battery = {
    on: w.flag('elec.battery.switch', 'Battery switch', true, hand),
    volts: w.number('elec.battery.volts', 'V', 'Battery voltage', 25.6),
    amps: w.number('elec.battery.current', 'A', 'Battery current, positive while discharging'),
    charge: w.number('elec.battery.charge', '%', 'Battery charge', 92),
    temperature: w.number('elec.battery.temperature', '°C', 'Battery temperature', 18),
  }
  const tie = w.flag('elec.bus.tie.switch', 'Ties the essential bus to the main bus', true, hand)
  const main = w.number('elec.bus.main.volts', 'V', 'Voltage of the main bus')
  const essential = w.number('elec.bus.essential.volts', 'V', 'Voltage of the essential bus')
  const load = w.number('elec.load.current', 'A', 'Current taken by everything that is on')
  const external = w.flag('elec.external.connected', 'Shore power is plugged in')
  const mainLive = w.flag('elec.bus.main.live', 'The main bus carries enough voltage to work')
  const essentialLive = w.flag('elec.bus.essential.live', 'The essential bus carries enough voltage to work')
  const generators = (['left', 'right'] as const).map((side) => {
    const on = w.flag(`elec.generator.${side}.switch`, `Generator switch, ${side}`, true, hand)
    const volts = w.number(`elec.generator.${side}.volts`, 'V', `Generator voltage, ${side}`)
    const amps = w.number(`elec.generator.${side}.current`, 'A', `Generator current, ${side}`)
    const online = w.flag(`elec.generator.${side}.online`, `Generator feeds the main bus, ${side}`)
    w.switchEvents(`elec.generator.${side}`, `the ${side} generator`, 'electrics', on)
    return { side, on, volts, amps, online }
  })
  w.switchEvents('elec.battery', 'the battery', 'electrics', battery.on)
  w.switchEvents('elec.bus.tie', 'the bus tie', 'electrics', tie)

  w.inGroup('Lights')
  const lights = (
    [
      ['beacon', 'anti-collision beacon', 3, true],
      ['navigation', 'navigation lights', 4, true],
      ['landing', 'landing lights', 18, false],
      ['taxi', 'taxi light', 6, false],
      ['anchor', 'anchor light', 1, false],
      ['cabin', 'cabin lights', 5, false],
      ['panel', 'panel lighting', 3, true],
    ] as const
  ).map(([name, words, amps, on]) => {
    const toggle = w.flag(`lights.${name}.switch`, `Switch of the ${words}`, on, { system: 'lights' })
    const shining = w.flag(`lights.${name}.lit`, `The ${words} shine`)
    w.switchEvents(`lights.${name}`, `the ${words}`, 'lights', toggle)
    return { toggle, shining, amps }
  })
  const dimmer = w.number('lights.panel.dimmer', 'ratio', 'Brightness set for the panel lighting', 0.8, {
    range: [0, 1],
    system: 'lights',
  })
  const brightness = w.number('lights.panel.brightness', 'ratio', 'How bright the panel lighting shines')

  const live = (volts: number) => volts >= 20
  const consumers: (() => number)[] = []

  return {
    mainLive: () => mainLive.is,
    essentialLive: () => essentialLive.is,
    /** Current drawn by another system while its bus is live. */
    draws: (amps: () => number) => consumers.push(amps),
    step(dt: number, n1: readonly [number, number]): void {
      let fed = 0
      for (const [i, g] of generators.entries()) {
        const spinning = (n1[i] ?? 0) > 52
        g.volts.n = lag(g.volts.n, spinning ? 28.2 + 0.1 * Math.sin(n1[i] ?? 0) : 0, 0.3, dt)
        g.online.is = g.on.is && g.volts.n > 25
        if (g.online.is) fed = Math.max(fed, g.volts.n)
      }
      if (external.is) fed = Math.max(fed, 28)
      const fromBattery = battery.on.is ? battery.volts.n : 0
      const wanted = Math.max(fed, fromBattery)
      main.n = lag(main.n, wanted, 0.05, dt)
      essential.n = lag(essential.n, tie.is ? main.n : 0, 0.05, dt)
      if (main.n < 0.05) main.n = 0
      if (essential.n < 0.05) essential.n = 0
      mainLive.is = live(main.n)
      essentialLive.is = live(essential.n)

      let amps = mainLive.is ? 6 : 0
      for (const l of lights) {
        l.shining.is = l.toggle.is && mainLive.is
        if (l.shining.is) amps += l.amps
      }
      brightness.n = lights.at(-1)?.shining.is ? dimmer.n : 0
      for (const c of consumers) amps += c()
      load.n = lag(load.n, amps, 0.2, dt)
      const online = generators.filter((g) => g.online.is)
      for (const g of generators)
        g.amps.n = lag(g.amps.n, g.online.is ? (load.n + 8) / online.length : 0, 0.3, dt)
      const current = !battery.on.is
        ? 0
        : online.length > 0 || external.is
          ? -8 * (1 - battery.charge.n / 100)
          : load.n
      battery.amps.n = lag(battery.amps.n, current, 0.2, dt)
      battery.charge.n = clamp(battery.charge.n - (battery.amps.n * dt) / 3600 / 0.4, 0, 100)
      battery.volts.n = 19 + 6.8 * Math.sqrt(battery.charge.n / 100) - battery.amps.n * 0.01
      battery.temperature.n = approach(battery.temperature.n, 18 + Math.abs(battery.amps.n) * 0.2, 0.05, dt)
    },
  }
}
export type Electrics = ReturnType<typeof electrics>
