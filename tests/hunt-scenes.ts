import { rankHunt } from '../src/core/scope/hunt'
import { HuntWatch } from '../src/core/scope/hunt-watch'
import { randomFrom } from '../src/standins/craft/world'

const STEP_MS = 33
/** Scope is open for a while before somebody hunts. */
const LISTENS_MS = 20_000

type Random = () => number
const gauss = (r: Random): number => Math.sqrt(-2 * Math.log(1 - r())) * Math.cos(2 * Math.PI * r())
const wait = (r: Random, mean: number): number => -mean * Math.log(1 - r())

/** What a value is at a time, told again only when it is another. */
type Mover = (t: number) => number

/**
 * Those that move by themselves, as simulators have them: most all the time, some to and fro, some ever on, some by steps, some
 * as something else switches them. What stirs once in a minute is told from what the hand moves by nobody after one operation.
 */
const noisy = (r: Random): Mover => {
  const kind = r()
  if (kind < 0.7) {
    const size = 1 + 50 * r()
    let v = 100 * r()
    return () => (v += (r() - 0.5) * size)
  }
  if (kind < 0.85) {
    const period = 1000 + 9000 * r()
    const phase = r() * 7
    return (t) => Math.sin(phase + (t / period) * 6.28) * 20
  }
  if (kind < 0.92) {
    const rate = r() - 0.5
    return (t) => rate * t
  }
  if (kind < 0.97) {
    const every = 500 + 5500 * r()
    const phase = r() * every
    return (t) => Math.floor((t + phase) / every)
  }
  const mean = 500 + 3500 * r()
  let next = wait(r, mean)
  let v = 0
  return (t) => {
    while (t > next) {
      next += wait(r, mean)
      v = 1 - v
    }
    return v
  }
}

interface Scene {
  readonly size: number
  readonly noise: number
  readonly random: Random
  /** Times at which the hand operates. */
  readonly operated: readonly number[]
}

/** Each kind of what a hand moves, as its value at a time. */
export const kinds: Readonly<Record<string, (s: Scene) => Mover>> = {
  'a toggle':
    ({ operated }) =>
    (t) =>
      operated.filter((o) => o <= t).length % 2,
  'a switch of three positions':
    ({ operated }) =>
    (t) =>
      [4, 0, 9, 0][operated.filter((o) => o <= t).length % 4] as number,
  'a flag that comes and goes':
    ({ operated }) =>
    (t) =>
      operated.some((o) => o <= t && t < o + 200) ? 1 : 0,
  'a wheel that travels for six seconds': ({ operated }) => {
    let v = 0
    let before = 0
    return (t) => {
      const goal = operated.filter((o) => o <= t).length % 2
      const by = (t - before) / 6000
      before = t
      v += Math.max(-by, Math.min(by, goal - v))
      return v
    }
  },
  'a lever with noise on it': ({ operated, random }) => {
    return (t) => 20 + 25 * (operated.filter((o) => o <= t).length % 2) + 0.2 * gauss(random)
  },
  'a knob':
    ({ operated }) =>
    (t) =>
      operated.filter((o) => o <= t).length * 0.5,
}

/** Others that hang on it: they follow later, and slowly. */
const follower = (it: Mover, late: number): Mover => {
  let v = 0
  return (t) => {
    v += (it(t - late) - v) * 0.03
    return Math.round(v * 1000) / 1000
  }
}

export interface Run {
  readonly watch: HuntWatch
  readonly marks: readonly number[]
  readonly now: number
  readonly right: number
}

export const run = (kind: (s: Scene) => Mover, operations: number, seed: number, size = 2000): Run => {
  const random = randomFrom(seed)
  const gap = 3500
  const operated = Array.from(
    { length: operations },
    (_, i) => LISTENS_MS + i * gap + 400 * gauss(random) * 0.3,
  )
  const scene = { size, noise: size * 0.4, random, operated }
  const marks = operated.map((o) => o + 150 + 250 * gauss(random))
  const right = Math.floor(random() * size)
  const it = kind(scene)
  const movers = new Map<number, Mover>()
  for (let i = 0; i < scene.noise; i++) movers.set(Math.floor(random() * size), noisy(random))
  for (let i = 0; i < 3; i++)
    movers.set(Math.floor(random() * size), follower(kind(scene), 300 + 600 * random()))
  movers.set(right, it)
  const watch = new HuntWatch(size, 0)
  for (let i = 0; i < size; i++) watch.begin(i, 0)
  const now = (operated.at(-1) as number) + 3000
  const told = new Float64Array(size)
  for (const [i, mover] of movers) {
    told[i] = mover(0)
    watch.begin(i, told[i] as number)
  }
  for (let t = STEP_MS; t < now; t += STEP_MS)
    for (const [i, mover] of movers) {
      const v = mover(t)
      if (v === told[i]) continue
      told[i] = v
      watch.note(i, v, t)
    }
  return { watch, marks, now, right }
}

export const isTop = ({ watch, marks, now, right }: Run): boolean =>
  rankHunt(watch, marks, now)[0]?.index === right

/** What a builder would do without a hunt: look at what changed least, though it did change. */
export const byCount = ({ watch, right }: Run): boolean => {
  let best = -1
  for (let i = 0; i < watch.size; i++)
    if (
      (watch.changes[i] as number) > 0 &&
      (best < 0 || (watch.changes[i] as number) < (watch.changes[best] as number))
    )
      best = i
  return best === right
}

/** A plain correlation: the share of its beginnings that fall near a mark, times the share of marks near which it begins. */
export const byCorrelation = ({ watch, marks, right }: Run): boolean => {
  const near = (at: number) => marks.some((m) => Math.abs(at - m) < 1000)
  let best = -1
  let most = 0
  for (let i = 0; i < watch.size; i++) {
    const onsets = watch.onsets[i] as { at: number }[]
    if (onsets.length === 0) continue
    const hits = onsets.filter((o) => near(o.at)).length
    const score = (hits / (watch.counts[i] as number)) * (hits / marks.length)
    if (score > most) {
      most = score
      best = i
    }
  }
  return best === right
}
