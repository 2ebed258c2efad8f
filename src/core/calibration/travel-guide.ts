import type { Band } from '../aspects/travel'
import { FULL_LEVEL } from '../aspects/travel'
import type { Millis } from '../units-of-measure'
import type { Asking, Guide, Step } from './guide'
import { Leaving } from './leaving'
import { isStill, type Noise, noiseOf, smoothed, smoothingFor, TOLD_STEP } from './noise'
import type { Note } from './note'
import { type Ends, endsFrom, type Flaw, flawsOf } from './travel-measure'

/** It counts as resting once it has been still for so long. */
const STILL_MS: Millis = 1000
/** Before its noise is known it is taken to tremble by so much at most. */
const UNKNOWN_TREMBLE = 8
/** Two places that are further apart than this are two. */
const APART = FULL_LEVEL / 20
/** The sweep goes by stretches of travel, nearly all of which have to be seen, twice. */
const STRETCHES = 40
const ENOUGH = 0.9

/** Where a band ends, the next one begins, or both, as a hand has shown it. */
export interface ShownEdge {
  readonly ends: number | null
  readonly begins: number | null
  readonly at: number
}

/** What there is to find out about a lever. */
export interface TravelFound {
  readonly ends: Ends
  /** Pushed forward it gave less: its two ends are exchanged. */
  readonly invert: boolean
  readonly noise: Noise
  readonly smoothing: number
  /** The edges of its bands that were shown, as places between its ends. */
  readonly edges: readonly ShownEdge[]
  readonly flaws: readonly Flaw[]
}

interface Place {
  readonly id: string
  readonly words: string
  readonly says: string
}

const nameOf = (band: Band | undefined, i: number): string => band?.name ?? `band ${i + 1}`

/** An edge that a hand shows: where a band ends, where the next begins, or both where there is no gate between them. */
interface Edge extends Place {
  readonly ends: number | null
  readonly begins: number | null
}

const edgesOf = (bands: readonly Band[]): Edge[] =>
  bands.slice(1).flatMap((band, k): Edge[] => {
    const i = k + 1
    const before = nameOf(bands[k], k)
    const after = nameOf(band, i)
    if ((bands[k] as Band).to === band.from)
      return [
        {
          ...{ id: `edge ${i}`, ends: k, begins: i, words: `Where ${after} begins` },
          says: `Rest it where ${before} ends and ${after} begins.`,
        },
      ]
    return [
      {
        ...{ id: `end ${k}`, ends: k, begins: null, words: `Where ${before} ends` },
        says: `Rest it where ${before} ends.`,
      },
      {
        ...{ id: `begin ${i}`, ends: null, begins: i, words: `Where ${after} begins` },
        says: `Rest it where ${after} begins.`,
      },
    ]
  })

/** The ends of a lever, its noise, the edges of its bands, and what is wrong along its way. */
export class TravelGuide implements Guide {
  taken = 0
  objection: string | null = null
  private readonly places: readonly Place[]
  private readonly edges: readonly Edge[]
  private readonly leaving = new Leaving()
  /** Where it rested, by the step that asked for it. */
  private readonly rested = new Map<string, number>()
  private window: Note[] = []
  private all: Note[] = []
  private sweep: Note[] = []
  private noise: Noise | null = null
  private swept = new Array<number>(STRETCHES).fill(0)
  private lastStretch = -1
  private now: Millis = 0
  private flaws: readonly Flaw[] = []

  constructor(bands: readonly Band[]) {
    this.edges = edgesOf(bands)
    this.places = [
      { id: 'forward', words: 'All the way forward', says: 'Push it all the way forward.' },
      { id: 'back', words: 'All the way back', says: 'Pull it all the way back.' },
      { id: 'rest', words: 'Hands off: noise', says: 'To its middle, and hands off.' },
      ...this.edges,
    ]
  }

  private get at(): Place | undefined {
    return this.places.find((p) => !this.rested.has(p.id))
  }

  /** So far short of where it stood an end is, so that it is reached for certain: by what smoothing leaves, and a step of the board. */
  private get marginCounts(): number {
    const sigma = this.noise?.sigma ?? UNKNOWN_TREMBLE / 3
    return TOLD_STEP + 3 * smoothed(sigma, smoothingFor(sigma))
  }

  private get trembles(): number {
    return this.noise ? Math.max(1, this.noise.peak) : UNKNOWN_TREMBLE
  }

  /** Further than this from where it stood it has left. Means tell a trembling lever as finely as one of unknown noise. */
  private get apart(): number {
    return Math.min(3 * this.trembles, Math.max(3 * UNKNOWN_TREMBLE, this.trembles))
  }

  take(notes: readonly Note[]): void {
    for (const n of notes) {
      this.window.push(n)
      this.all.push(n)
      this.leaving.take(n.value, this.apart)
    }
    if (this.all.length > MOST_KEPT) this.all.splice(0, this.all.length - MOST_KEPT)
    if (this.at === undefined && !this.isDone) this.goThrough(notes)
  }

  pass(now: Millis): void {
    this.now = now
    const from = (now - STILL_MS) * 1000
    while (this.window[0] && this.window[0].at < from) this.window.shift()
    const { at } = this
    if (!at || !this.isResting) return
    this.rest(
      at,
      this.window.map((n) => n.value),
    )
  }

  private get isResting(): boolean {
    const first = this.window[0]
    const last = this.window.at(-1)
    if (!first || !last || last.at - first.at < STILL_MS * 900) return false
    return isStill(
      this.window.map((n) => n.value),
      this.trembles,
    )
  }

  private rest(at: Place, levels: readonly number[]): void {
    const noise = noiseOf(levels)
    if (!noise) return
    if (!this.leaving.hasLeft) return
    this.objection = this.objectionTo(at, noise.middle)
    if (this.objection !== null) return
    if (at.id === 'rest') this.noise = noise
    this.rested.set(at.id, noise.middle)
    this.leaving.standsAt(noise.middle, levels.length)
    this.window = []
    this.taken++
  }

  /** Why it cannot be meant to rest there. */
  private objectionTo(at: Place, level: number): string | null {
    const forward = this.rested.get('forward')
    const back = this.rested.get('back')
    if (forward === undefined) return null
    if (back === undefined)
      return Math.abs(level - forward) < APART
        ? 'That is hardly anywhere else than forward: pull it all the way back.'
        : null
    const share = (level - back) / (forward - back)
    if (share < -0.01 || share > 1.01)
      return 'That is beyond its ends. Begin anew if it goes further than you showed.'
    const i = this.edges.indexOf(at as Edge)
    const before = this.edges[i - 1]
    const edge = before ? this.rested.get(before.id) : undefined
    if (i > 0 && edge !== undefined && share <= (edge - back) / (forward - back) + 0.002)
      return 'That lies below the edge before it: push it further forward.'
    return null
  }

  private goThrough(notes: readonly Note[]): void {
    const found = this.ends
    if (!found) return
    for (const n of notes) {
      this.sweep.push(n)
      const share = (n.value / FULL_LEVEL - found.low) / (found.high - found.low)
      const stretch = Math.min(STRETCHES - 1, Math.max(0, Math.floor(share * STRETCHES)))
      if (stretch !== this.lastStretch) this.swept[stretch] = (this.swept[stretch] ?? 0) + 1
      this.lastStretch = stretch
    }
    const isOver = this.sweptShare >= 1
    if (isOver || this.sweep.length > MOST_SWEPT) this.keepFlaws()
    if (isOver) this.taken++
  }

  /** What was seen so far is kept as what was wrong in it: nobody knows how long a lever is left alone in the middle of its way. */
  private keepFlaws(): void {
    const isKnown = (f: Flaw) => this.flaws.some((g) => g.kind === f.kind && g.from <= f.to && f.from <= g.to)
    this.flaws = [...this.flaws, ...flawsOf(this.sweep, this.trembles).filter((f) => !isKnown(f))]
    this.sweep = this.sweep.slice(-1)
  }

  /** How much of the way there and back has been gone, of what is enough. */
  private get sweptShare(): number {
    const twice = this.swept.reduce((sum, n) => sum + Math.min(2, n), 0)
    return Math.min(1, twice / (2 * STRETCHES * ENOUGH))
  }

  private get ends(): (Ends & { isSwapped: boolean }) | null {
    const forward = this.rested.get('forward')
    const back = this.rested.get('back')
    return forward === undefined || back === undefined ? null : endsFrom(forward, back, this.marginCounts)
  }

  /** Every level of the last while, for a drawing. */
  get seen(): readonly Note[] {
    return this.all
  }

  get result(): TravelFound | null {
    const found = this.ends
    if (!found || !this.noise || this.at !== undefined) return null
    const { low, high, isSwapped } = found
    return {
      ends: { low, high },
      invert: isSwapped,
      noise: this.noise,
      smoothing: smoothingFor(this.noise.sigma),
      edges: this.edgesBetween(low, high, isSwapped),
      flaws: this.flaws,
    }
  }

  private edgesBetween(low: number, high: number, isSwapped: boolean): ShownEdge[] {
    return this.edges.flatMap(({ id, ends, begins }) => {
      const level = this.rested.get(id)
      if (level === undefined) return []
      const share = (level / FULL_LEVEL - low) / (high - low)
      const place = Math.min(0.999, Math.max(0.001, isSwapped ? 1 - share : share))
      return [{ ends, begins, at: Number(place.toFixed(4)) }]
    })
  }

  get isDone(): boolean {
    return this.at === undefined && this.sweptShare >= 1
  }

  get steps(): readonly Step[] {
    return [
      ...this.places.map((p) => ({ id: p.id, words: p.words, done: this.rested.has(p.id) })),
      { id: 'sweep', words: 'Slowly through all', done: this.isDone },
    ]
  }

  get asking(): Asking {
    const { at } = this
    if (at) {
      const first = this.window[0]
      const still = first ? Math.min(1, (this.now - first.at / 1000) / STILL_MS) : 0
      const isQuiet = isStill(
        this.window.slice(-300).map((n) => n.value),
        this.trembles,
      )
      return {
        says: at.says,
        hint: this.leaving.hasLeft
          ? 'Taken by itself when it has been still for a second.'
          : 'It is taken once it has moved and rests there.',
        share: isQuiet && this.leaving.hasLeft && this.objection === null ? still : 0,
      }
    }
    if (!this.isDone)
      return {
        says: 'Slowly from end to end, and back.',
        hint: 'To see whether its track is whole. Take about three seconds each way.',
        share: this.sweptShare,
      }
    return { says: 'It is measured.', hint: 'Its settings are set; undo takes them back.', share: null }
  }
}

/** Ten seconds of samples for a drawing, and twenty of a sweep. */
const MOST_KEPT = 10_000
const MOST_SWEPT = 20_000
