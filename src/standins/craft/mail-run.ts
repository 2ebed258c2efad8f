import type { Autopilot } from './autopilot'
import type { Electrics } from './electrics'
import type { Engines } from './engines'
import type { Flight, Ground } from './flight'
import type { Floats } from './floats'
import type { Wheels } from './wheels'
import { clamp, turnBetween, type World } from './world'

interface Stop {
  readonly name: string
  readonly latitude: number
  readonly longitude: number
  readonly water: boolean
  readonly elevationFt: number
}

const DEG = Math.PI / 180
export const stops: readonly [Stop, Stop, Stop] = [
  { name: 'Lysvik', latitude: 61.2, longitude: 4.9, water: true, elevationFt: 0 },
  { name: 'Ternholm', latitude: 61.262, longitude: 5.12, water: false, elevationFt: 38 },
  { name: 'Osmund Bay', latitude: 61.14, longitude: 5.2, water: true, elevationFt: 0 },
]
export const home = stops[0]

type Phase = 'waiting' | 'taking off' | 'climbing' | 'cruising' | 'descending' | 'landing' | 'slowing'

/** Land lies round the strip only. */
export const groundAt = (latitude: number, longitude: number): Ground => {
  const strip = stops[1]
  const near = distanceNm(latitude, longitude, strip) < 1.6
  return near ? { water: false, elevationFt: strip.elevationFt } : { water: true, elevationFt: 0 }
}

const distanceNm = (
  latitude: number,
  longitude: number,
  to: { latitude: number; longitude: number },
): number =>
  Math.hypot((to.latitude - latitude) * 60, (to.longitude - longitude) * 60 * Math.cos(latitude * DEG))

const bearing = (latitude: number, longitude: number, to: { latitude: number; longitude: number }): number =>
  (Math.atan2((to.longitude - longitude) * Math.cos(latitude * DEG), to.latitude - latitude) / DEG + 360) %
  360

/** The craft's own pilot: Lysvik, Ternholm strip, Osmund Bay and round again, leaving alone what a hand took over. */
export const mailRun = (
  w: World,
  c: {
    flight: Flight
    engines: Engines
    wheels: Wheels
    floats: Floats
    autopilot: Autopilot
    power: Electrics
  },
) => {
  w.inGroup('Mail run')
  const phaseText = w.text('run.phase', 'What the craft’s own pilot is doing', 'waiting')
  const next = w.text('run.next', 'Where the mail run goes next', stops[1].name)
  const distance = w.number('run.distance', 'NM', 'Distance to the next stop')
  const course = w.number('run.bearing', 'deg', 'Bearing to the next stop')
  const leg = w.number('run.leg', null, 'Legs flown')
  const since = w.number('run.phase.time', 's', 'Time in this phase')
  const inHand = w.number('run.systems.taken', null, 'Systems a hand has taken over from the pilot')
  w.event('run.resume', 'Hand everything back to the craft’s own pilot', 'run', () => w.takenOver.clear())

  let phase: Phase = 'waiting'
  let target = 1
  const enter = (to: Phase) => {
    phase = to
    since.n = 0
    phaseText.value = to
  }
  const power = (value: number) => {
    w.pilot('power', () => {
      for (const e of c.engines.both) e.power.n = value
    })
  }
  const lever = (down: boolean) => {
    w.pilot('wheels', () => {
      c.wheels.lever.n = down ? 2 : 0
    })
  }
  const flap = (notch: number) => {
    w.pilot('flaps', () => {
      c.flight.flaps.lever.n = notch
    })
  }

  return {
    step(dt: number): void {
      const { at, speed, attitude, state } = c.flight
      const goal = stops[target] as Stop
      since.n += dt
      inHand.n = w.takenOver.size
      distance.n = distanceNm(at.latitude.n, at.longitude.n, goal)
      course.n = bearing(at.latitude.n, at.longitude.n, goal)
      next.value = goal.name
      w.pilot('rudders', () => {
        c.floats.rudder.is = state.water.is && speed.indicated.n < 18
      })
      w.pilot('bilge', () => {
        for (const [i, pump] of c.floats.pumps.entries()) {
          const water = w.named(i === 0 ? 'floats.left.water' : 'floats.right.water').n
          if (water > 26) pump.is = true
          if (water < 1) pump.is = false
        }
      })
      const cruise = 1800 + 200 * target
      switch (phase) {
        case 'waiting':
          power(0.02)
          w.pilot('autopilot', () => c.autopilot.release())
          if (since.n > 20) enter('taking off')
          break
        case 'taking off':
          flap(1)
          w.pilot('brakes', () => {
            c.wheels.brakes.left.n = 0
            c.wheels.brakes.right.n = 0
          })
          power(Math.abs(turnBetween(attitude.heading.n, course.n)) > 12 && speed.indicated.n < 20 ? 0.2 : 1)
          w.pilot('controls', () => {
            c.flight.turnOnSurface(course.n)
            c.flight.steer(speed.indicated.n > 66 ? 9 : speed.indicated.n > 25 ? 3 : 0, 0)
          })
          if (at.height.n > 120) enter('climbing')
          break
        case 'climbing':
          lever(false)
          flap(at.height.n > 500 ? 0 : 1)
          power(0.92)
          w.pilot('autopilot', () => c.autopilot.hold(course.n, cruise))
          if (at.altitude.n > cruise - 150) enter('cruising')
          if (distance.n < 4) enter('descending')
          break
        case 'cruising':
          power(clamp(0.55 + (138 - speed.indicated.n) * 0.03, 0.1, 1))
          w.pilot('autopilot', () => c.autopilot.hold(course.n, cruise))
          if (distance.n < 4) enter('descending')
          break
        case 'descending': {
          power(clamp(0.3 + (92 - speed.indicated.n) * 0.035, 0, 0.8))
          flap(speed.indicated.n < 115 ? (distance.n < 2.2 ? 3 : 2) : 1)
          if (speed.indicated.n < 120) lever(!goal.water)
          const height = goal.elevationFt + Math.max(0, (distance.n - 0.4) * 420)
          w.pilot('autopilot', () => c.autopilot.hold(course.n, Math.min(cruise, height)))
          if (at.height.n < 90 || distance.n < 0.45) enter('landing')
          break
        }
        case 'landing':
          power(at.height.n < 25 ? 0 : clamp(0.16 + (76 - speed.indicated.n) * 0.03, 0, 0.6))
          w.pilot('autopilot', () => c.autopilot.release())
          w.pilot('controls', () => {
            const sink = at.height.n > 25 ? -420 : -130
            c.flight.steer(clamp(4 + (sink - speed.vertical.n) / 120, -4, 10), 0)
          })
          if (!state.airborne.is) enter('slowing')
          break
        case 'slowing':
          power(speed.indicated.n > 4 ? -0.25 : 0)
          w.pilot('controls', () => {
            c.flight.steer(0, 0)
            c.flight.controls.rudder.n = 0
          })
          w.pilot('brakes', () => {
            c.wheels.brakes.left.n = state.land.is ? 0.5 : 0
            c.wheels.brakes.right.n = state.land.is ? 0.5 : 0
          })
          if (speed.indicated.n < 3 && since.n > 8) {
            target = (target + 1) % stops.length
            leg.n++
            enter('waiting')
          }
          break
      }
    },
  }
}
