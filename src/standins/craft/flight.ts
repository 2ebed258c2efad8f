import { approach, clamp, lag, turnBetween, type World } from './world'

const FT = 0.3048
const KT = 1852 / 3600
const DEG = Math.PI / 180
const G = 9.80665
const MASS_EMPTY_KG = 4350
const WING_M2 = 39

/** What lies under a place: water everywhere but for the grass strip and its surroundings. */
export interface Ground {
  readonly water: boolean
  readonly elevationFt: number
}

/** A point mass with lift, drag and thrust; attitude follows the controls at limited rates. */
export const flight = (w: World, start: { latitude: number; longitude: number; heading: number }) => {
  w.inGroup('Flight')
  const n = (name: string, unit: string | null, words: string, initial = 0) =>
    w.number(name, unit, words, initial)
  const at = {
    latitude: n('position.latitude', 'deg', 'Latitude', start.latitude),
    longitude: n('position.longitude', 'deg', 'Longitude', start.longitude),
    altitude: n('position.altitude', 'ft', 'Height above the sea', 4),
    height: n('position.height', 'ft', 'Height above water or ground'),
    surface: n('position.surface', 'ft', 'Height of water or ground above the sea'),
  }
  const speed = {
    indicated: n('speed.indicated', 'kt', 'Indicated airspeed'),
    true: n('speed.true', 'kt', 'True airspeed'),
    ground: n('speed.ground', 'kt', 'Speed over ground'),
    vertical: n('speed.vertical', 'ft/min', 'Vertical speed'),
    stall: n('speed.stall', 'kt', 'Stalling speed as loaded and configured'),
  }
  const attitude = {
    pitch: n('attitude.pitch', 'deg', 'Pitch, nose up positive'),
    bank: n('attitude.bank', 'deg', 'Bank, right wing down positive'),
    heading: n('attitude.heading', 'deg', 'True heading', start.heading),
    magnetic: n('attitude.heading.magnetic', 'deg', 'Magnetic heading', start.heading),
    track: n('attitude.track', 'deg', 'Track over ground', start.heading),
    turn: n('attitude.turn', 'deg/s', 'Rate of turn'),
    slip: n('attitude.slip', 'deg', 'Sideslip'),
    incidence: n('attitude.incidence', 'deg', 'Angle of attack'),
    path: n('attitude.path', 'deg', 'Angle of climb'),
    load: n('attitude.load', 'g', 'Load factor', 1),
  }
  const state = {
    water: w.flag('surface.water', 'Afloat', true),
    land: w.flag('surface.land', 'On the ground'),
    airborne: w.flag('surface.airborne', 'In the air'),
    stall: w.flag('speed.stalling', 'Near or below the stalling speed'),
    mass: n('mass.total', 'kg', 'Mass of the craft', 5300),
    payload: n('mass.mail', 'kg', 'Mail and passengers', 420),
  }
  w.inGroup('Controls')
  const surface = (name: string, words: string) =>
    w.number(`controls.${name}`, 'ratio', words, 0, { range: [-1, 1], system: 'controls' })
  const controls = {
    elevator: surface('elevator', 'Elevator control, back positive'),
    aileron: surface('aileron', 'Aileron control, right positive'),
    rudder: surface('rudder', 'Rudder control, right positive'),
    pitchTrim: surface('trim.pitch', 'Pitch trim, nose up positive'),
    rollTrim: surface('trim.roll', 'Roll trim'),
    yawTrim: surface('trim.yaw', 'Yaw trim'),
  }
  w.event('controls.trim.pitch.up', 'Trim nose up a little', 'controls', () => {
    controls.pitchTrim.n = clamp(controls.pitchTrim.n + 0.01, -1, 1)
  })
  w.event('controls.trim.pitch.down', 'Trim nose down a little', 'controls', () => {
    controls.pitchTrim.n = clamp(controls.pitchTrim.n - 0.01, -1, 1)
  })
  w.event('controls.centre', 'Let the controls go to their middle', 'controls', () => {
    for (const c of [controls.elevator, controls.aileron, controls.rudder]) c.n = 0
  })
  const flaps = {
    lever: w.number('flaps.lever', null, 'Flap lever', 1, {
      range: [0, 3],
      choices: ['up', 'take-off', 'approach', 'full'],
      system: 'flaps',
    }),
    left: n('flaps.left.position', 'ratio', 'Flap travel, left', 0.33),
    right: n('flaps.right.position', 'ratio', 'Flap travel, right', 0.33),
    moving: w.flag('flaps.moving', 'Flaps travel'),
  }
  w.event('flaps.extend', 'Flap lever one notch down', 'flaps', () => {
    flaps.lever.n = Math.min(3, flaps.lever.n + 1)
  })
  w.event('flaps.retract', 'Flap lever one notch up', 'flaps', () => {
    flaps.lever.n = Math.max(0, flaps.lever.n - 1)
  })
  w.inGroup('Air')
  const air = {
    temperature: n('air.temperature', '°C', 'Outside air temperature', 9),
    pressure: n('air.pressure', 'hPa', 'Pressure outside', 1011),
    seaPressure: n('air.pressure.sea', 'hPa', 'Pressure at sea level', 1011),
    windSpeed: n('air.wind.speed', 'kt', 'Wind speed', 9),
    windFrom: n('air.wind.direction', 'deg', 'Direction the wind comes from', 240),
    waves: n('air.waves', 'm', 'Height of the waves', 0.25),
    gust: n('air.gust', 'kt', 'Gust on top of the wind'),
    baro: w.number('air.altimeter.setting', 'hPa', 'Altimeter setting', 1011, {
      range: [930, 1060],
      system: 'air',
    }),
    indicated: n('air.altimeter.indicated', 'ft', 'Height the altimeter shows', 4),
  }
  w.event('air.altimeter.standard', 'Altimeter to 1013 hPa', 'air', () => {
    air.baro.n = 1013.25
  })

  let v = 0.5
  let climb = 0

  return {
    at,
    speed,
    attitude,
    state,
    controls,
    flaps,
    air,
    /** One step of the motion. Thrust and drags in newtons. */
    step(
      dt: number,
      s: {
        thrustN: number
        waterDragN: number
        wheels: number
        brakes: number
        fuelKg: number
        bilgeL: number
        flapPower: boolean
        ground: Ground
      },
    ): void {
      const { pitch, bank, heading } = attitude
      state.mass.n = MASS_EMPTY_KG + state.payload.n + s.fuelKg + s.bilgeL
      const weight = state.mass.n * G
      air.gust.n = lag(air.gust.n, (w.random() - 0.5) * 6, 2, dt)
      air.temperature.n = 9 - at.altitude.n * FT * 0.0065
      air.pressure.n = air.seaPressure.n * (1 - 2.25577e-5 * at.altitude.n * FT) ** 5.25588
      air.indicated.n = at.altitude.n + (air.baro.n - air.seaPressure.n) * 27.3
      const density = (air.pressure.n * 100) / (287.05 * (air.temperature.n + 273.15))

      const goal = flaps.lever.n / 3
      flaps.moving.is = s.flapPower && (flaps.left.n !== goal || flaps.right.n !== goal)
      if (s.flapPower) {
        flaps.left.n = approach(flaps.left.n, goal, 0.09, dt)
        flaps.right.n = approach(flaps.right.n, goal, 0.088, dt)
      }
      const flap = (flaps.left.n + flaps.right.n) / 2

      const afloatOrGrounded = state.water.is || state.land.is
      const authority = clamp(v / 35, 0, 1)
      const pitchRate = (controls.elevator.n + controls.pitchTrim.n * 0.4) * 12 * authority
      const rollRate = (controls.aileron.n + controls.rollTrim.n * 0.2) * 30 * authority
      pitch.n = clamp(pitch.n + pitchRate * dt, -20, 25)
      bank.n = clamp(bank.n + rollRate * dt, -50, 50)
      const gamma = v > 3 ? Math.asin(clamp(climb / v, -0.5, 0.5)) : 0
      attitude.incidence.n = clamp(pitch.n - gamma / DEG, -12, 20)
      const q = 0.5 * density * v * v * WING_M2
      const coefficient = clamp(0.3 + 0.55 * flap + 5.0 * attitude.incidence.n * DEG, -0.6, 1.55 + 0.5 * flap)
      const lift = q * coefficient
      const drag = q * (0.036 + 0.012 * s.wheels + 0.03 * flap + 0.045 * coefficient * coefficient)
      const stallMs = Math.sqrt((2 * weight) / (density * WING_M2 * (1.55 + 0.5 * flap)))
      speed.stall.n = stallMs / KT
      state.stall.is = state.airborne.is && v < stallMs * 1.06

      const rolling = state.land.is
        ? (s.wheels > 0.98 ? 0.04 + 0.35 * s.brakes : 0.5) * Math.max(0, weight - lift)
        : 0
      const push = s.thrustN - drag - (state.water.is ? s.waterDragN : 0)
      const resisted = v > 0.05 ? push - rolling : Math.max(0, Math.abs(push) - rolling) * Math.sign(push)
      v = Math.max(0, v + (resisted / state.mass.n - G * Math.sin(gamma)) * dt)

      const up = (lift * Math.cos(bank.n * DEG) * Math.cos(gamma) - weight) / state.mass.n
      climb += up * dt
      climb *= 1 - Math.min(1, 0.35 * dt)
      attitude.load.n = lag(attitude.load.n, state.airborne.is ? lift / weight : 1, 0.2, dt)
      if (afloatOrGrounded && climb < 0) climb = 0
      at.surface.n = s.ground.elevationFt
      at.altitude.n += (climb / FT) * dt
      const floatHeight = 4
      if (at.altitude.n <= s.ground.elevationFt + floatHeight) {
        at.altitude.n = s.ground.elevationFt + floatHeight
        climb = Math.max(0, climb)
        bank.n = approach(bank.n, 0, 20, dt)
        state.water.is = s.ground.water
        state.land.is = !s.ground.water
        state.airborne.is = false
        if (v < 25) pitch.n = lag(pitch.n, 0, 1.2, dt)
      } else if (at.altitude.n > s.ground.elevationFt + floatHeight + 0.5) {
        state.water.is = false
        state.land.is = false
        state.airborne.is = true
      }
      at.height.n = at.altitude.n - s.ground.elevationFt - floatHeight
      attitude.path.n = gamma / DEG

      attitude.turn.n = state.airborne.is
        ? (Math.tan(bank.n * DEG) * G) / Math.max(v, 20) / DEG
        : controls.rudder.n * 9 * clamp(v / 4, 0.2, 1)
      attitude.slip.n = lag(attitude.slip.n, controls.rudder.n * 6 + air.gust.n * 0.1, 0.6, dt)
      heading.n = (heading.n + attitude.turn.n * dt + 360) % 360
      attitude.magnetic.n = (heading.n + 357) % 360

      const drift = state.airborne.is ? air.windSpeed.n + air.gust.n : 0
      const alongNorth = v * Math.cos(heading.n * DEG) - drift * KT * Math.cos(air.windFrom.n * DEG)
      const alongEast = v * Math.sin(heading.n * DEG) - drift * KT * Math.sin(air.windFrom.n * DEG)
      at.latitude.n += (alongNorth * dt) / 1852 / 60
      at.longitude.n += (alongEast * dt) / 1852 / 60 / Math.cos(at.latitude.n * DEG)
      speed.ground.n = Math.hypot(alongNorth, alongEast) / KT
      attitude.track.n =
        speed.ground.n > 1 ? (Math.atan2(alongEast, alongNorth) / DEG + 360) % 360 : heading.n
      speed.true.n = v / KT
      speed.indicated.n = (v * Math.sqrt(density / 1.225)) / KT
      speed.vertical.n = (climb / FT) * 60
    },
    /** Steers attitude by the controls, as a pilot's hands would. */
    steer(pitchDeg: number, bankDeg: number): void {
      controls.elevator.n = clamp((pitchDeg - attitude.pitch.n) * 0.25 - controls.pitchTrim.n * 0.4, -1, 1)
      controls.aileron.n = clamp((bankDeg - attitude.bank.n) * 0.1 - controls.rollTrim.n * 0.2, -1, 1)
    },
    /** Turns on the surface with the rudder. */
    turnOnSurface(headingDeg: number): void {
      controls.rudder.n = clamp(turnBetween(attitude.heading.n, headingDeg) / 15, -1, 1)
    },
  }
}
export type Flight = ReturnType<typeof flight>
