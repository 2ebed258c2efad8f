import { z } from 'zod'
import type { NeedleAspect, NeedleDrive } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { formatNumber } from '../signal/format'
import { LIT } from '../signal/lamp-state'
import { needleAngle } from '../signal/needle'
import type { Degrees } from '../units-of-measure'
import type { IndicatorKind, SlotKind } from './aspect-kind'
import { expression, finite, fromVariable } from './binding-fields'
import { needleFace } from './face'
import type { LampSlot } from './lamp'
import { measuredNeedle } from './measured'
import { countedPlaces, FLAG, number, readRest, restBytes, restFlag, type SlotRest } from './slot-bytes'
import { MOST_DEG, PULSES_US } from './trial'

/** What a board turns as a needle; one that is driven by a voltage is to it a lamp with so much brightness. */
type TurnedDrive = Exclude<NeedleDrive, 'voltage'>

export interface NeedleSlot {
  readonly kind: 'needle'
  /** Of a motor on four leads: its coils, and the sensor of its zero where it has one. */
  readonly pins: readonly Place[]
  readonly drive: TurnedDrive
  readonly travelDeg: Degrees
  /** Its speed; of an instrument that is driven by pulses, how many a second take it through its whole travel. */
  readonly degPerS: number
  /** It takes so much longer to gain speed than it could: in as many steps more for each. */
  readonly gentle?: number
  /** Where it goes when the board hears nothing, from the motor's zero; or stays. */
  readonly rest: SlotRest
}

const SERVO = 4 * FLAG
const PULSES = 8 * FLAG
const driveFlag: Record<TurnedDrive, number> = { 'four-wire': 0, servo: SERVO, frequency: PULSES }

/** Above its travel lies how gently a motor gains speed. */
const GENTLE = 4096
const travelOf = (both: number): Pick<NeedleSlot, 'travelDeg' | 'gentle'> => ({
  travelDeg: both % GENTLE,
  ...(both < GENTLE ? {} : { gentle: Math.floor(both / GENTLE) }),
})

/** What a motor gains in a second where nothing holds it back, in degrees a second; and at least. */
export const GAINS_DEG_S2 = 2000 / 3
const MOST_GENTLE = 15
export const LEAST_GAIN_DEG_S2 = Math.ceil(GAINS_DEG_S2 / (MOST_GENTLE + 1))

/** How gently a motor on four leads gains speed, so that it gains no more than so much. */
const gentleFor = ({ drive }: Motor, gains: number | undefined): number =>
  drive !== 'four-wire' || gains === undefined
    ? 0
    : Math.min(MOST_GENTLE, Math.max(0, Math.ceil(GAINS_DEG_S2 / gains) - 1))

/** What a motor really gains in a second, in degrees a second: the next that its board can that is no more than it may. */
export const gainsOf = (motor: Motor, dial: Pick<NeedleSettings, 'gainsDegPerS2'>): number =>
  GAINS_DEG_S2 / (gentleFor(motor, dial.gainsDegPerS2) + 1)

export const needleSlot: SlotKind<NeedleSlot> = {
  kind: 'needle',
  code: 7,
  write: ({ pins, drive, travelDeg, degPerS, gentle = 0, rest }) => ({
    flags: driveFlag[drive] + restFlag(rest),
    bytes: [
      ...countedPlaces(pins),
      ...number(travelDeg + GENTLE * gentle),
      ...number(degPerS),
      ...restBytes(rest),
    ],
  }),
  read: (flags, b) => ({
    kind: 'needle',
    pins: b.numbers(b.number()),
    drive: (flags & SERVO) !== 0 ? 'servo' : (flags & PULSES) !== 0 ? 'frequency' : 'four-wire',
    ...travelOf(b.number()),
    degPerS: b.number(),
    rest: readRest(flags, b),
  }),
  worksBytes: () => 21,
}

const degrees = finite.min(-MOST_DEG).max(MOST_DEG)

/** How the leads of a four-wire motor are soldered, where otherwise than its terminals say. */
export const motorLeads = z.enum(['crossed', 'turned', 'crossed and turned'])
export type MotorLeads = z.infer<typeof motorLeads>

/** Ends of a servo that are closer than this are none. */
export const APART_US = 100
const pulse = z.number().int().min(PULSES_US.least).max(PULSES_US.most)

/** Angles at values that rise. */
export const needlePoints = z
  .array(z.strictObject({ value: finite, deg: degrees }))
  .min(2)
  .max(40)
  .refine(
    (p) => p.every((q, i) => i === 0 || q.value > (p[i - 1]?.value ?? 0)),
    'needle points must rise in value',
  )

/** Where a needle stands for which value; `deg` is clockwise from straight up. */
export const needleSettings = z
  .strictObject({
    kind: z.literal('needle'),
    points: needlePoints,
    /** Smooth between the points rather than straight. */
    smooth: z.boolean().optional(),
    /** The needle never goes beyond these. */
    leastDeg: degrees.optional(),
    mostDeg: degrees.optional(),
    degPerS: z.number().positive().max(2000).optional(),
    /** What a motor on four leads gains in a second at most, in degrees a second. */
    gainsDegPerS2: z.number().min(LEAST_GAIN_DEG_S2).max(2000).optional(),
    /** Where it rests without a value. */
    homeDeg: degrees.optional(),
    /** Where zero of the motor lies on the dial. */
    zeroDeg: degrees.optional(),
    /** How long the pulses are at which a servo stands at its two ends, where otherwise than usual, in microseconds. */
    leastUs: pulse.optional(),
    mostUs: pulse.optional(),
    /** How a four-wire motor's leads are soldered, where otherwise than its terminals say. */
    leads: motorLeads.optional(),
    face: needleFace.optional(),
    measured: measuredNeedle.optional(),
  })
  .refine(
    (n) => (n.mostUs ?? PULSES_US.most) - (n.leastUs ?? PULSES_US.least) >= APART_US,
    'the longest pulse must be longer than the shortest',
  )
  .refine(
    (n) => (n.leastDeg ?? -MOST_DEG) < (n.mostDeg ?? MOST_DEG),
    'the lower limit must lie below the upper one',
  )
export type NeedleSettings = z.infer<typeof needleSettings>

/** From a variable to a needle; the part's needle points say which value stands where. */
const binding = z.strictObject({
  kind: z.literal('needle'),
  ...fromVariable,
  show: expression,
  rest: z.enum(['out', 'keep']),
})

/** Where a needle rests without a value: its home, or its first point. */
const homeOf = (dial: NeedleSettings | undefined): Degrees => dial?.homeDeg ?? dial?.points[0]?.deg ?? 0

type Motor = Pick<NeedleAspect, 'drive' | 'travelDeg'>

/** Where its pulses begin, and how many of those that a board gives they are, as shares: a servo has ends of its own. */
const pulsesOf = (motor: Motor, dial: NeedleSettings | undefined): readonly [from: number, of: number] => {
  if (motor.drive !== 'servo') return [0, 1]
  const { least, most } = PULSES_US
  const [begins, ends] = [dial?.leastUs ?? least, dial?.mostUs ?? most]
  return [(begins - least) / (most - least), (ends - begins) / (most - least)]
}

/** What a board is told for the whole of a travel: tenths of a degree, or all of a voltage. */
const wholeOf = ({ drive, travelDeg }: Motor): number => (drive === 'voltage' ? LIT : travelDeg * 10)

/** An angle on the dial as a board is told it: tenths of a degree from the motor's zero, within its travel and its pulses. */
const motorTenths = (motor: Motor, dial: NeedleSettings | undefined, deg: Degrees): number => {
  const { travelDeg } = motor
  const share = Math.min(1, Math.max(0, (deg - (dial?.zeroDeg ?? -travelDeg / 2)) / travelDeg))
  const [from, of] = pulsesOf(motor, dial)
  return Math.round((from + of * share) * wholeOf(motor))
}

/** The tenths at which a servo is given a pulse. */
const tenthsOfPulse = ({ travelDeg }: Motor, us: number): number => {
  const { least, most } = PULSES_US
  return Math.round(Math.min(1, Math.max(0, (us - least) / (most - least))) * travelDeg * 10)
}

/** The angle on the dial at which a motor is seen that has turned so many tenths of a degree from its stop, or has so much of a voltage. */
export const seenDegrees = (motor: Motor, zeroDeg: Degrees | undefined, state: number): Degrees =>
  (state / wholeOf(motor)) * motor.travelDeg + (zeroDeg ?? -motor.travelDeg / 2)

/** The angle on the dial of what a board was told. */
export const dialDegrees = (motor: Motor, dial: NeedleSettings | undefined, tenths: number): Degrees => {
  const [from, of] = pulsesOf(motor, dial)
  return seenDegrees(motor, dial?.zeroDeg, (tenths - from * wholeOf(motor)) / of)
}

/**
 * The order in which a four-wire motor's coils are driven. Crossed: its two middle leads are exchanged, as motors are
 * commonly soldered. Turned: one coil the other way round, so that the needle runs the other way.
 */
export const coilOrder = (pins: readonly Place[], leads: MotorLeads | undefined): readonly Place[] => {
  const [a, b, c, d, ...sensor] = pins
  if (leads === undefined || a === undefined || b === undefined || c === undefined || d === undefined)
    return pins
  switch (leads) {
    case 'crossed':
      return [a, c, b, d, ...sensor]
    case 'turned':
      return [b, a, c, d, ...sensor]
    case 'crossed and turned':
      return [c, a, b, d, ...sensor]
  }
}

/** Value to tenths of a degree of the motor, within the limits the builder set; null for no value or no points. */
const standOf = (motor: Motor, dial: NeedleSettings | undefined): ((value: number) => number | null) => {
  if (!dial) return () => null
  const angle = needleAngle(dial.points, dial.smooth)
  const least = dial.leastDeg ?? Number.NEGATIVE_INFINITY
  const most = dial.mostDeg ?? Number.POSITIVE_INFINITY
  return (value) => {
    if (!Number.isFinite(value)) return null
    return motorTenths(motor, dial, Math.min(most, Math.max(least, angle(value))))
  }
}

export const needle: IndicatorKind<NeedleAspect, typeof binding, NeedleSettings> = {
  kind: 'needle',
  word: 'needle',
  binding,
  priority: 1,
  showsAbsent: false,
  wanted: { as: 'number' },
  terminals: ({ terminals, sensor }) => (sensor === undefined ? terminals : [...terminals, sensor]),
  slot: (motor, { places, rest }, dial): NeedleSlot | LampSlot => {
    const { drive, travelDeg, degPerS } = motor
    const rests = rest === 'keep' ? 'keep' : motorTenths(motor, dial, homeOf(dial))
    if (drive === 'voltage') return { kind: 'lamp', pin: places[0], sinks: false, rest: rests }
    const gentle = gentleFor(motor, dial?.gainsDegPerS2)
    return {
      kind: 'needle',
      pins: coilOrder(places, dial?.leads),
      drive,
      travelDeg,
      degPerS: drive === 'frequency' ? degPerS : Math.min(degPerS, Math.round(dial?.degPerS ?? degPerS)),
      ...(gentle > 0 ? { gentle } : {}),
      rest: rests,
    }
  },
  fresh: () => ({ show: 'input' }),
  presence: (motor, dial) => {
    const { travelDeg } = motor
    const least = dial?.leastDeg ?? dial?.points[0]?.deg ?? -travelDeg / 2
    const most = dial?.mostDeg ?? dial?.points.at(-1)?.deg ?? travelDeg / 2
    const stand = standOf(motor, dial)
    return {
      rest: () => motorTenths(motor, dial, homeOf(dial)),
      all: motorTenths(motor, dial, most),
      bare: (value) => stand(Number(value)),
      sweep: (share) => motorTenths(motor, dial, least + share * (most - least)),
      trial: ({ deg, pulseUs }) => {
        if (pulseUs !== undefined) return tenthsOfPulse(motor, pulseUs)
        return deg === undefined ? null : motorTenths(motor, dial, deg)
      },
    }
  },
  compile: (s, motor, shaper, dial) => {
    const show = shaper.expression(s.show, { as: 'number' })
    if (!dial) shaper.say('part', 'This needle has no needle points yet.')
    if (!show || !dial) return null
    const stand = standOf(motor, dial)
    return (input) => stand(show(input) as number)
  },
  takes: (s) => [s.show],
  main: (s) => s.show,
  shaping: (s) => s.show,
  reworded: (s, change) => ({ ...s, show: change(s.show) }),
  words: (motor, dial, state) =>
    `${formatNumber(Math.round(dialDegrees(motor, dial, Math.max(0, Number(state)))))}°`,
}
