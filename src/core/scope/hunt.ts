import { plainNumber } from '../signal/same-number'
import type { Millis } from '../units-of-measure'
import { type HuntWatch, MOST_ONSETS, type Onset } from './hunt-watch'

// What a hand does is assumed here, and tried on the scenes of `tests/hunt-scenes.ts`.

/** A movement belongs to a mark when it begins this long before it, or after it: a hand marks as it goes. */
export const BEFORE_MS: Millis = 1500
export const AFTER_MS: Millis = 2500
/** Where a movement is looked for first: most hands mark just after they have operated something. */
const USUAL_DELAY_MS = -150
const SPREAD_MS = 450
/** The share of movements that come at any time within the window. */
const ANYWHERE = 0.15
/** How seldom the right one does not move at a mark. */
const MISSES = 0.04
/** Movements besides those at marks are as good as certain to come sooner or later: what was never seen may still be seen. */
const UNSEEN = 0.5
const UNSEEN_PER_MS = UNSEEN / 20_000

/** What a hunt has found out about one value. */
export interface Candidate {
  readonly index: number
  /** The other of a pair, where one moves at some marks and one at the others; else null. */
  readonly partner: number | null
  /** How much more likely it is moved by the hand than by itself, as a logarithm. */
  readonly score: number
  /** The share of certainty among all candidates, 0 to 1. */
  readonly sure: number
  /** For each mark, the movement that belongs to it, or null. */
  readonly atMarks: readonly (Onset | null)[]
  /** Movements that belong to no mark. */
  readonly otherwise: number
  /** The middle of the delays from marks to movements; negative where it moved first. */
  readonly delayMs: Millis
  /** What it stood at after each movement, each value once, in the order in which they were seen. */
  readonly levels: readonly number[]
}

/** The first and clearest movement that belongs to a mark: the one nearest to where it is looked for. None belongs to two. */
const belonging = (onsets: readonly Onset[], before: Millis, mark: Millis, next: Millis): Onset | null => {
  let best: Onset | null = null
  let least = Number.POSITIVE_INFINITY
  for (const o of onsets) {
    const delay = o.at - mark
    if (delay < -BEFORE_MS || delay > AFTER_MS) continue
    // Between two marks close to each other it belongs to the nearer one.
    if (o.at - mark > next - o.at && next - o.at <= BEFORE_MS) continue
    if (o.at - before <= mark - o.at && o.at - before <= AFTER_MS) continue
    const off = Math.abs(delay - USUAL_DELAY_MS)
    if (off < least) {
      least = off
      best = o
    }
  }
  return best
}

/** How dense movements of the right one are at a delay, in 1/ms. */
const density = (delay: Millis): number => {
  const off = (delay - USUAL_DELAY_MS) / SPREAD_MS
  const near = Math.exp(-0.5 * off * off) / (SPREAD_MS * Math.sqrt(2 * Math.PI))
  return (1 - ANYWHERE) * near + ANYWHERE / (BEFORE_MS + AFTER_MS)
}

const median = (list: readonly number[]): number => {
  const sorted = [...list].sort((a, b) => a - b)
  return sorted[sorted.length >> 1] ?? 0
}

/** What it came to rest at, each once. A value within a thousandth of its whole travel, or within its unrest, is the same. */
const levelsOf = (onsets: readonly Onset[], unrest: number): number[] => {
  const values = onsets.flatMap((o) => [o.from, o.to])
  const near = Math.max(
    (Math.max(...values) - Math.min(...values)) / 1000,
    moved(onsets, (o) => o.jumped) ? 8 * unrest : 0,
  )
  const levels: number[] = []
  for (const v of values.map(plainNumber)) if (!levels.some((l) => Math.abs(l - v) <= near)) levels.push(v)
  return levels
}

const moved = (onsets: readonly Onset[], fits: (o: Onset) => boolean): boolean =>
  onsets.filter(fits).length * 2 > onsets.length

/** The time that is covered by no mark's window. */
const timeOutside = (marks: readonly Millis[], began: Millis, now: Millis): Millis => {
  let covered = 0
  let until = began
  for (const m of marks) {
    const from = Math.max(until, m - BEFORE_MS)
    const to = Math.min(now, m + AFTER_MS)
    if (to > from) covered += to - from
    until = Math.max(until, to)
  }
  return Math.max(0, now - began - covered)
}

interface Evidence {
  readonly atMarks: readonly (Onset | null)[]
  readonly otherwise: number
  /** How often it began to move before the hunt. */
  readonly earlier: number
}

const evidence = (watch: HuntWatch, index: number, marks: readonly Millis[]): Evidence => {
  const onsets = watch.onsets[index] as readonly Onset[]
  const atMarks = marks.map((m, i) =>
    belonging(onsets, marks[i - 1] ?? Number.NEGATIVE_INFINITY, m, marks[i + 1] ?? Number.POSITIVE_INFINITY),
  )
  const mine = atMarks.filter((o) => o !== null).length
  return {
    atMarks,
    otherwise: (watch.counts[index] as number) - mine,
    earlier: watch.earlier?.counts[index] ?? 0,
  }
}

/** How a movement speaks for itself: a control goes from one level to another at once, and stays. */
const clean = (onset: Onset): number => (onset.changes <= 3 ? 0.6 : 0)

/** The logarithm of how much likelier these movements are if the hand made them than if they came by themselves. */
const scoreOf = (
  { atMarks, otherwise, earlier }: Evidence,
  marks: readonly Millis[],
  outside: Millis,
): number => {
  // Its own rate, as far as it is known: what has been watched for long without moving is slow to move.
  const rate = (otherwise + earlier + UNSEEN) / (outside + UNSEEN / UNSEEN_PER_MS)
  const window = BEFORE_MS + AFTER_MS
  const missed = Math.log(MISSES) + rate * window
  let score = 0
  for (const [i, onset] of atMarks.entries())
    score +=
      onset === null
        ? missed
        : Math.log(((1 - MISSES) * density(onset.at - (marks[i] as Millis))) / rate) + clean(onset)
  // What the hand moves does not move otherwise: each time that it did all the same is held against it.
  return score - 1.2 * Math.min(otherwise, 20)
}

const MOST_PAIRED = 60
/** How much likelier one that can be written is what the hand works: a control is, and what follows it mostly is not. */
const WRITABLE = 3
const anything = (): boolean => false

/** Two that share the marks between them are a little less likely than one that has them all. */
const PAIR_COST = 3

interface Scored extends Evidence {
  readonly index: number
  readonly partner: number | null
  readonly score: number
}

/** Two of which each moves at some marks and neither at the others': up and down as two signals. */
const pairs = (singles: readonly Scored[], marks: readonly Millis[], outside: Millis): Scored[] => {
  const half = singles
    .filter((s) => {
      const hits = s.atMarks.filter((o) => o !== null).length
      return hits > 0 && hits < marks.length && s.otherwise <= 1
    })
    .slice(0, MOST_PAIRED)
  const found: Scored[] = []
  for (const [i, a] of half.entries())
    for (const b of half.slice(i + 1)) {
      const both = a.atMarks.map((o, k) => (o && b.atMarks[k] ? 'both' : (o ?? b.atMarks[k] ?? null)))
      if (both.includes('both') || both.includes(null)) continue
      const together = {
        atMarks: both as readonly Onset[],
        otherwise: a.otherwise + b.otherwise,
        earlier: a.earlier + b.earlier,
      }
      const score = scoreOf(together, marks, outside) - PAIR_COST
      const first = a.atMarks[0] ? a : b
      found.push({ ...together, index: first.index, partner: (first === a ? b : a).index, score })
    }
  return found
}

const byScore = (a: Scored, b: Scored): number => b.score - a.score || a.index - b.index

/** How sure each of the best is: against the others, and against none of them being it. */
const certain = <S extends Scored>(best: readonly S[]): (S & { readonly sure: number })[] => {
  const top = best[0]?.score ?? 0
  const sum = best.reduce((n, c) => n + Math.exp(c.score - top), Math.exp(-Math.max(0, top)))
  return best.map((c) => ({ ...c, sure: Math.exp(c.score - top) / sum }))
}

/** Each value only where it stands best: alone, or as one of a pair. */
const onceEach = (ranked: readonly Scored[]): Scored[] => {
  const seen = new Set<number>()
  return ranked.filter(({ index, partner }) => {
    if (seen.has(index) || (partner !== null && seen.has(partner))) return false
    seen.add(index)
    if (partner !== null) seen.add(partner)
    return true
  })
}

/**
 * Ranks watched values by how well they moved with the marks and not otherwise, best first. A pair stands as one candidate.
 * `marks` are in order; there may be none yet.
 */
export const rankHunt = (
  watch: HuntWatch,
  marks: readonly Millis[],
  now: Millis,
  most = 20,
  isWritable: (index: number) => boolean = anything,
): readonly Candidate[] => {
  if (marks.length === 0) return []
  const outside = timeOutside(marks, watch.began, now) + (watch.earlier?.ms ?? 0)
  const singles: Scored[] = []
  for (let index = 0; index < watch.size; index++) {
    // What begins so often that it was not kept is no control.
    if (watch.counts[index] === 0 || (watch.counts[index] as number) > MOST_ONSETS) continue
    const seen = evidence(watch, index, marks)
    if (seen.atMarks.every((o) => o === null)) continue
    const score = scoreOf(seen, marks, outside) + (isWritable(index) ? WRITABLE : 0)
    singles.push({ ...seen, index, partner: null, score })
  }
  singles.sort(byScore)
  const all = marks.length > 1 ? [...singles, ...pairs(singles, marks, outside)] : singles
  return certain(onceEach(all.sort(byScore)).slice(0, most)).map((c) => ({
    ...c,
    delayMs: median(c.atMarks.flatMap((o, i) => (o ? [o.at - (marks[i] as Millis)] : []))),
    levels: levelsOf(
      c.atMarks.filter((o) => o !== null),
      watch.unrest(c.index),
    ),
  }))
}

const count = (n: number, word: string): string => (n === 1 ? `one ${word}` : `${n} ${word}s`)

/** Why a candidate stands where it stands, in words. */
export const huntWords = (c: Candidate): string => {
  const hits = c.atMarks.filter((o) => o !== null).length
  const marks = c.atMarks.length
  const words: string[] = []
  const at =
    hits === marks ? (marks === 1 ? 'at the mark' : `at all ${marks} marks`) : `at ${hits} of ${marks} marks`
  const other = c.otherwise === 0 ? 'never otherwise' : `${count(c.otherwise, 'time')} otherwise`
  words.push(`${c.partner === null ? 'moved' : 'one of the two moved'} ${at}, ${other}`)
  if (c.delayMs > 800) words.push(`${(c.delayMs / 1000).toFixed(1)} s late: it may hang on another`)
  const there = c.atMarks.filter((o) => o !== null)
  const slow = median(there.map((o) => o.until - o.at))
  if (slow > 1000) words.push(`takes ${(slow / 1000).toFixed(0)} s to travel`)
  if (moved(there, (o) => o.to === o.from && o.changes > 1)) words.push('goes and comes back')
  else if (c.levels.length <= 8) words.push(count(c.levels.length, 'level'))
  return words.join('; ')
}

/** What moves so soon after a touch is moved by it: by the path that the part has already. */
const OWN_MS: Millis = 500

/** How well so many levels fit a control with so many positions: as many is best, more may be, fewer are too few. */
const levelsFit = (levels: number, positions: number | null): number =>
  positions === null
    ? 0
    : levels === positions
      ? 2.5
      : levels > positions
        ? -Math.min(3, 0.5 * (levels - positions))
        : -2 * (positions - levels)

/** What moved since the builder touched a control on the panel and then worked the same one in the simulator, unmarked. */
export const rankSince = (
  watch: HuntWatch,
  since: Millis,
  now: Millis,
  /** How many positions the touched control has; null for one without. */
  positions: number | null,
  most = 20,
  isWritable: (index: number) => boolean = anything,
): readonly Candidate[] => {
  const before = since - watch.began + (watch.earlier?.ms ?? 0)
  const span = Math.max(1, now - since)
  const scored: (Scored & { readonly levels: readonly number[] })[] = []
  for (let index = 0; index < watch.size; index++) {
    const onsets = watch.onsets[index] as readonly Onset[]
    if (onsets.length === 0 || (watch.counts[index] as number) > MOST_ONSETS) continue
    const mine = onsets.filter((o) => o.at > since + OWN_MS)
    if (mine.length === 0) continue
    const otherwise = onsets.filter((o) => o.at <= since).length
    const earlier = watch.earlier?.counts[index] ?? 0
    const rate = (otherwise + earlier + UNSEEN) / (before + UNSEEN / UNSEEN_PER_MS)
    const levels = levelsOf(mine, watch.unrest(index))
    // As often as a hand goes through the positions, and to as many levels as there are.
    const fits = levelsFit(levels.length, positions)
    // Who goes on moving is no likelier for that: a hand goes through the positions once.
    const usual = Math.min(mine.length, positions ?? 3)
    const score =
      usual * Math.log(1 / (rate * span)) +
      mine.slice(0, usual).reduce((n, o) => n + clean(o), 0) +
      fits +
      (isWritable(index) ? WRITABLE : 0) -
      1.2 * Math.min(otherwise, 20) -
      // What follows begins later than what leads.
      ((mine[0] as Onset).at - since) / 10_000
    scored.push({ index, partner: null, score, atMarks: mine, otherwise, earlier, levels })
  }
  return certain(scored.sort(byScore).slice(0, most)).map((c) => ({ ...c, delayMs: 0 }))
}

/** Why a candidate of two touches stands where it stands, in words. */
export const touchWords = (c: Candidate): string => {
  const other = c.otherwise === 0 ? 'never before' : `${count(c.otherwise, 'time')} before`
  return `moved ${count(c.atMarks.length, 'time')} since, ${other}; ${count(c.levels.length, 'level')}`
}
