import { stops } from './mail-run'
import { clamp, lag, turnBetween, type Variable, type World } from './world'

type Read = (name: string) => number

/** A variable that follows from others. */
interface Follows {
  readonly name: string
  readonly unit: string | null
  readonly words: string
  readonly is: (of: Read) => number
}

const SIDES = ['left', 'right'] as const
const NM_A_DEGREE = 60
const RAD = Math.PI / 180

/** Distance and course from here, on a map as flat as such short ways are. */
const wayTo = (of: Read, to: { latitude: number; longitude: number }): { nm: number; deg: number } => {
  const north = (to.latitude - of('position.latitude')) * NM_A_DEGREE
  const east =
    (to.longitude - of('position.longitude')) * NM_A_DEGREE * Math.cos(of('position.latitude') * RAD)
  return { nm: Math.hypot(north, east), deg: (Math.atan2(east, north) / RAD + 360) % 360 }
}

const trip: readonly Follows[] = stops.flatMap((stop): Follows[] => {
  const name = `trip.${(stop.name.split(' ')[0] ?? '').toLowerCase()}`
  return [
    {
      name: `${name}.distance`,
      unit: 'NM',
      words: `Distance to ${stop.name}`,
      is: (of) => wayTo(of, stop).nm,
    },
    {
      name: `${name}.bearing`,
      unit: 'deg',
      words: `Course to ${stop.name}`,
      is: (of) => wayTo(of, stop).deg,
    },
    {
      ...{ name: `${name}.time`, unit: 'min', words: `Time to ${stop.name} at this speed` },
      is: (of) =>
        of('speed.ground') > 5 ? Math.min(999, (wayTo(of, stop).nm / of('speed.ground')) * 60) : 999,
    },
  ]
})

const across = (of: Read): number => turnBetween(of('attitude.heading'), of('air.wind.direction')) * RAD

const performance: readonly Follows[] = [
  {
    ...{ name: 'perf.wind.head', unit: 'kt', words: 'Wind from ahead' },
    is: (of) => of('air.wind.speed') * Math.cos(across(of)),
  },
  {
    ...{ name: 'perf.wind.cross', unit: 'kt', words: 'Wind from the right' },
    is: (of) => of('air.wind.speed') * Math.sin(across(of)),
  },
  {
    ...{ name: 'perf.drift', unit: 'deg', words: 'Drift, right positive' },
    is: (of) => turnBetween(of('attitude.heading'), of('attitude.track')),
  },
  {
    ...{ name: 'perf.altitude.pressure', unit: 'ft', words: 'Pressure altitude' },
    is: (of) => of('position.altitude') + (1013.25 - of('air.pressure.sea')) * 27,
  },
  {
    ...{ name: 'perf.altitude.density', unit: 'ft', words: 'Density altitude' },
    is: (of) =>
      of('position.altitude') + 120 * (of('air.temperature') - (15 - of('position.altitude') * 0.00198)),
  },
  {
    ...{ name: 'perf.energy', unit: 'ft', words: 'Height that height and speed are worth together' },
    is: (of) => of('position.height') + ((of('speed.true') * 0.5144) ** 2 / 19.62) * 3.2808,
  },
  {
    ...{ name: 'perf.gradient', unit: '%', words: 'Climb for each hundred of way' },
    is: (of) => (of('speed.ground') > 20 ? of('speed.vertical') / (of('speed.ground') * 1.0127) : 0),
  },
  {
    ...{ name: 'perf.mach', unit: null, words: 'Speed against that of sound' },
    is: (of) => of('speed.true') / (38.94 * Math.sqrt(of('air.temperature') + 273.15)),
  },
  {
    ...{ name: 'perf.margin.stall', unit: 'kt', words: 'Speed above the stall' },
    is: (of) => of('speed.indicated') - of('speed.stall'),
  },
  {
    ...{ name: 'perf.glide.distance', unit: 'NM', words: 'How far it glides from here' },
    is: (of) => (of('position.height') * 9.5) / 6076,
  },
  {
    ...{ name: 'perf.turn.radius', unit: 'm', words: 'Radius of the turn; 0 while it flies straight' },
    is: (of) =>
      Math.abs(of('attitude.turn')) < 0.3
        ? 0
        : (of('speed.true') * 0.5144) / (Math.abs(of('attitude.turn')) * RAD),
  },
]

const fuel: readonly Follows[] = [
  ...SIDES.flatMap((side): Follows[] => [
    {
      ...{ name: `fuel.${side}.total`, unit: 'kg', words: `Fuel in the ${side} wing` },
      is: (of) => of(`fuel.${side}.inner.quantity`) + of(`fuel.${side}.outer.quantity`),
    },
    {
      ...{ name: `fuel.${side}.endurance`, unit: 'h', words: `How long the fuel in the ${side} wing lasts` },
      is: (of) =>
        Math.min(
          99,
          (of(`fuel.${side}.inner.quantity`) + of(`fuel.${side}.outer.quantity`)) /
            Math.max(1, of(`engine.${side}.fuel.flow`)),
        ),
    },
  ]),
  {
    ...{ name: 'fuel.range', unit: 'NM', words: 'How far the fuel reaches at this speed' },
    is: (of) => Math.min(2000, of('fuel.endurance') * of('speed.ground')),
  },
  {
    ...{ name: 'fuel.total.pounds', unit: 'lb', words: 'All fuel, in pounds' },
    is: (of) => of('fuel.total.quantity') / 0.45359237,
  },
]

const engines: readonly Follows[] = SIDES.flatMap((side): Follows[] => {
  const e = `engine.${side}`
  return [
    {
      ...{ name: `${e}.margin.temperature`, unit: '°C', words: `Below its hottest, ${side} engine` },
      is: (of) => 850 - of(`${e}.temperature`),
    },
    {
      ...{ name: `${e}.margin.torque`, unit: '%', words: `Below its highest torque, ${side} engine` },
      is: (of) => 100 - of(`${e}.torque`),
    },
    {
      ...{
        name: `${e}.specific.consumption`,
        unit: null,
        words: `Fuel for each kilowatt hour, ${side} engine, in kg`,
      },
      is: (of) => (of(`${e}.shaft.power`) > 20 ? of(`${e}.fuel.flow`) / of(`${e}.shaft.power`) : 0),
    },
    {
      ...{ name: `${e}.exhaust.temperature`, unit: '°C', words: `Exhaust, ${side} engine` },
      is: (of) => of(`${e}.temperature`) * 0.62,
    },
    {
      ...{ name: `${e}.nacelle.temperature`, unit: '°C', words: `Air round the ${side} engine` },
      is: (of) => of('air.temperature') + of(`${e}.temperature`) * 0.06,
    },
    {
      ...{
        name: `${e}.propeller.ratio`,
        unit: 'ratio',
        words: `Propeller speed against its highest, ${side}`,
      },
      is: (of) => of(`${e}.propeller.speed`) / 2000,
    },
  ]
})

const floats: readonly Follows[] = SIDES.flatMap((side): Follows[] => [
  {
    ...{ name: `floats.${side}.buoyancy`, unit: 'N', words: `What the ${side} float carries` },
    is: (of) => of(`floats.${side}.draught`) * 38,
  },
  {
    ...{ name: `floats.${side}.trim`, unit: 'deg', words: `Trim of the ${side} float, bow up positive` },
    is: (of) =>
      of('surface.water')
        ? of('attitude.pitch') - (of(`floats.${side}.water.fore`) - of(`floats.${side}.water.aft`)) * 0.02
        : 0,
  },
])

const electrics: readonly Follows[] = [
  {
    ...{ name: 'elec.battery.endurance', unit: 'min', words: 'How long the battery lasts at this current' },
    is: (of) =>
      of('elec.battery.current') > 0.5
        ? Math.min(999, ((of('elec.battery.charge') * 0.24) / of('elec.battery.current')) * 60)
        : 999,
  },
  ...SIDES.map(
    (side): Follows => ({
      ...{ name: `elec.generator.${side}.load`, unit: '%', words: `Load of the ${side} generator` },
      is: (of) => of(`elec.generator.${side}.current`) / 2,
    }),
  ),
]

const SEATS = 10
const PAX_KG = 82

/** Seats and belts, bags of mail, the air inside, the clock: what a small airline looks at besides. */
const inside = (w: World, of: Read) => {
  w.inGroup('Cabin')
  const seats = Array.from({ length: SEATS }, (_, i) => {
    const taken = w.flag(`cabin.seat.${i + 1}.taken`, `Somebody sits on seat ${i + 1}`, i < 6)
    const belt = w.flag(`cabin.seat.${i + 1}.belt`, `The belt of seat ${i + 1} is fastened`, i < 6)
    return { taken, belt }
  })
  const sign = w.flag('cabin.sign.belts', 'The sign that asks for belts is lit', true, { system: 'cabin' })
  w.switchEvents('cabin.sign.belts', 'the sign for belts', 'cabin', sign)
  const zones = (['cockpit', 'front', 'rear'] as const).map((zone) => ({
    warmth: w.number(
      `cabin.${zone}.temperature`,
      '°C',
      `Air in the ${zone === 'cockpit' ? 'cockpit' : `${zone} of the cabin`}`,
      17,
    ),
    wish: w.number(`cabin.${zone}.temperature.target`, '°C', `Wanted there: ${zone}`, 21, {
      system: 'cabin',
      range: [10, 30],
    }),
  }))
  const noise = w.number('cabin.noise', null, 'Noise in the cabin, in decibels')
  const people = w.number('cabin.people', null, 'Passengers')
  const loose = w.number('cabin.belts.open', null, 'Passengers without their belt')
  w.inGroup('Load')
  const fore = w.number('load.hold.fore', 'kg', 'Mail in the front hold', 90)
  const aft = w.number('load.hold.aft', 'kg', 'Mail in the rear hold', 60)
  const bags = w.number('load.bags', null, 'Bags of mail', 14)
  const centre = w.number('load.centre', '%', 'Centre of gravity, in hundredths of the chord')
  const heavy = w.flag('load.over', 'It is heavier than it may be')
  return (dt: number): void => {
    const flying = of('surface.airborne') !== 0
    for (const [i, s] of seats.entries()) {
      // Two of them are always late with it.
      if (s.taken.is) s.belt.is = sign.is || (!flying && i % 5 !== 0)
      else s.belt.is = false
    }
    const warm = of('engine.left.bleed.switch') !== 0 || of('engine.right.bleed.switch') !== 0
    for (const z of zones) z.warmth.n = lag(z.warmth.n, warm ? z.wish.n : of('air.temperature') + 3, 90, dt)
    noise.n =
      52 + (of('engine.left.torque') + of('engine.right.torque')) * 0.14 + of('speed.indicated') * 0.04
    people.n = seats.filter((s) => s.taken.is).length
    loose.n = seats.filter((s) => s.taken.is && !s.belt.is).length
    bags.n = Math.round((fore.n + aft.n) / 11)
    centre.n = clamp(
      24 + (aft.n - fore.n) * 0.03 + people.n * 0.3 + (of('fuel.total.quantity') - 400) * 0.002,
      5,
      45,
    )
    heavy.is = of('mass.total') + people.n * PAX_KG > 6200
  }
}

/** The hours, and where the sun stands over Lysvik on a morning in May. */
const clock = (w: World, of: Read) => {
  w.inGroup('Clock')
  const hours = w.number('clock.hours', null, 'Hour of the day')
  const minutes = w.number('clock.minutes', null, 'Minute of the hour')
  const seconds = w.number('clock.seconds', null, 'Second of the minute')
  const day = w.number('clock.day', null, 'Day of the year', 131)
  const sun = w.number('clock.sun.height', 'deg', 'Height of the sun')
  const bearing = w.number('clock.sun.bearing', 'deg', 'Bearing of the sun')
  const STARTS_S = 7.2 * 3600
  return (): void => {
    const s = STARTS_S + of('sim.time')
    hours.n = Math.floor(s / 3600) % 24
    minutes.n = Math.floor(s / 60) % 60
    seconds.n = Math.floor(s) % 60
    day.n = 131 + Math.floor(s / 86_400)
    const turn = (s / 86_400) * 2 * Math.PI
    sun.n = 11 - 29 * Math.cos(turn)
    bearing.n = ((s / 240) % 360) + 0
  }
}

/** What the craft reckons from everything else: about a hundred variables, each described. Stepped last. */
export const reckoned = (w: World) => {
  const known = new Map<string, Variable>()
  const of: Read = (name) => {
    let variable = known.get(name)
    if (!variable) {
      variable = w.named(name)
      known.set(name, variable)
    }
    return variable.n
  }
  const groups: readonly (readonly [group: string, list: readonly Follows[]])[] = [
    ['Trip', trip],
    ['Performance', performance],
    ['Fuel', fuel],
    ['Engines', engines],
    ['Floats', floats],
    ['Electrics', electrics],
  ]
  const all = groups.flatMap(([group, list]) => {
    w.inGroup(group)
    return list.map((f) => ({ variable: w.number(f.name, f.unit, f.words), is: f.is }))
  })
  const cabin = inside(w, of)
  const time = clock(w, of)
  return {
    step(dt: number): void {
      time()
      cabin(dt)
      for (const { variable, is } of all) variable.n = is(of)
    },
  }
}
