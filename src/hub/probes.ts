import type { Nature } from '../core/aspects/nature'
import type { Engine } from '../core/engine/engine'
import type { ControlUnit } from '../core/engine/units'
import { pinsOf } from '../core/harness/slot'
import { isWired } from '../core/harness/wiring'
import type { FromHub, ProbedAspect } from '../core/live/feed'
import { sameValue } from '../core/rig/edit'
import type { Micros } from '../core/units-of-measure'
import type { Likeness } from '../links/hand-link'
import type { SlotNoted } from '../links/notes'
import type { BoardClient } from './board-client'
import type { Probe } from './board-talk'
import type { Tab } from './tab'

/** More notes than a board makes in this time have piled up because this process stood still: the oldest go. */
const MOST_A_TURN = 1000

/** What the probes need to know of boards. */
export interface ProbedBoards {
  readonly client: (boardId: string) => BoardClient | undefined
  /** A simulated board runs as finely as a real one while something on it is measured. */
  readonly attend: (identity: string, on: boolean) => void
  /** What hangs on a simulated board is really like; undefined of one that has said nothing of that. */
  readonly likeness: (
    identity: string,
  ) => { readonly at: Micros; readonly natures: readonly Likeness[] } | undefined
}

/** Whoever watches boards on which nobody measures anything just now. */
export interface AlwaysWatching {
  /** What a board is to note for it. */
  wants(boardId: string): Probe
  noted(boardId: string, notes: readonly SlotNoted[]): void
}

interface Seat {
  readonly boardId: string
  readonly slot: number
  readonly identity: string
  readonly places: readonly number[]
}

/** What a control is really like; and since when in its board's time, until something noted later has come. */
interface Really {
  readonly nature: Nature | null
  readonly since: Micros | null
}

/** Notes are on their way for less than this. */
const LATEST_US: Micros = 60_000_000
const ROUND = 2 ** 32

/** Whether a board noted something before a time of its own, of which it tells the lower 32 bits. */
const isBefore = (noted: Micros, since: Micros): boolean => {
  const age = (((since - noted) % ROUND) + ROUND) % ROUND
  return age < LATEST_US
}

interface Watched {
  readonly of: ProbedAspect
  /** The board, and the slot there, or why there is none. */
  seat: Seat | null
  /** Null until its board has said. */
  really: Really | null
  problem: string | null
  notes: [number, number][]
  left: number
  toldProblem: string | null | undefined
}

/**
 * Who measures what. A tab that measures an input has its board note it as it comes; of several on one board the one that
 * asked last has it. What is left of the boards' attention notes the contacts of all, for whoever watches them for long.
 */
export class Probes {
  private readonly watched = new Map<Tab, Watched>()
  private readonly twins = new Map<Tab, ProbedAspect>()
  private readonly attended = new Set<string>()

  constructor(
    private readonly engine: Engine,
    private readonly boards: ProbedBoards,
    private readonly always: AlwaysWatching,
  ) {}

  /** A tab measures this from now on, or nothing. */
  watch(tab: Tab, of: ProbedAspect | null): void {
    this.watched.delete(tab)
    if (of)
      this.watched.set(tab, {
        of,
        seat: null,
        really: null,
        problem: null,
        notes: [],
        left: 0,
        toldProblem: undefined,
      })
    this.match()
  }

  /** A lever is moved along with the one that a tab measures. */
  watchTwin(tab: Tab, of: ProbedAspect | null): void {
    if (of) this.twins.set(tab, of)
    else this.twins.delete(tab)
  }

  private seatOf({ partId, aspectId }: ProbedAspect): ControlUnit | undefined {
    return this.engine.units.get(partId)?.controls.find((c) => c.aspect.id === aspectId)
  }

  /** Looks where everything hangs now, and has each board note what is wanted of it. */
  match(): void {
    const wanted = new Map<string, { slot: number; by: Watched }>()
    for (const w of this.watched.values()) {
      const found = this.place(w.of)
      w.seat = typeof found === 'string' ? null : found
      w.problem = typeof found === 'string' ? found : null
      if (!w.seat) continue
      const before = wanted.get(w.seat.boardId)
      if (before && before.slot !== w.seat.slot) {
        before.by.problem = 'another window measures something on the same board'
        before.by.seat = null
      }
      wanted.set(w.seat.boardId, { slot: w.seat.slot, by: w })
    }
    for (const boardId of Object.keys(this.engine.rig.board)) {
      const client = this.boards.client(boardId)
      if (!client || client.noteObjection !== null) continue
      const slot = wanted.get(boardId)?.slot
      client.probe(slot ?? this.always.wants(boardId))
      this.attend(client.identity, slot !== undefined)
    }
  }

  private attend(identity: string, on: boolean): void {
    if (this.attended.has(identity) === on) return
    if (on) this.attended.add(identity)
    else this.attended.delete(identity)
    this.boards.attend(identity, on)
  }

  /** The stand-ins are new: they know of nothing that is measured. */
  attendAnew(): void {
    this.attended.clear()
    this.match()
  }

  /** Where an aspect hangs on a board that can note it, or why not. */
  private place(of: ProbedAspect): Seat | string {
    const seat = this.seatOf(of)
    if (!seat) return 'it is not on the panel any more'
    if (!isWired(seat.wiring)) return seat.wiring.message
    const { boardId } = seat.wiring
    const name = this.engine.rig.board[boardId]?.name ?? 'its board'
    const client = this.boards.client(boardId)
    if (!client) return `${name} is away`
    if (seat.slot < 0) return `${name} is not loaded with it`
    if (client.noteObjection !== null) return `the program of ${name} ${client.noteObjection}`
    const { slot, wiring } = seat
    return { boardId, slot, identity: client.identity, places: pinsOf(wiring.slot) }
  }

  /** A board has noted something. */
  take(boardId: string, notes: readonly SlotNoted[], left: number): void {
    let isMeasured = false
    for (const w of this.watched.values()) {
      if (w.seat?.boardId !== boardId) continue
      isMeasured = true
      w.left = left
      const { slot } = w.seat
      for (const n of notes) if (n.slot === slot) w.notes.push([n.at / 1000, n.value])
      if (w.notes.length > MOST_A_TURN) w.notes.splice(0, w.notes.length - MOST_A_TURN)
    }
    if (!isMeasured) this.always.noted(boardId, notes)
  }

  /** Whether a simulated control has become another; what was noted of it before is not told any more. */
  private looksAgain(w: Watched): boolean {
    if (!w.seat) return false
    const { identity, places } = w.seat
    const likeness = this.boards.likeness(identity)
    const nature = likeness?.natures.find((n) => n.places[0] === places[0])?.nature ?? null
    if (w.really === null) {
      w.really = { nature, since: null }
      return true
    }
    // Stand-ins that are new have yet to say.
    const isOther = likeness !== undefined && !sameValue(nature, w.really.nature)
    if (isOther) w.really = { nature, since: likeness.at }
    const { since } = w.really
    if (since === null) return isOther
    w.notes = w.notes.filter(([ms]) => !isBefore(Math.round(ms * 1000), since))
    if (w.notes.length > 0) w.really = { nature: w.really.nature, since: null }
    return isOther
  }

  /** Tells each tab what has been noted since the last turn. */
  tell(): void {
    for (const [tab, w] of this.watched) {
      const isOther = this.looksAgain(w)
      if (w.notes.length === 0 && w.problem === w.toldProblem && !isOther) continue
      w.toldProblem = w.problem
      const along = this.twins.get(tab)
      const twin = along ? (this.seatOf(along)?.raw ?? null) : null
      const message: FromHub = {
        ...{ say: 'probed', ...w.of, notes: w.notes, left: w.left },
        ...{ problem: w.problem, twin, nature: w.really?.nature ?? null },
      }
      w.notes = []
      tab.send(message)
    }
  }

  leave(tab: Tab): void {
    this.twins.delete(tab)
    if (this.watched.has(tab)) this.watch(tab, null)
  }
}
