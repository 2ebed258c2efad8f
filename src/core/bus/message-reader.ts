import { fitsIn, readerOf } from './bits'
import type { BusMessage, BusSignal } from './database'

/** One signal of a message, ready to be read. */
export interface ReadSignal {
  readonly signal: BusSignal
  /** Its value in these bytes, or null where it is no number; undefined where it is not in this one. */
  readonly read: (data: Uint8Array) => number | null | undefined
}

/** Signals without scale: what a counter, a check or a choice of alternatives really is. */
export const unscaled = (s: BusSignal): BusSignal => ({ ...s, scale: 1, add: 0 })

/**
 * How each signal of a message is read that lies within it, in their order. Of alternatives only those are there that the
 * message itself says; without a signal that says so, none of them. What is shorter than the message has none at all.
 */
export const signalsOf = (m: BusMessage): readonly ReadSignal[] => {
  const chooser = m.signals.find((s) => s.multiplex === 'chooses' && fitsIn(m, s))
  const chosen = chooser ? readerOf(unscaled(chooser)) : null
  return m.signals
    .filter((s) => fitsIn(m, s) && (typeof s.multiplex !== 'number' || chosen !== null))
    .map((signal) => {
      const read = readerOf(signal)
      const isThere = (data: Uint8Array): boolean =>
        data.length >= m.bytes &&
        (typeof signal.multiplex !== 'number' || chosen?.(data) === signal.multiplex)
      return { signal, read: (data) => (isThere(data) ? read(data) : undefined) }
    })
}
