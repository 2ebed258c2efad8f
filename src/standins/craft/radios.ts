import type { Electrics } from './electrics'
import type { Flight } from './flight'
import { clamp, type World } from './world'

interface Beacon {
  readonly name: string
  readonly kHz: number
  readonly latitude: number
  readonly longitude: number
}

/** The beacons of the mail run. */
const beacons: readonly Beacon[] = [
  { name: 'LYS', kHz: 312, latitude: 61.21, longitude: 4.93 },
  { name: 'TER', kHz: 346, latitude: 61.262, longitude: 5.12 },
  { name: 'OSM', kHz: 385, latitude: 61.14, longitude: 5.2 },
]

const RANGE_NM = 40
const DEG = Math.PI / 180

/** Two radios with a frequency in use and one waiting, a beacon receiver, and the identification code. */
export const radios = (w: World, power: Electrics, f: Flight) => {
  const sets = (['one', 'two'] as const).map((n) => {
    w.inGroup(`Radio ${n}`)
    const hand = { system: `radio.${n}` }
    const frequency = (name: string, words: string, initial: number) =>
      w.number(`radio.${n}.${name}`, 'MHz', `${words}, radio ${n}`, initial, {
        range: [118, 137],
        ...hand,
      })
    const on = w.flag(`radio.${n}.power.switch`, `Power switch of radio ${n}`, true, hand)
    const set = {
      on,
      active: frequency('active', 'Frequency in use', n === 'one' ? 119.1 : 123.45),
      standby: frequency('standby', 'Frequency waiting', n === 'one' ? 121.5 : 130.025),
      volume: w.number(`radio.${n}.volume`, 'ratio', `Volume of radio ${n}`, 0.7, { range: [0, 1], ...hand }),
      powered: w.flag(`radio.${n}.powered`, `Radio ${n} has power`),
      receiving: w.flag(`radio.${n}.receiving`, `Radio ${n} hears somebody`),
      noise: w.number(`radio.${n}.noise`, 'ratio', `Noise in radio ${n}`),
    }
    w.switchEvents(`radio.${n}.power`, `radio ${n}`, hand.system, on)
    w.event(`radio.${n}.swap`, `Exchange the two frequencies of radio ${n}`, hand.system, () => {
      const before = set.active.n
      set.active.n = set.standby.n
      set.standby.n = before
    })
    power.draws(() => (set.powered.is ? 1.4 : 0))
    return set
  })

  w.inGroup('Beacon receiver')
  const hand = { system: 'beacon' }
  const beacon = {
    on: w.flag('beacon.power.switch', 'Power switch of the beacon receiver', true, hand),
    frequency: w.number('beacon.frequency', 'kHz', 'Frequency of the beacon receiver', 346, {
      range: [190, 999],
      ...hand,
    }),
    powered: w.flag('beacon.powered', 'The beacon receiver has power'),
    bearing: w.number('beacon.bearing', 'deg', 'Direction of the beacon, from north'),
    relative: w.number('beacon.bearing.relative', 'deg', 'Direction of the beacon, from the nose'),
    distance: w.number('beacon.distance', 'NM', 'Distance of the beacon'),
    signal: w.number('beacon.signal', 'ratio', 'Strength of the beacon'),
    station: w.text('beacon.station', 'Beacon that is heard', ''),
  }
  w.switchEvents('beacon.power', 'the beacon receiver', 'beacon', beacon.on)
  power.draws(() => (beacon.powered.is ? 0.8 : 0))

  w.inGroup('Identification')
  const code = {
    digits: w.number('code.digits', null, 'Identification code, four digits in base 8', 4321, {
      range: [0, 7777],
      system: 'code',
    }),
    mode: w.number('code.mode', null, 'Function switch of the identification', 2, {
      range: [0, 3],
      choices: ['off', 'standby', 'on', 'altitude'],
      system: 'code',
    }),
    powered: w.flag('code.powered', 'The identification has power'),
    reply: w.flag('code.reply', 'The identification answers just now'),
    ident: w.flag('code.ident', 'The identification mark is being sent'),
    remaining: w.number('code.ident.remaining', 's', 'How long the identification mark goes on'),
  }
  w.event('code.ident.send', 'Send the identification mark for 18 s', 'code', () => {
    if (code.powered.is && code.mode.n >= 2) code.remaining.n = 18
  })
  w.event('code.standby', 'Identification to standby', 'code', () => {
    code.mode.n = 1
  })
  let askedIn = 2

  const listen = (): void => {
    const heard = beacons.find((b) => b.kHz === Math.round(beacon.frequency.n))
    const north = heard ? (heard.latitude - f.at.latitude.n) * 60 : 0
    const east = heard ? (heard.longitude - f.at.longitude.n) * 60 * Math.cos(f.at.latitude.n * DEG) : 0
    const away = Math.hypot(north, east)
    if (!heard || !beacon.powered.is || away > RANGE_NM) {
      beacon.bearing.value = null
      beacon.relative.value = null
      beacon.distance.value = null
      beacon.signal.n = 0
      beacon.station.value = ''
      return
    }
    beacon.bearing.n = (Math.atan2(east, north) / DEG + 360) % 360
    beacon.relative.n = (beacon.bearing.n - f.attitude.heading.n + 360) % 360
    beacon.distance.n = away
    beacon.signal.n = clamp(1 - away / RANGE_NM, 0, 1)
    beacon.station.value = heard.name
  }

  return {
    /** Where the beacon lies, or null while none is heard. */
    bearing: (): number | null => (typeof beacon.bearing.value === 'number' ? beacon.bearing.n : null),
    step(dt: number): void {
      for (const set of sets) {
        set.powered.is = set.on.is && power.essentialLive()
        set.noise.n = set.powered.is ? 0.02 + 0.03 * w.random() : 0
        if (w.random() < dt / 7) set.receiving.is = set.powered.is && !set.receiving.is
        if (!set.powered.is) set.receiving.is = false
      }
      beacon.powered.is = beacon.on.is && power.mainLive()
      listen()
      code.powered.is = code.mode.n > 0 && power.mainLive()
      code.remaining.n = code.powered.is ? Math.max(0, code.remaining.n - dt) : 0
      code.ident.is = code.remaining.n > 0
      askedIn -= dt
      code.reply.is = code.powered.is && code.mode.n >= 2 && askedIn < 0.25
      if (askedIn < 0) askedIn = 1.5 + 3 * w.random()
    },
  }
}
