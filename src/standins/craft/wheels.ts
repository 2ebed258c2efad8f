import type { Electrics } from './electrics'
import { approach, lag, type World } from './world'

const legs = [
  ['bow.left', 'left bow wheel', 5.2],
  ['bow.right', 'right bow wheel', 5.6],
  ['main.left', 'left main wheel', 6.8],
  ['main.right', 'right main wheel', 7.1],
] as const

/** Four retractable wheels moved by an electric hydraulic pump. The lever's middle position stops the pump. */
export const wheels = (w: World, power: Electrics) => {
  w.inGroup('Wheels')
  const lever = w.number('gear.lever', null, 'Wheel lever', 0, {
    range: [0, 2],
    choices: ['up', 'off', 'down'],
    system: 'wheels',
  })
  const four = legs.map(([name, words, seconds]) => ({
    seconds,
    position: w.number(`gear.${name}.position`, 'ratio', `Travel of the ${words}: 0 is up, 1 is down`),
    lockedUp: w.flag(`gear.${name}.locked.up`, `Uplock of the ${words} holds`, true),
    lockedDown: w.flag(`gear.${name}.locked.down`, `Downlock of the ${words} holds`),
    load: w.number(`gear.${name}.load`, 'N', `Weight on the ${words}`),
    tyre: w.number(`gear.${name}.tyre.pressure`, 'bar', `Tyre pressure of the ${words}`, 3.4),
  }))
  const transit = w.flag('gear.transit', 'Some wheel is neither up nor down')
  const allDown = w.flag('gear.all.down', 'All four wheels are down and locked')
  const allUp = w.flag('gear.all.up', 'All four wheels are up and locked', true)
  const pump = w.flag('gear.pump.running', 'Hydraulic pump of the wheels runs')
  const amps = w.number('gear.pump.current', 'A', 'Current of the hydraulic pump')
  const pressure = w.number('gear.hydraulic.pressure', 'psi', 'Hydraulic pressure of the wheels', 950)
  const horn = w.flag('gear.horn.sounding', 'Wheel warning horn sounds')
  const silenced = w.flag('gear.horn.silenced', 'Wheel warning horn was cancelled')
  const advice = w.text('gear.advice', 'What the wheel adviser says', 'wheels up for water')
  const brakes = {
    parking: w.flag('gear.brake.parking', 'Parking brake', false, { system: 'brakes' }),
    left: w.number('gear.brake.left', 'ratio', 'Left wheel brake', 0, { range: [0, 1], system: 'brakes' }),
    right: w.number('gear.brake.right', 'ratio', 'Right wheel brake', 0, { range: [0, 1], system: 'brakes' }),
  }
  const to = (position: number) => () => {
    lever.n = position
  }
  w.event('gear.up', 'Wheel lever up', 'wheels', to(0))
  w.event('gear.off', 'Wheel lever to the middle', 'wheels', to(1))
  w.event('gear.down', 'Wheel lever down', 'wheels', to(2))
  w.event('gear.toggle', 'Wheel lever to the other end', 'wheels', () => {
    lever.n = lever.n === 2 ? 0 : 2
  })
  w.event('gear.horn.cancel', 'Silence the wheel warning horn', 'horn', () => {
    if (horn.is) silenced.is = true
  })
  w.switchEvents('gear.brake.parking', 'the parking brake', 'brakes', brakes.parking)
  power.draws(() => (pump.is ? 14 : 0))

  return {
    lever,
    allDown,
    allUp,
    brakes,
    drag: () => four.reduce((sum, leg) => sum + leg.position.n, 0) / 4,
    step(dt: number, s: { slowAndLow: boolean; onWater: boolean; onLand: boolean; weightN: number }): void {
      const goal = lever.n === 2 ? 1 : lever.n === 0 ? 0 : null
      const moving = goal !== null && four.some((leg) => leg.position.n !== goal)
      pump.is = moving && power.mainLive()
      amps.n = lag(amps.n, pump.is ? 14 + 0.6 * w.random() : 0, 0.15, dt)
      pressure.n = lag(pressure.n, pump.is ? 1180 + 30 * w.random() : 950, 0.8, dt)
      for (const leg of four) {
        if (pump.is && goal !== null) leg.position.n = approach(leg.position.n, goal, 1 / leg.seconds, dt)
        leg.lockedUp.is = leg.position.n === 0
        leg.lockedDown.is = leg.position.n === 1
        const share = leg === four[0] || leg === four[1] ? 0.15 : 0.35
        leg.load.n = lag(leg.load.n, s.onLand && leg.position.n === 1 ? s.weightN * share : 0, 0.2, dt)
        leg.tyre.n = 3.4 + leg.load.n / 120000
      }
      allDown.is = four.every((leg) => leg.lockedDown.is)
      allUp.is = four.every((leg) => leg.lockedUp.is)
      transit.is = !allDown.is && !allUp.is
      const warn = s.slowAndLow && transit.is
      if (!warn) silenced.is = false
      horn.is = warn && !silenced.is && power.essentialLive()
      advice.value = transit.is
        ? 'wheels moving'
        : allDown.is
          ? 'wheels down for land'
          : 'wheels up for water'
    },
  }
}
export type Wheels = ReturnType<typeof wheels>
