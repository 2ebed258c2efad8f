import { blinkPeriod } from './lamp-state'

export interface ColourStop {
  readonly at: number
  readonly colour: string
}

export interface ColourRule {
  readonly stops: readonly ColourStop[]
  readonly blend: boolean
  readonly fill: 'all' | 'start' | 'end' | 'middle'
  readonly least: number
  readonly most: number
  readonly blinkAbove: number | null
}

type Rgb = readonly [number, number, number]

const BLINK_HZ = 2
const DARK: Rgb = [0, 0, 0]

const rgb = (colour: string): Rgb =>
  [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16)) as never as Rgb

/** The colour at a value: of the last stop it has reached, or blended towards the next. */
export const colourAt = (stops: readonly ColourStop[], blend: boolean, value: number): Rgb => {
  const next = stops.findIndex((s) => s.at > value)
  const reached = next < 0 ? stops.at(-1) : stops[Math.max(0, next - 1)]
  const after = stops[next]
  if (!reached) return DARK
  const from = rgb(reached.colour)
  if (!blend || !after || next === 0) return from
  const t = (value - reached.at) / (after.at - reached.at)
  return rgb(after.colour).map((c, i) =>
    Math.round((from[i] as number) + t * (c - (from[i] as number))),
  ) as never as Rgb
}

/** Which lamps of a strip shine: the share of them from an end, or from the middle to either side. */
const reaches = (rule: ColourRule, value: number, lamp: number, lamps: number): boolean => {
  const share = Math.min(1, Math.max(0, (value - rule.least) / (rule.most - rule.least)))
  const lit = Math.round(share * lamps)
  switch (rule.fill) {
    case 'all':
      return true
    case 'start':
      return lamp < lit
    case 'end':
      return lamp >= lamps - lit
    case 'middle': {
      // The middle of the range is dark; the bar grows towards the side on which the value lies.
      const half = lamps / 2
      const out = (share - 0.5) * lamps
      const place = lamp + 0.5 - half
      return out >= 0 ? place > 0 && place < out + 0.5 : place < 0 && place > out - 0.5
    }
  }
}

/** A strip's state as it travels: one character for the blink period, then three for each lamp. Absent is dark. */
export const colourState = (rule: ColourRule, value: number, lamps: number): string => {
  if (!Number.isFinite(value)) return darkState(lamps)
  const blinks = rule.blinkAbove !== null && value > rule.blinkAbove
  let state = String.fromCharCode(blinks ? blinkPeriod(BLINK_HZ) : 0)
  const size = rule.most - rule.least
  for (let i = 0; i < lamps; i++) {
    // A filled strip shows at each place the colour of the value that place stands for.
    const stands =
      rule.fill === 'all'
        ? value
        : rule.fill === 'end'
          ? rule.most - ((i + 0.5) / lamps) * size
          : rule.least + ((i + 0.5) / lamps) * size
    const colour = reaches(rule, value, i, lamps) ? colourAt(rule.stops, rule.blend, stands) : DARK
    state += String.fromCharCode(...colour)
  }
  return state
}

export const darkState = (lamps: number): string => '\0'.repeat(1 + lamps * 3)
export const whiteState = (lamps: number): string => `\0${'\xff'.repeat(lamps * 3)}`

/** A state taken apart again: the colour of each lamp and how often all of them blink. */
export const readColours = (state: string): { blinkHz: number; lamps: string[] } => {
  const period = state.charCodeAt(0) || 0
  const lamps: string[] = []
  for (let i = 1; i + 2 < state.length; i += 3) {
    const hex = [0, 1, 2].map((k) =>
      state
        .charCodeAt(i + k)
        .toString(16)
        .padStart(2, '0'),
    )
    lamps.push(`#${hex.join('')}`)
  }
  return { blinkHz: period === 0 ? 0 : 50 / period, lamps }
}

/** The orders in which strips take the red, green and blue of a lamp; the first is that of their data sheet. */
export const colourOrders = ['GRB', 'RGB', 'BRG', 'BGR', 'RBG', 'GBR'] as const
export type ColourOrder = (typeof colourOrders)[number]

/** Which of a lamp's three characters goes out as which: boards send green, red, blue of what they are told. */
const sentFirst = [1, 0, 2] as const

const reordered = (state: string, from: (k: number) => number): string => {
  let made = state[0] ?? '\0'
  for (let i = 1; i + 2 < state.length; i += 3) for (let k = 0; k < 3; k++) made += state[i + from(k)]
  return made
}

/** A state so that a strip that takes its colours in another order shows it right. */
export const asTaken = (state: string, order: ColourOrder | undefined): string => {
  if (order === undefined || order === 'GRB') return state
  // What is told as green goes out first, and is to be the colour that the strip takes first.
  return reordered(state, (k) => 'RGB'.indexOf(order[sentFirst.indexOf(k as 0 | 1 | 2)] ?? 'R'))
}

/** What a state that was told so means: the inverse of `asTaken`. */
export const asMeant = (state: string, order: ColourOrder | undefined): string => {
  if (order === undefined || order === 'GRB') return state
  return reordered(state, (k) => sentFirst[order.indexOf('RGB'[k] ?? 'R')] ?? k)
}

/** The order in which a strip takes its colours, by what is seen when it is told red and green in the order that it has now. */
export const orderFrom = (
  now: ColourOrder | undefined,
  seenForRed: 'R' | 'G' | 'B',
  seenForGreen: 'R' | 'G' | 'B',
): ColourOrder | null => {
  const seenForBlue = [...'RGB'].find((c) => c !== seenForRed && c !== seenForGreen)
  if (seenForRed === seenForGreen || seenForBlue === undefined) return null
  const seen = { R: seenForRed, G: seenForGreen, B: seenForBlue } as Readonly<Record<string, string>>
  const real = [...(now ?? 'GRB')].map((c) => seen[c]).join('')
  return colourOrders.find((o) => o === real) ?? null
}

/** A state whose lamps shine otherwise: `strength` of the strongest of a lamp's colours, 0 to 1; its hue stays. */
export const withStrength = (state: string, strength: (brightest: number) => number): string => {
  let made = state[0] ?? '\0'
  for (let i = 1; i + 2 < state.length; i += 3) {
    const colours = [0, 1, 2].map((k) => state.charCodeAt(i + k))
    const brightest = Math.max(...colours) / 255
    const by = brightest > 0 ? strength(brightest) / brightest : 0
    // What shines at all stays seen.
    made += String.fromCharCode(
      ...colours.map((c) => (by > 0 && c > 0 ? Math.max(1, Math.min(255, Math.round(c * by))) : 0)),
    )
  }
  return made
}

/** What screens take a strength to the power of, to look as bright as it. */
const SCREEN = 1 / 2.2

/** A lamp's colour as a screen has to show it to look as bright: a lamp's light goes by its number, a screen's does not. */
export const onScreen = (colour: string): string => {
  const rgb = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16))
  const brightest = Math.max(...rgb) / 255
  const by = brightest > 0 ? brightest ** SCREEN / brightest : 0
  return `#${rgb
    .map((c) =>
      Math.round(c * by)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
}
