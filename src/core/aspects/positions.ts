import { z } from 'zod'
import type { PositionsAspect } from '../catalogue/part-kind'
import type { Place } from '../catalogue/place'
import { boolean } from '../signal/expression/value-type'
import type { Millis } from '../units-of-measure'
import type { ControlKind, SlotKind } from './aspect-kind'
import { measuredContacts, measuredLadder } from './measured'
import { countedPlaces } from './slot-bytes'
import { type AnalogSlot, FULL_LEVEL, levelWords } from './travel'

export interface ContactsSlot {
  readonly kind: 'contacts'
  readonly pins: readonly Place[]
  readonly debounceMs: Millis
}

export const contactsSlot: SlotKind<ContactsSlot> = {
  kind: 'contacts',
  code: 1,
  write: ({ pins, debounceMs }) => ({ flags: 0, bytes: [...countedPlaces(pins), debounceMs] }),
  read: (_, b) => ({ kind: 'contacts', pins: b.numbers(b.number()), debounceMs: b.next() }),
}

/** The longest that a board waits for contacts to be still: a quick press is hardly longer. */
export const MOST_DEBOUNCE_MS: Millis = 100

const own = z.strictObject({
  kind: z.literal('positions'),
  /** Positions that are only passed through: nothing happens there. */
  skips: z.array(z.string()).max(24).optional(),
  /** A position counts once the switch has rested in it for so long. */
  restMs: z.number().int().min(0).max(2000).optional(),
  /** How long its contacts have to be still before they count; what its maker says where this is left out. */
  debounceMs: z.number().int().min(1).max(MOST_DEBOUNCE_MS).optional(),
  /** Of a ladder of resistors, the share of the supply at which each of its positions stands. */
  levels: z.record(z.string(), z.number().min(0).max(1)).optional(),
  measured: z.union([measuredContacts, measuredLadder]).optional(),
})

/** A wiper among resistors needs less evening out than a lever: it rests in its positions. */
const LADDER_SMOOTHING = 1

/** What a binding of a switch can wait for. */
export const gestures = ['press', 'release', 'short', 'long', 'double', 'repeat', 'hold', 'position'] as const

/** A switch with one place to press: what it stands at is a yes or no. */
export const isButton = (aspect: PositionsAspect): boolean =>
  aspect.momentary && aspect.positions.length === 2

export const positions: ControlKind<PositionsAspect, typeof own> = {
  kind: 'positions',
  word: 'switch',
  own,
  terminals: (aspect, kind) => {
    if (aspect.wiper !== undefined) return [aspect.wiper]
    const used = new Set(aspect.positions.flatMap((p) => p.closes))
    return kind.terminals.filter((t) => used.has(t.id)).map((t) => t.id)
  },
  slot: (aspect, { places }, settings): ContactsSlot | AnalogSlot =>
    aspect.wiper === undefined
      ? { kind: 'contacts', pins: places, debounceMs: settings?.debounceMs ?? aspect.debounceMs }
      : { kind: 'analog', pin: places[0], smoothing: LADDER_SMOOTHING },
  fresh: (aspect) => {
    if (aspect.momentary) return { when: 'press', value: null }
    const second = aspect.positions[1]?.id
    return {
      when: 'position',
      value: aspect.positions.length === 2 ? `input == ${JSON.stringify(second)}` : null,
    }
  },
  does: (when) => (gestures as readonly string[]).includes(when),
  isReadable: true,
  type: (aspect) => (isButton(aspect) ? boolean : { is: 'text', choices: aspect.positions.map((p) => p.id) }),
  value: (aspect, { position }) => {
    if (position === null) return null
    return isButton(aspect) ? Number(position !== aspect.positions[0].id) : position
  },
  words: (_, { raw, position, contradiction, label }) => {
    if (raw === null && position === null) return 'not heard yet'
    return contradiction || position === null ? 'contradiction' : label(position)
  },
  pinWords: (aspect, raw, pins) => {
    if (aspect.wiper !== undefined) return levelWords(raw)
    // Contacts pull their pin low against the board's pull-up.
    const low = pins.filter((_, i) => (raw >> i) & 1)
    if (pins.length === 1) return low.length === 1 ? 'low' : 'high'
    return low.length > 0 ? `${low.join(' ')} low` : 'all high'
  },
  // Between its positions there is more than that.
  unrest: ({ wiper }) => (wiper === undefined ? 0 : FULL_LEVEL / 50),
}
