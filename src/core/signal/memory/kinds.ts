import type { Millis } from '../../units-of-measure'

/** What is worked out of one argument: a number (yes and no are 1 and 0), a text, or null for no value. */
export type Given = number | string | null

/** What an argument is to be. */
export type Argument = 'anything' | 'number' | 'condition' | 'seconds' | 'words'

/** What a function with a memory gives now, and when that may be something else although nothing has changed. */
export interface Remembered {
  readonly value: Given
  readonly next: Millis | null
}

/**
 * A function that remembers: a record of what it takes and gives, and a machine that is told its arguments and the time. The
 * same arguments at the same times give the same, so what was recorded plays as it was.
 */
export interface MemoryKind<State = unknown> {
  readonly takes: readonly Argument[]
  /** How many of them may be left out, from the last. */
  readonly optional: number
  /** How many of the last come again, and how often at most. */
  readonly again?: { readonly last: number; readonly most: number }
  readonly form: string
  readonly says: string
  /** A type of its own, or that of its first argument. */
  readonly gives: 'yes or no' | 'seconds' | 'bare number' | 'text' | 'the first'
  begin(): State
  step(state: State, given: readonly Given[], now: Millis): Remembered
}

const absent: Remembered = { value: null, next: null }
const plain = (value: Given, next: Millis | null = null): Remembered => ({ value, next })
const millis = (seconds: Given | undefined): Millis =>
  typeof seconds === 'number' && seconds > 0 ? seconds * 1000 : 0
const isOn = (given: Given | undefined): boolean => typeof given === 'number' && given !== 0

interface Change {
  last: Given
  at: Millis
  seen: boolean
}

/** Notes when a value changes; what comes first, or comes back, is no change. */
const noteChange = (state: Change, value: Given, now: Millis): void => {
  if (value === null || value === state.last) return
  if (state.last !== null) {
    state.at = now
    state.seen = true
  }
  state.last = value
}

const recent: MemoryKind<Change> = {
  takes: ['anything', 'seconds'],
  optional: 0,
  form: 'recent(value, seconds)',
  says: 'yes for so long after a change',
  gives: 'yes or no',
  begin: () => ({ last: null, at: 0, seen: false }),
  step: (state, [value = null, seconds], now) => {
    noteChange(state, value, now)
    if (value === null) return absent
    const until = state.at + millis(seconds)
    return state.seen && now < until ? plain(1, until) : plain(0)
  },
}

const since: MemoryKind<Change & { began: Millis | null }> = {
  takes: ['anything', 'seconds'],
  optional: 1,
  form: 'since(value) or since(value, step in seconds)',
  says: 'how long ago it last changed',
  gives: 'seconds',
  begin: () => ({ last: null, at: 0, seen: false, began: null }),
  step: (state, [value = null, step], now) => {
    noteChange(state, value, now)
    if (value === null) return absent
    state.began ??= now
    const from = state.seen ? state.at : state.began
    const by = Math.max(50, millis(step ?? 1))
    const steps = Math.floor((now - from) / by + 1e-9)
    return plain((steps * by) / 1000, from + (steps + 1) * by)
  },
}

interface Extreme {
  value: number | null
}

const extreme = (
  name: string,
  says: string,
  pick: (a: number, b: number) => number,
): MemoryKind<Extreme> => ({
  takes: ['number', 'condition'],
  optional: 1,
  form: `${name}(value) or ${name}(value, anew while this holds)`,
  says,
  gives: 'the first',
  begin: () => ({ value: null }),
  step: (state, [value, anew]) => {
    if (isOn(anew)) state.value = null
    if (typeof value === 'number') state.value = state.value === null ? value : pick(state.value, value)
    return plain(state.value)
  },
})

const peak: MemoryKind<{ value: number; at: Millis } | { value: null }> = {
  takes: ['number', 'seconds'],
  optional: 0,
  form: 'peak(value, seconds)',
  says: 'its peak, held for so long, then what it is',
  gives: 'the first',
  begin: () => ({ value: null }),
  step: (state, [value, seconds], now) => {
    if (typeof value !== 'number') return absent
    const hold = millis(seconds)
    const over = state.value === null || value >= state.value || now >= state.at + hold
    if (over) Object.assign(state, { value, at: now })
    const held = state as { value: number; at: Millis }
    return plain(held.value, held.value === value ? null : held.at + hold)
  },
}

/** So often something that moves by itself moves on. */
const TICK_MS = 40
/** What is so close, measured by how large it is, has come to rest. */
const SETTLED = 1e-4

const smoothed: MemoryKind<{ value: number | null; goal: number; at: Millis }> = {
  takes: ['number', 'seconds'],
  optional: 0,
  form: 'smoothed(value, seconds)',
  says: 'evened out, two thirds of the way in so long',
  gives: 'the first',
  begin: () => ({ value: null, goal: 0, at: 0 }),
  step: (state, [value, seconds], now) => {
    if (typeof value !== 'number') {
      state.value = null
      return absent
    }
    const slow = millis(seconds)
    if (state.value === null || slow === 0) state.value = value
    // Until now it has been on its way to what was given before.
    else state.value += (state.goal - state.value) * (1 - Math.exp(-(now - state.at) / slow))
    state.goal = value
    state.at = now
    if (Math.abs(value - state.value) <= SETTLED * Math.max(1, Math.abs(value))) state.value = value
    return plain(state.value, state.value === value ? null : now + TICK_MS)
  },
}

const hysteresis: MemoryKind<{ is: boolean }> = {
  takes: ['number', 'number', 'number'],
  optional: 0,
  form: 'hysteresis(value, on from, off from)',
  says: 'yes from the one limit, no again only from the other',
  gives: 'yes or no',
  begin: () => ({ is: false }),
  step: (state, [value, on, off]) => {
    if (typeof value !== 'number' || typeof on !== 'number' || typeof off !== 'number') return absent
    const rising = on >= off
    if (rising ? value >= on : value <= on) state.is = true
    else if (rising ? value <= off : value >= off) state.is = false
    return plain(Number(state.is))
  },
}

const delayed: MemoryKind<{ is: boolean | null; wants: boolean; at: Millis }> = {
  takes: ['condition', 'seconds', 'seconds'],
  optional: 1,
  form: 'delayed(condition, seconds until on) or with seconds until off',
  says: 'a condition, so much later',
  gives: 'yes or no',
  begin: () => ({ is: null, wants: false, at: 0 }),
  step: (state, [condition = null, on, off], now) => {
    if (condition === null) return absent
    const wants = isOn(condition)
    // What stands when it is first seen has stood for who knows how long.
    state.is ??= wants
    if (wants !== state.wants) {
      state.wants = wants
      state.at = now
    }
    if (wants === state.is) return plain(Number(state.is))
    const due = state.at + millis(wants ? on : off)
    if (now < due) return plain(Number(state.is), due)
    state.is = wants
    return plain(Number(state.is))
  },
}

const latched: MemoryKind<{ is: boolean }> = {
  takes: ['condition', 'condition'],
  optional: 0,
  form: 'latched(condition, acknowledged)',
  says: 'yes from then on, until it is acknowledged and over',
  gives: 'yes or no',
  begin: () => ({ is: false }),
  step: (state, [condition = null, acknowledged]) => {
    if (isOn(condition)) state.is = true
    else if (isOn(acknowledged)) state.is = false
    return condition === null && !state.is ? absent : plain(Number(state.is))
  },
}

/** A window has so many pieces; what happens within one counts as one. */
const PIECES = 50

const rate: MemoryKind<{ samples: { at: Millis; value: number }[] }> = {
  takes: ['number', 'seconds'],
  optional: 1,
  form: 'rate(value) or rate(value, over seconds)',
  says: 'its change in a second',
  gives: 'bare number',
  begin: () => ({ samples: [] }),
  step: (state, [value, over], now) => {
    const { samples } = state
    if (typeof value !== 'number') {
      samples.length = 0
      return absent
    }
    const span = Math.min(3_600_000, millis(over ?? 1) || 1000)
    const last = samples.at(-1)
    if (!last) samples.push({ at: now, value })
    else if (last.value !== value) {
      const before = samples.at(-2)
      if (before && now - before.at < span / PIECES) last.value = value
      else samples.push({ at: now, value })
    }
    // The first is what stood when the window began, however long before that it came.
    while (samples.length > 1 && (samples[1] as { at: Millis }).at <= now - span) samples.shift()
    const first = samples[0] as { at: Millis; value: number }
    const passed = Math.min(span, now - first.at)
    const moves = samples.length > 1
    if (!moves) return plain(0)
    return plain(passed > 0 ? ((value - first.value) * 1000) / Math.max(passed, span) : 0, now + 100)
  },
}

interface Occurrence {
  was: boolean
  at: Millis
}

const message: MemoryKind<{ readonly occurrences: Occurrence[] }> = {
  takes: ['condition', 'words', 'seconds'],
  optional: 0,
  again: { last: 3, most: 20 },
  form: 'message(occurrence, text, seconds, …) from the weightiest on; for 0 seconds as long as it lasts',
  says: 'the weightiest that has occurred, for its time',
  gives: 'text',
  begin: () => ({ occurrences: [] }),
  step: ({ occurrences }, given, now) => {
    let shown: Given = ''
    let next: Millis | null = null
    for (let i = 0; i * 3 + 2 < given.length; i++) {
      const [condition, words, seconds] = given.slice(i * 3, i * 3 + 3)
      const is = isOn(condition)
      const known = occurrences[i] ?? { was: false, at: Number.NEGATIVE_INFINITY }
      occurrences[i] = known
      if (is && !known.was) known.at = now
      known.was = is
      const lasts = millis(seconds)
      const active = lasts === 0 ? is : now < known.at + lasts
      if (!active) continue
      if (lasts > 0) next = Math.min(next ?? Number.POSITIVE_INFINITY, known.at + lasts)
      if (shown === '') shown = typeof words === 'string' ? words : ''
    }
    return plain(shown, next)
  },
}

/** Every function with a memory; a new one is a record here. */
export const memoryKinds = {
  recent,
  since,
  highest: extreme('highest', 'the highest so far', Math.max),
  lowest: extreme('lowest', 'the lowest so far', Math.min),
  peak,
  smoothed,
  hysteresis,
  delayed,
  latched,
  rate,
  message,
} as const

export type MemoryName = keyof typeof memoryKinds

/** The record of a function with a memory. */
export const memoryKind = (name: MemoryName): MemoryKind => memoryKinds[name] as MemoryKind
