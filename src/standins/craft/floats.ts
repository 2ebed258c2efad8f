import type { Electrics } from './electrics'
import { approach, clamp, lag, type World } from './world'

/** Two floats that take in a little water, bilge pumps that get it out, and water rudders. */
export const floats = (w: World, power: Electrics) => {
  w.inGroup('Floats')
  const rudder = w.flag('floats.rudder.handle', 'Water rudder handle: on is down', true, {
    system: 'rudders',
  })
  w.event('floats.rudder.up', 'Lift the water rudders', 'rudders', () => {
    rudder.is = false
  })
  w.event('floats.rudder.down', 'Lower the water rudders', 'rudders', () => {
    rudder.is = true
  })
  w.event('floats.rudder.toggle', 'Move the water rudders over', 'rudders', () => {
    rudder.is = !rudder.is
  })
  const sides = (['left', 'right'] as const).map((side) => {
    const pump = w.flag(`floats.bilge.${side}.switch`, `Bilge pump switch, ${side} float`, false, {
      system: 'bilge',
    })
    w.switchEvents(`floats.bilge.${side}`, `the ${side} bilge pump`, 'bilge', pump)
    return {
      pump,
      running: w.flag(`floats.bilge.${side}.running`, `Bilge pump turns, ${side} float`),
      amps: w.number(`floats.bilge.${side}.current`, 'A', `Bilge pump current, ${side} float`),
      flow: w.number(`floats.bilge.${side}.flow`, null, `Water pumped out in litres a minute, ${side} float`),
      water: w.number(`floats.${side}.water`, 'l', `Water in the ${side} float`, side === 'left' ? 24 : 15),
      fore: w.number(`floats.${side}.water.fore`, 'l', `Water in the fore chamber, ${side} float`),
      aft: w.number(`floats.${side}.water.aft`, 'l', `Water in the aft chamber, ${side} float`),
      high: w.flag(`floats.${side}.water.high`, `More than 40 l in the ${side} float`),
      rudder: w.number(
        `floats.rudder.${side}.position`,
        'ratio',
        `Water rudder, ${side}: 0 is up, 1 is down`,
        1,
      ),
      draught: w.number(`floats.${side}.draught`, 'mm', `How deep the ${side} float sits`),
    }
  })
  const onStep = w.flag('floats.step', 'The floats plane on their step')
  const drag = w.number('floats.drag', 'N', 'Drag of the water on the floats')
  const spray = w.number('floats.spray', 'ratio', 'Spray at the propellers')
  for (const s of sides) power.draws(() => s.amps.n)

  return {
    rudder,
    drag,
    water: () => sides.reduce((sum, s) => sum + s.water.n, 0),
    pumps: sides.map((s) => s.pump),
    step(dt: number, s: { onWater: boolean; speed: number; waveM: number }): void {
      onStep.is = s.onWater && s.speed > 14
      // The hump of a planing hull: drag rises to its step speed, falls on the step, rises again slowly.
      const hump =
        s.speed < 14
          ? (s.speed / 14) ** 2 * 9500
          : 3200 + (s.speed - 14) * 60 + 6300 * Math.exp(-(s.speed - 14) / 3)
      drag.n = s.onWater ? hump * (1 + 0.15 * s.waveM) : 0
      spray.n = lag(spray.n, s.onWater ? clamp(s.speed / 14, 0, 1) * (onStep.is ? 0.3 : 1) : 0, 0.5, dt)
      for (const [i, side] of sides.entries()) {
        const leak = s.onWater ? (i === 0 ? 0.012 : 0.007) * (1 + s.waveM) : 0
        side.running.is = side.pump.is && power.mainLive()
        const wet = side.water.n > 0.2
        side.amps.n = lag(
          side.amps.n,
          side.running.is ? (wet ? 14.2 : 3.1) + 0.3 * (w.random() - 0.5) : 0,
          0.12,
          dt,
        )
        if (side.amps.n < 0.01) side.amps.n = 0
        side.flow.n = lag(side.flow.n, side.running.is && wet ? 38 : 0, 0.3, dt)
        side.water.n = clamp(side.water.n + leak * dt - (side.flow.n / 60) * dt, 0, 400)
        side.fore.n = side.water.n * 0.35
        side.aft.n = side.water.n * 0.65
        side.high.is = side.water.n > 40
        side.rudder.n = approach(side.rudder.n, rudder.is ? 1 : 0, 0.6, dt)
        side.draught.n = s.onWater
          ? 420 + side.water.n * 0.8 - clamp(s.speed, 0, 20) * 14 + 20 * s.waveM * (w.random() - 0.5)
          : 0
      }
    },
  }
}
export type Floats = ReturnType<typeof floats>
