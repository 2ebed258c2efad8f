import type { Electrics } from './electrics'
import type { Fuel } from './fuel'
import { clamp, lag, type World } from './world'

/** Two free-turbine engines with spool-up, propellers with reverse, starters and fire loops. */
export const engines = (w: World, power: Electrics, tanks: Fuel) => {
  const make = (side: 'left' | 'right') => {
    w.inGroup(`Engine ${side}`)
    const lever = (name: string, words: string, initial: number, range: [number, number]) =>
      w.number(`engine.${side}.${name}`, 'ratio', `${words}, ${side}`, initial, { range, system: 'power' })
    const n = (name: string, unit: string | null, words: string, initial = 0) =>
      w.number(`engine.${side}.${name}`, unit, `${words}, ${side} engine`, initial)
    const f = (name: string, words: string, initial = false, hand = true) =>
      w.flag(`engine.${side}.${name}`, `${words}, ${side} engine`, initial, hand ? { system: 'engines' } : {})
    const e = {
      power: lever('power.lever', 'Power lever; below zero is reverse', 0.12, [-0.3, 1]),
      propeller: lever('propeller.lever', 'Propeller lever', 1, [0, 1]),
      valve: f('fuel.valve', 'Fuel valve open', true),
      starter: f('starter.switch', 'Starter switch'),
      ignition: f('ignition.switch', 'Ignition switch'),
      bleed: f('bleed.switch', 'Bleed air switch', true),
      feather: f('feather.switch', 'Feathers the propeller'),
      running: f('running', 'Burns fuel', true, false),
      n1: n('n1', '%', 'Gas generator speed', 62),
      torque: n('torque', '%', 'Torque', 8),
      itt: n('temperature', '°C', 'Turbine temperature', 540),
      rpm: n('propeller.speed', 'rpm', 'Propeller speed', 980),
      pitch: n('propeller.pitch', 'deg', 'Blade angle', 12),
      flow: n('fuel.flow', 'kg/h', 'Fuel flow', 62),
      oilPressure: n('oil.pressure', 'psi', 'Oil pressure', 88),
      oilTemperature: n('oil.temperature', '°C', 'Oil temperature', 58),
      shaft: n('shaft.power', 'kW', 'Shaft power', 40),
      thrust: n('thrust', 'N', 'Thrust', 900),
      vibration: n('vibration', null, 'Vibration in tenths'),
      hours: n('hours', 'h', 'Hours run', side === 'left' ? 1834.2 : 1790.6),
      reverse: f('reverse', 'Propeller in reverse', false, false),
      oilLow: f('oil.low', 'Oil pressure below 40 psi', false, false),
      fire: f('fire', 'Fire loop has tripped', false, false),
      chip: f('chip', 'Metal found in the oil', false, false),
    }
    w.switchEvents(`engine.${side}.fuel.valve`, `the fuel valve of the ${side} engine`, 'engines', e.valve)
    w.switchEvents(`engine.${side}.bleed`, `the bleed air of the ${side} engine`, 'engines', e.bleed)
    w.event(`engine.${side}.start`, `Start the ${side} engine`, 'engines', () => {
      e.starter.is = true
      e.ignition.is = true
      e.valve.is = true
    })
    w.event(`engine.${side}.stop`, `Stop the ${side} engine`, 'engines', () => {
      e.valve.is = false
    })
    w.event(
      `engine.${side}.power.set`,
      `Put the ${side} power lever somewhere`,
      'power',
      (v) => {
        e.power.n = clamp(v, -0.3, 1)
      },
      { type: 'number', unit: 'ratio' },
    )
    power.draws(() => (e.starter.is && power.mainLive() ? 60 : 0))
    return e
  }
  const both = [make('left'), make('right')] as const
  w.inGroup('Engines')
  const difference = w.number('engine.torque.difference', '%', 'Left torque less right torque')
  const sync = w.flag('engine.synchroniser.switch', 'Propeller synchroniser', false, { system: 'engines' })
  w.switchEvents('engine.synchroniser', 'the propeller synchroniser', 'engines', sync)

  return {
    both,
    n1: (): readonly [number, number] => [both[0].n1.n, both[1].n1.n],
    flows: (): readonly [number, number] => [both[0].flow.n, both[1].flow.n],
    thrust: () => both[0].thrust.n + both[1].thrust.n,
    step(dt: number, speed: number, air: number): void {
      for (const [i, e] of both.entries()) {
        const lit = e.valve.is && tanks.feeds(i as 0 | 1)
        const cranked = e.starter.is && power.mainLive()
        if (e.running.is && (!lit || e.n1.n < 35)) e.running.is = false
        if (!e.running.is && lit && e.ignition.is && e.n1.n > 12 && cranked) e.running.is = true
        const reverse = e.power.n < -0.02
        const demand = reverse ? Math.abs(e.power.n) * 0.7 : Math.max(0, e.power.n)
        const goal = e.running.is ? 58 + 43 * demand : cranked ? 18 : 0
        e.n1.n = lag(e.n1.n, goal, e.running.is ? 1.4 : 3.5, dt)
        if (e.running.is && e.n1.n > 50) {
          e.starter.is = false
          e.ignition.is = false
        }
        const strength = clamp((e.n1.n - 56) / 44, 0, 1.05) ** 1.4
        e.shaft.n = e.running.is ? 28 + 560 * strength : 0
        const wanted = e.feather.is ? 120 : 1100 + 800 * e.propeller.n
        const reachable = e.running.is ? Math.min(wanted, 950 + 1150 * strength ** 0.6) : speed * 3
        e.rpm.n = lag(e.rpm.n, reachable, 0.7, dt)
        e.torque.n = e.rpm.n > 100 ? clamp((e.shaft.n / 560) * (1900 / e.rpm.n) * 92, 0, 130) : 0
        e.reverse.is = reverse && e.running.is
        e.pitch.n = lag(e.pitch.n, e.feather.is ? 86 : reverse ? -11 : 11 + speed * 0.28, 0.6, dt)
        const pull = Math.min((e.shaft.n * 1000 * 0.8) / Math.max(speed, 12), 11500)
        e.thrust.n = e.feather.is ? 0 : reverse ? -0.45 * pull : pull
        e.itt.n = lag(
          e.itt.n,
          e.running.is ? 500 + 260 * strength + air : Math.max(air, 20),
          e.running.is ? 2 : 40,
          dt,
        )
        e.flow.n = e.running.is ? 48 + 122 * strength : 0
        e.oilPressure.n = lag(e.oilPressure.n, e.n1.n * 0.95 + (e.running.is ? 28 : 0), 1, dt)
        e.oilTemperature.n = lag(e.oilTemperature.n, e.running.is ? 62 + 22 * strength : air, 90, dt)
        e.oilLow.is = e.oilPressure.n < 40
        e.vibration.n = lag(e.vibration.n, e.n1.n * 0.02 + w.random(), 0.3, dt)
        if (e.running.is) e.hours.n += dt / 3600
      }
      if (sync.is) {
        const mean = (both[0].rpm.n + both[1].rpm.n) / 2
        for (const e of both) e.rpm.n = lag(e.rpm.n, mean, 0.5, dt)
      }
      difference.n = both[0].torque.n - both[1].torque.n
    },
  }
}
export type Engines = ReturnType<typeof engines>
