import type { Place } from '../../core/catalogue/place'
import type { Slot } from '../../core/harness/slot'
import type { Micros } from '../../core/units-of-measure'
import { AnalogInput } from './analog-input'
import { Quadrature } from './quadrature'

/** Where contacts and levels are read: pins of the board, and channels of its chips. */
export interface Readings {
  isClosed(place: Place): boolean
  levelOf(place: Place): number
}

/** One watched thing on the board: a number when there is something to tell. */
interface Watched {
  scan(now: Micros, everything: boolean): number | null
}

const contacts = (slot: Extract<Slot, { kind: 'contacts' }>, readings: Readings): Watched => {
  let raw = 0
  let changedAt: Micros = 0
  let told: number | null = null
  return {
    scan: (now, everything) => {
      const bits = slot.pins.reduce((b, pin, k) => b | (readings.isClosed(pin) ? 1 << k : 0), 0)
      if (bits !== raw) {
        raw = bits
        changedAt = now
      }
      const settled = everything || now - changedAt >= slot.debounceMs * 1000
      if (!settled || (bits === told && !everything)) return null
      told = bits
      return bits
    },
  }
}

const encoder = (slot: Extract<Slot, { kind: 'encoder' }>, readings: Readings): Watched => {
  const quadrature = new Quadrature()
  const [a = 0, b = 0] = slot.pins
  let told: number | null = null
  return {
    scan: (_, everything) => {
      quadrature.take(readings.isClosed(a), readings.isClosed(b))
      if (quadrature.count === told && !everything) return null
      told = quadrature.count
      return told
    },
  }
}

const analog = (
  slot: Extract<Slot, { kind: 'analog' }>,
  readings: Readings,
  random: () => number,
): Watched => {
  const input = new AnalogInput(slot.smoothing, random)
  return { scan: (now, everything) => input.sample(readings.levelOf(slot.pin), now, everything) }
}

/** The watcher of a slot, or null for one that the board drives. */
export const watcherFor = (slot: Slot, readings: Readings, random: () => number): Watched | null => {
  switch (slot.kind) {
    case 'contacts':
      return contacts(slot, readings)
    case 'encoder':
      return encoder(slot, readings)
    case 'analog':
      return analog(slot, readings, random)
    default:
      return null
  }
}
