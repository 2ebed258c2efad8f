import type { Electrics } from './electrics'
import { clamp, lag, type World } from './world'

const tankNames = [
  ['left.inner', 'left inner tank', 310],
  ['left.outer', 'left outer tank', 180],
  ['right.inner', 'right inner tank', 305],
  ['right.outer', 'right outer tank', 184],
] as const

/** Four tanks, a boost pump each; the outer ones run into the inner ones, which feed the engines. */
export const fuel = (w: World, power: Electrics) => {
  w.inGroup('Fuel')
  const tanks = tankNames.map(([name, words, kg]) => {
    const pump = w.flag(`fuel.${name}.pump.switch`, `Boost pump switch, ${words}`, true, { system: 'fuel' })
    w.switchEvents(`fuel.${name}.pump`, `the boost pump of the ${words}`, 'fuel', pump)
    const quantity = w.number(`fuel.${name}.quantity`, 'kg', `Fuel in the ${words}`, kg)
    return {
      pump,
      quantity,
      running: w.flag(`fuel.${name}.pump.running`, `Boost pump turns, ${words}`),
      pressure: w.number(`fuel.${name}.pressure`, 'psi', `Fuel pressure at the ${words}`),
      low: w.flag(`fuel.${name}.low`, `Less than 30 kg in the ${words}`),
    }
  })
  const crossfeed = w.flag('fuel.crossfeed.switch', 'Crossfeed valve switch', false, { system: 'fuel' })
  w.switchEvents('fuel.crossfeed', 'the crossfeed valve', 'fuel', crossfeed)
  const total = w.number('fuel.total.quantity', 'kg', 'Fuel in all tanks', 979)
  const used = w.number('fuel.used', 'kg', 'Fuel burnt since the start')
  const flow = w.number('fuel.total.flow', 'kg/h', 'Fuel flow of both engines')
  const imbalance = w.number('fuel.imbalance', 'kg', 'Left fuel less right fuel')
  const endurance = w.number('fuel.endurance', 'h', 'Time the fuel lasts at the present flow')
  const temperature = w.number('fuel.temperature', '°C', 'Fuel temperature', 12)
  for (const t of tanks) power.draws(() => (t.running.is ? 2.2 : 0))
  const at = (i: number) => tanks[i] as (typeof tanks)[number]

  return {
    /** Whether fuel reaches an engine: its inner tank is not empty, or the other feeds across. */
    feeds: (engine: 0 | 1) =>
      at(engine * 2).quantity.n > 0 || (crossfeed.is && at(2 - engine * 2).quantity.n > 0),
    step(dt: number, flows: readonly [number, number], air: number): void {
      for (const [i, t] of tanks.entries()) {
        t.running.is = t.pump.is && power.mainLive()
        t.pressure.n = lag(
          t.pressure.n,
          t.running.is && t.quantity.n > 0 ? 18 + 0.4 * w.random() : 2,
          0.3,
          dt,
        )
        t.low.is = t.quantity.n < 30
        const outer = i % 2 === 1
        const inner = outer ? at(i - 1) : t
        if (outer && t.running.is && t.quantity.n > 0 && inner.quantity.n < 320) {
          const moved = Math.min(t.quantity.n, 0.12 * dt)
          t.quantity.n -= moved
          inner.quantity.n += moved
        }
      }
      for (const engine of [0, 1] as const) {
        const burnt = (flows[engine] / 3600) * dt
        const own = at(engine * 2)
        const other = at(2 - engine * 2)
        const source = own.quantity.n > 0 ? own : crossfeed.is ? other : own
        source.quantity.n = clamp(source.quantity.n - burnt, 0, 1000)
        used.n += burnt
      }
      total.n = tanks.reduce((sum, t) => sum + t.quantity.n, 0)
      flow.n = flows[0] + flows[1]
      imbalance.n = at(0).quantity.n + at(1).quantity.n - at(2).quantity.n - at(3).quantity.n
      endurance.value = flow.n > 1 ? total.n / flow.n : null
      temperature.n = lag(temperature.n, air, 600, dt)
    },
  }
}
export type Fuel = ReturnType<typeof fuel>
