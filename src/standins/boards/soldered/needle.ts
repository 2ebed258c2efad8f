import type { NeedleSlot } from '../../../core/aspects/needle'
import { channelOf } from '../../../core/catalogue/place'
import type { HungWay, SolderedChip, SolderedThing } from './soldered'

/** Which way the field of two coils points, in sixths of a turn, by their currents; the second stands 60° on. */
const fields: Readonly<Record<string, number>> = {
  ...{ '1 -1': 0, '1 0': 1, '0 1': 2, '-1 1': 3, '-1 0': 4, '0 -1': 5 },
}

/**
 * A gauge motor: its magnet follows the field of its coils, a third of a degree of the needle for a sixth of a turn. A
 * field that has gone by more than two sixths does not take it along for certain: it stays.
 */
const fourWire = ({ pins: [a, b, c, d, sensor], travelDeg }: NeedleSlot): SolderedThing => {
  const high = new Map<number, boolean>()
  const current = (from: number | undefined, to: number | undefined) =>
    Number(high.get(from as number) === true) - Number(high.get(to as number) === true)
  let field: number | null = null
  // One without a stop stands anywhere when power comes on.
  let steps = sensor === undefined ? 0 : ANYWHERE
  let loses = 0
  let made = 0
  let blind = false
  /** A vane on its shaft: seen for some degrees of each turn, from its zero on. */
  const isSeen = () => ((steps % TURN) + TURN) % TURN < SEEN
  return {
    driven: (pin, isHigh) => {
      high.set(pin, isHigh)
      const points = fields[`${current(a, b)} ${current(c, d)}`]
      if (points === undefined || points === field) return
      if (field !== null) {
        const by = ((points - field + 9) % 6) - 3
        const isLost = loses > 0 && ++made % loses === 0
        if (Math.abs(by) <= 2 && !isLost)
          steps = sensor === undefined ? Math.min(travelDeg * 3, Math.max(0, steps + by)) : steps + by
      }
      field = points
    },
    beLike: (nature) => {
      loses = (nature?.kind === 'needle' && nature.losesOneIn) || 0
      blind = nature?.kind === 'needle' && nature.blind === true
    },
    ...(sensor === undefined
      ? {}
      : { holds: (pin: number) => (pin !== sensor ? null : !blind && isSeen() ? 'low' : 'high') }),
    shows: () => Math.round((steps / 3) * 10),
  }
}

/** In steps: a turn, how far the vane of a sensor reaches, and somewhere. */
const TURN = 360 * 3
const SEEN = 8 * 3
const ANYWHERE = 137 * 3

/** How the coils of a motor hang on its driver, by the order of its channels. */
const hungWay = (pins: readonly number[]): HungWay => {
  const order = pins.map((p) => (channelOf(p)?.channel ?? 0) % 4).join('')
  return order === '0123' ? 1 : order === '1023' ? -1 : 0
}

/** Steps in a degree of a motor behind a driver chip. */
const STEPS_PER_DEGREE = 12
/** Pulses that put a usual servo at either end of its travel. */
const USUAL = { leastUs: 500, mostUs: 2500 } as const

/** Between which pulses a servo turns. */
interface Ends {
  leastUs: number
  mostUs: number
}

const atPulse = (us: number, travelDeg: number, { leastUs, mostUs }: Ends): number =>
  Math.round(Math.min(1, Math.max(0, (us - leastUs) / (mostUs - leastUs))) * travelDeg * 10)

/** Where the needle of a motor is seen: it may have been pressed on askew, and hang behind in the play of its gears. */
const seen = (motor: SolderedThing): SolderedThing => {
  let offset = 0
  let play = 0
  let hangs = 0
  return {
    ...motor,
    beLike: (like) => {
      const nature = like?.kind === 'needle' ? like : undefined
      offset = Math.round((nature?.offsetDeg ?? 0) * 10)
      play = Math.round((nature?.playDeg ?? 0) * 10)
      motor.beLike?.(like)
    },
    shows: () => {
      const stands = Number(motor.shows())
      hangs = Math.min(stands, Math.max(stands - play, hangs))
      return hangs + offset
    },
  }
}

export const needleThing = (
  slot: NeedleSlot,
  chipAt: (index: number) => SolderedChip | undefined,
): SolderedThing => seen(motorThing(slot, chipAt))

/** A servo on a chip's channel, or on a pin where it hears its pulses itself; without any it stays where it is. */
const servo = (travelDeg: number, onChip: (() => number) | null): SolderedThing => {
  const ends: Ends = { ...USUAL }
  let us = 0
  let stands = 0
  return {
    pulsed: (pulse) => {
      us = pulse
    },
    beLike: (nature) => {
      const own = nature?.kind === 'needle' ? nature : undefined
      ends.leastUs = own?.leastUs ?? USUAL.leastUs
      ends.mostUs = own?.mostUs ?? USUAL.mostUs
    },
    shows: () => {
      const now = onChip?.() ?? us
      if (now > 0) stands = atPulse(now, travelDeg, ends)
      return stands
    },
  }
}

const motorThing = (slot: NeedleSlot, chipAt: (index: number) => SolderedChip | undefined): SolderedThing => {
  const at = channelOf(slot.pins[0] ?? 0)
  let stands = 0
  if (slot.drive === 'servo')
    return servo(slot.travelDeg, at && (() => chipAt(at.chip)?.pulseUs?.(at.channel) ?? 0))
  if (slot.drive === 'frequency')
    return {
      turnsOver: (hertz) => {
        stands = Math.round(Math.min(1, hertz / slot.degPerS) * slot.travelDeg * 10)
      },
      shows: () => stands,
    }
  if (at) {
    const motor = Math.floor(at.channel / 4)
    chipAt(at.chip)?.hang?.(motor, hungWay(slot.pins), slot.travelDeg * STEPS_PER_DEGREE)
    return {
      shows: () => Math.round(((chipAt(at.chip)?.stepped?.()[motor] ?? 0) / STEPS_PER_DEGREE) * 10),
    }
  }
  return fourWire(slot)
}
