import type { Electrics } from './electrics'
import type { Flight } from './flight'
import { clamp, turnBetween, type World } from './world'

/** Heading, altitude and vertical speed hold, and flying towards a beacon. It flies by the same controls a hand would. */
export const autopilot = (
  w: World,
  power: Electrics,
  f: Flight,
  beacon: { bearing: () => number | null },
) => {
  w.inGroup('Autopilot')
  const hand = { system: 'autopilot' }
  const master = w.flag('ap.master', 'Autopilot engaged')
  const heading = {
    on: w.flag('ap.heading.mode', 'Heading hold'),
    target: w.number('ap.heading.target', 'deg', 'Heading to hold', 0, { range: [0, 360], ...hand }),
  }
  const altitude = {
    on: w.flag('ap.altitude.mode', 'Altitude hold'),
    target: w.number('ap.altitude.target', 'ft', 'Altitude to hold', 2000, { range: [0, 20000], ...hand }),
  }
  const vertical = {
    on: w.flag('ap.vertical.mode', 'Vertical speed hold'),
    target: w.number('ap.vertical.target', 'ft/min', 'Vertical speed to hold', 0, {
      range: [-3000, 3000],
      ...hand,
    }),
  }
  const tracking = w.flag('ap.beacon.mode', 'Flies towards the beacon')
  const error = w.number('ap.heading.error', 'deg', 'How far the heading is off')
  const bankWanted = w.number('ap.bank.wanted', 'deg', 'Bank the autopilot asks for')
  const pitchWanted = w.number('ap.pitch.wanted', 'deg', 'Pitch the autopilot asks for')
  const engage = (on: boolean) => {
    master.is = on && power.essentialLive()
  }
  w.event('ap.engage', 'Engage the autopilot', 'autopilot', () => engage(true))
  w.event('ap.disengage', 'Disengage the autopilot', 'autopilot', () => engage(false))
  w.event('ap.master.toggle', 'Autopilot over', 'autopilot', () => engage(!master.is))
  const flip = (name: string, words: string, flag: typeof master) =>
    w.event(name, words, 'autopilot', () => {
      flag.is = !flag.is && master.is
      if (flag === altitude.on && flag.is) vertical.on.is = false
      if (flag === vertical.on && flag.is) altitude.on.is = false
      if (flag === heading.on && flag.is) tracking.is = false
      if (flag === tracking && flag.is) heading.on.is = false
    })
  flip('ap.heading.toggle', 'Heading hold over', heading.on)
  flip('ap.beacon.toggle', 'Flying towards the beacon over', tracking)
  flip('ap.altitude.toggle', 'Altitude hold over', altitude.on)
  flip('ap.vertical.toggle', 'Vertical speed hold over', vertical.on)
  const nudge = (name: string, words: string, act: () => void) => w.event(name, words, 'autopilot', act)
  nudge('ap.heading.left', 'Heading target one degree left', () => {
    heading.target.n = (heading.target.n + 359) % 360
  })
  nudge('ap.heading.right', 'Heading target one degree right', () => {
    heading.target.n = (heading.target.n + 1) % 360
  })
  nudge('ap.altitude.up', 'Altitude target 100 ft up', () => {
    altitude.target.n = clamp(altitude.target.n + 100, 0, 20000)
  })
  nudge('ap.altitude.down', 'Altitude target 100 ft down', () => {
    altitude.target.n = clamp(altitude.target.n - 100, 0, 20000)
  })

  return {
    master,
    heading,
    altitude,
    vertical,
    /** What the mail run does without a hand on it. */
    hold(headingDeg: number, altitudeFt: number): void {
      engage(true)
      tracking.is = false
      heading.on.is = true
      heading.target.n = headingDeg
      altitude.on.is = true
      vertical.on.is = false
      altitude.target.n = altitudeFt
    },
    release(): void {
      master.is = false
      heading.on.is = false
      altitude.on.is = false
      vertical.on.is = false
      tracking.is = false
    },
    step(): void {
      if (master.is && !power.essentialLive()) engage(false)
      if (!master.is) {
        heading.on.is = false
        altitude.on.is = false
        vertical.on.is = false
        tracking.is = false
      }
      const towards = beacon.bearing()
      // Without a beacon to fly to it holds what it has.
      if (tracking.is && towards === null) {
        tracking.is = false
        heading.on.is = true
        heading.target.n = Math.round(f.attitude.heading.n) % 360
      }
      const wanted = tracking.is && towards !== null ? towards : heading.target.n
      error.n = turnBetween(f.attitude.heading.n, wanted)
      bankWanted.n = heading.on.is || tracking.is ? clamp(error.n * 1.4, -25, 25) : 0
      const climbWanted = altitude.on.is
        ? clamp((altitude.target.n - f.at.altitude.n) * 4, -900, 1000)
        : vertical.on.is
          ? vertical.target.n
          : 0
      const slow = clamp((f.speed.stall.n * 1.2 - f.speed.indicated.n) * 0.8, 0, 8)
      pitchWanted.n = clamp(2 + climbWanted / 190 + (climbWanted - f.speed.vertical.n) / 260 - slow, -10, 14)
      if (master.is && f.state.airborne.is) f.steer(pitchWanted.n, bankWanted.n)
    },
  }
}
export type Autopilot = ReturnType<typeof autopilot>
