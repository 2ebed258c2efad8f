import { unitNamed } from '../signal/unit'
import type { EventInfo, VariableInfo } from './simulator-catalogue'

/** A name of another craft that is likely to mean the same, and how likely, 0 to 1. */
export interface LikelyName {
  readonly name: string
  readonly likeness: number
}

/** Below this nothing is proposed: a wrong name is worse than none. */
const LEAST = 0.34

/** Words that mean the same in names of variables. */
const same: Readonly<Record<string, string>> = {
  ...{ rpm: 'speed', revs: 'speed', temp: 'temperature', tgt: 'target', hdg: 'heading', alt: 'altitude' },
  ...{
    lamp: 'light',
    lights: 'light',
    pos: 'position',
    propeller: 'engine',
    power: 'throttle',
    fuelflow: 'flow',
  },
}

const wordsOf = (text: string): Set<string> =>
  new Set(
    text
      .replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1 $2')
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter((w) => w.length > 1 && !['the', 'of', 'is', 'and', 'for', 'to', 'in'].includes(w))
      .map((w) => same[w] ?? w),
  )

/** The share of words that two texts have in common (Dice). */
const shared = (a: ReadonlySet<string>, b: ReadonlySet<string>): number => {
  if (a.size === 0 || b.size === 0) return 0
  let both = 0
  for (const w of a) if (b.has(w)) both++
  return (2 * both) / (a.size + b.size)
}

/** The last word of a name says what it is: speed, position, target. */
const lastWord = (name: string): string => {
  const word = name.split('.').at(-1)?.toLowerCase() ?? ''
  return same[word] ?? word
}

const unitLikeness = (a: string | null, b: string | null): number => {
  if (a === b) return a === null ? 0.05 : 0.2
  const [x, y] = [a ? unitNamed(a) : undefined, b ? unitNamed(b) : undefined]
  if (x && y) return x.dimension === y.dimension ? 0.15 : -0.5
  return 0
}

const rangeLikeness = (a: VariableInfo['range'], b: VariableInfo['range']): number => {
  if (!a || !b) return 0
  const [wide, other] = [a[1] - a[0], b[1] - b[0]]
  const ratio = Math.min(wide, other) / Math.max(wide, other)
  return Math.sign(a[0]) === Math.sign(b[0]) ? 0.1 * ratio : 0
}

const likeness = (a: VariableInfo, b: VariableInfo): number => {
  if (a.type !== b.type && (a.type === 'text' || b.type === 'text')) return 0
  const names = shared(wordsOf(a.name), wordsOf(b.name))
  const words = shared(wordsOf(a.description), wordsOf(b.description))
  const last = lastWord(a.name) === lastWord(b.name) ? 0.12 : 0
  const writable = a.writable && !b.writable ? -0.05 : 0
  return (
    0.5 * names +
    0.25 * words +
    last +
    writable +
    unitLikeness(a.unit, b.unit) +
    rangeLikeness(a.range, b.range)
  )
}

/** The variables of another craft that are likeliest to mean the same as one, best first; none where nothing is like it. */
export const likelyNames = (of: VariableInfo, among: readonly VariableInfo[], most = 5): LikelyName[] =>
  among
    .map((v) => ({ name: v.name, likeness: Math.max(0, Math.min(1, likeness(of, v))) }))
    .filter((l) => l.likeness >= LEAST)
    .sort((a, b) => b.likeness - a.likeness || (a.name < b.name ? -1 : 1))
    .slice(0, most)

/** The same for events: by their names and their words alone. */
export const likelyEvents = (of: EventInfo, among: readonly EventInfo[], most = 5): LikelyName[] =>
  among
    .map((e) => ({
      name: e.name,
      likeness:
        0.6 * shared(wordsOf(of.name), wordsOf(e.name)) +
        0.3 * shared(wordsOf(of.description), wordsOf(e.description)) +
        ((of.value === null) === (e.value === null) ? 0.1 : 0),
    }))
    .filter((l) => l.likeness >= LEAST)
    .sort((a, b) => b.likeness - a.likeness || (a.name < b.name ? -1 : 1))
    .slice(0, most)
