import { asMeant, decimalsOf } from './same-number'

/** Rounded to what decimals a step can have, so that sums of tenths stay tenths. */
const clean = (x: number): number => Number(x.toFixed(9))

const modulo = (x: number, m: number): number => ((x % m) + m) % m

export interface Stepping {
  readonly by: number
  readonly least: number
  readonly most: number
  readonly atEnd: 'stop' | 'wrap'
  /** Whether both ends exist (359 is followed by 0) or are one place (360 is 0); `endsOf` says what is meant without. */
  readonly ends?: 'both' | 'one' | undefined
  readonly digit?: { readonly place: number; readonly base: number } | undefined
  readonly within?: number | undefined
}

/** Whether the ends of a range exist both where nobody has said so: those of a full circle are one place. */
export const endsOf = ({ least, most, ends }: Pick<Stepping, 'least' | 'most' | 'ends'>): 'both' | 'one' =>
  ends ?? ((most - least) % 360 === 0 ? 'one' : 'both')

/** How far it is once round a range. Where both ends exist, a step leads from the last to the first. */
const roundOf = (step: Stepping): number => {
  const span = clean(step.most - step.least)
  if (endsOf(step) === 'one') return span
  const by = Math.abs(step.by)
  const steps = clean(span / by)
  if (Number.isInteger(steps)) return clean(span + by)
  // Steps that do not come out even: the next whole number, or the next multiple of the step.
  return Number.isInteger(span) && Number.isInteger(by) ? span + 1 : clean(Math.ceil(steps) * by)
}

/** `times` steps on from the told value. Stays within its limits, and within its digit where it has one. */
export const stepped = (told: number, step: Stepping, times: number): number => {
  const { least, most, atEnd } = step
  const by = step.by * times
  const places = [step.by, least, most, step.within ?? 0, step.digit?.place ?? 0].map(decimalsOf)
  const present = asMeant(told, Math.max(...places))
  if (step.digit) return steppedDigit(present, step.digit, by, step)
  if (step.within !== undefined) {
    const inside = modulo(clean(present), step.within)
    return bound(clean(present) - inside + modulo(clean(inside + by), step.within), least, most)
  }
  const raw = clean(present + by)
  if (raw >= least && raw <= most) return raw
  return atEnd === 'stop'
    ? bound(raw, least, most)
    : bound(least + modulo(clean(raw - least), roundOf(step)), least, most)
}

const bound = (x: number, least: number, most: number): number => clean(Math.min(most, Math.max(least, x)))

/** One digit on, coming round in its base and never carrying. A value outside the limits then is not taken. */
const steppedDigit = (
  present: number,
  { place, base }: { readonly place: number; readonly base: number },
  by: number,
  { least, most, atEnd }: Stepping,
): number => {
  const digit = modulo(Math.floor(clean(present / place)), 10)
  const raw = digit + by
  const next = atEnd === 'wrap' ? modulo(raw, base) : Math.min(base - 1, Math.max(0, raw))
  const result = clean(present + (next - digit) * place)
  return result < least || result > most ? clean(present) : result
}

export interface Choice {
  readonly values: readonly number[]
  readonly every?: number | undefined
  readonly by: number
  readonly atEnd: 'stop' | 'wrap'
}

/** `times` places on along permitted values from wherever the present one stands, in rising order. */
export const chosen = (told: number, choice: Choice, times: number): number => {
  const by = choice.by * times
  const places = [...choice.values, choice.every ?? 0].map(decimalsOf)
  const present = asMeant(told, Math.max(...places))
  return choice.every === undefined
    ? along(present, choice.values, by, choice.atEnd)
    : onGrid(present, choice.values, choice.every, by)
}

/** The place at or below the value, counted from the first permitted one; −1 below it. */
const placeBelow = (value: number, values: readonly number[]): number => {
  let at = -1
  for (const [i, v] of values.entries()) if (v <= value + 1e-9) at = i
  return at
}

const along = (present: number, values: readonly number[], by: number, atEnd: 'stop' | 'wrap'): number => {
  const below = placeBelow(present, values)
  const exact = below >= 0 && Math.abs((values[below] as number) - present) < 1e-9
  // From between two values the first step leads to the nearer one in its direction.
  const goal = below + by + (by < 0 && !exact ? 1 : 0)
  const count = values.length
  const at = atEnd === 'wrap' ? modulo(goal, count) : Math.min(count - 1, Math.max(0, goal))
  return values[at] as number
}

const onGrid = (present: number, values: readonly number[], every: number, by: number): number => {
  const stretch = Math.floor(clean(present / every))
  const inside = clean(present - stretch * every)
  const below = placeBelow(inside, values)
  const exact = below >= 0 && Math.abs((values[below] as number) - inside) < 1e-9
  const goal = below + by + (by < 0 && !exact ? 1 : 0)
  const stretches = Math.floor(goal / values.length)
  return clean((stretch + stretches) * every + (values[modulo(goal, values.length)] as number))
}
