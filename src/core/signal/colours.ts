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
