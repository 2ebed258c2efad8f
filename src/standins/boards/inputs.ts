import type { Slot } from '../../core/harness/slot'
import type { Micros } from '../../core/units-of-measure'
import { AnalogInput } from './analog-input'
import type { Hands } from './hands'
import { Quadrature } from './quadrature'

/** One watched thing on the board: a number when there is something to tell. */
interface Watched {
  scan(now: Micros, everything: boolean): number | null
}

const contacts = (slot: Extract<Slot, { kind: 'contacts' }>, hands: Hands): Watched => {
  let raw = 0
  let changedAt: Micros = 0
  let told: number | null = null
  return {
    scan: (now, everything) => {
      const bits = slot.pins.reduce((b, pin, k) => b | (hands.isClosed(pin) ? 1 << k : 0), 0)
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

const encoder = (slot: Extract<Slot, { kind: 'encoder' }>, hands: Hands): Watched => {
  const quadrature = new Quadrature()
  const [a = 0, b = 0] = slot.pins
  let told: number | null = null
  return {
    scan: (_, everything) => {
      quadrature.take(hands.isClosed(a), hands.isClosed(b))
      if (quadrature.count === told && !everything) return null
      told = quadrature.count
      return told
    },
  }
}

const analog = (slot: Extract<Slot, { kind: 'analog' }>, hands: Hands, random: () => number): Watched => {
  const input = new AnalogInput(slot.smoothing, random)
  return { scan: (now, everything) => input.sample(hands.levelOf(slot.pin), now, everything) }
}

/** The watcher of a slot, or null for one that the board drives. */
export const watcherFor = (slot: Slot, hands: Hands, random: () => number): Watched | null => {
  switch (slot.kind) {
    case 'contacts':
      return contacts(slot, hands)
    case 'encoder':
      return encoder(slot, hands)
    case 'analog':
      return analog(slot, hands, random)
    default:
      return null
  }
}
