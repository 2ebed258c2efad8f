import { z } from 'zod'
import type { Wanted } from '../signal/expression/compile'
import { unitNamed } from '../signal/unit'
import {
  colour,
  colourRanges,
  type ElementKind,
  heldSettings,
  lettering,
  live,
  nothingFollowed,
} from './element-kind'

const settings = z.strictObject({
  kind: z.literal('value'),
  ...heldSettings,
  ...lettering,
  as: z.enum(['number', 'text', 'time', 'choice']),
  /** Behind the point; of a time, of its seconds. */
  decimals: z.number().int().min(0).max(6),
  /** At least so many digits before the point, filled with zeros. */
  digits: z.number().int().min(1).max(12),
  /** A plus before what is above zero. */
  plus: z.boolean(),
  /** The unit in which it is shown; null as it comes. */
  unit: z.string().max(20).nullable(),
  before: z.string().max(80),
  after: z.string().max(80),
  /** Of a time in seconds: its largest part. */
  largest: z.enum(['h', 'min', 's']),
  /** Of a choice: what each value is shown as. */
  choices: z.array(z.strictObject({ is: z.string().max(40), shows: z.string().max(80) })).max(60),
  /** What is farther from zero than this is no value: it is said to be absurd. */
  most: z.number().positive().nullable(),
  colour,
  ranges: colourRanges.nullable(),
})
export type ValueSettings = z.infer<typeof settings>

const wantedOf = ({ as, unit }: ValueSettings): Wanted => {
  if (as === 'text' || as === 'choice') return { as: 'any' }
  const known = as === 'time' ? unitNamed('s') : unitNamed(unit ?? '')
  return known && (as === 'time' || unit !== null)
    ? { as: 'type', type: { is: 'number', unit: known } }
    : { as: 'number' }
}

export const value: ElementKind<typeof settings> = {
  kind: 'value',
  word: 'Value',
  says: 'a number, a text, a time or a choice',
  settings,
  live: (s) => [live('value', wantedOf(s))],
  fresh: () => ({
    width: 140,
    height: 44,
    settings: {
      ...nothingFollowed,
      ...{
        kind: 'value',
        as: 'number',
        decimals: 0,
        digits: 1,
        plus: false,
        unit: null,
        before: '',
        after: '',
      },
      ...{ largest: 'min', choices: [], most: null, colour: '#eef2ee', ranges: null },
      ...{ sizePx: 34, align: 'end', face: 'figures', bold: false },
    },
  }),
  range: () => [0, 100],
}

/** What stands in place of a value that is not there, and of one that cannot be. */
export const ABSENT = '–'
export const ABSURD = '≈∞'

/** Farther from zero no instrument shows anything that is meant. */
const MOST_SENSIBLE = 1e9

const padded = (whole: string, digits: number): string => whole.padStart(digits, '0')

/** A number with so many decimals and digits; a true minus sign, and none before what is shown as zero. */
export const numberWords = (
  x: number,
  { decimals, digits, plus }: Pick<ValueSettings, 'decimals' | 'digits' | 'plus'>,
): string => {
  const [whole = '0', part] = Math.abs(x).toFixed(decimals).split('.')
  const bare = `${padded(whole, digits)}${part === undefined ? '' : `.${part}`}`
  const isZero = Number(bare) === 0
  const sign = isZero ? '' : x < 0 ? '−' : plus ? '+' : ''
  return sign + bare
}

/** Seconds as hours, minutes, seconds and parts of them, from its largest part down; nothing carries wrongly. */
export const timeWords = (
  seconds: number,
  { largest, decimals, digits, plus }: Pick<ValueSettings, 'largest' | 'decimals' | 'digits' | 'plus'>,
): string => {
  // Rounded once, in the smallest part that is shown, so that 59.96 s is 1:00.0 and never 60.0.
  const parts = 10 ** decimals
  const all = Math.round(Math.abs(seconds) * parts)
  const sign = all === 0 ? '' : seconds < 0 ? '−' : plus ? '+' : ''
  const whole = Math.floor(all / parts)
  const behind = decimals === 0 ? '' : `.${padded(String(all % parts), decimals)}`
  if (largest === 's') return `${sign}${padded(String(whole), digits)}${behind}`
  const s = `${padded(String(whole % 60), 2)}${behind}`
  const minutes = Math.floor(whole / 60)
  if (largest === 'min') return `${sign}${padded(String(minutes), digits)}:${s}`
  return `${sign}${padded(String(Math.floor(minutes / 60)), digits)}:${padded(String(minutes % 60), 2)}:${s}`
}

/** A shown value in words, with what stands before and after it. Absent and absurd ones say so, without a unit. */
export const valueWords = (s: ValueSettings, shown: number | string | null): string => {
  if (shown === null || (typeof shown === 'number' && Number.isNaN(shown))) return `${s.before}${ABSENT}`
  const around = (words: string) => `${s.before}${words}${s.after}`
  if (s.as === 'choice') {
    const said = String(shown)
    return around(s.choices.find((c) => c.is === said)?.shows ?? said)
  }
  if (s.as === 'text' || typeof shown === 'string') return around(String(shown))
  if (Math.abs(shown) > (s.most ?? MOST_SENSIBLE)) return `${s.before}${ABSURD}`
  return around(s.as === 'time' ? timeWords(shown, s) : numberWords(shown, s))
}
