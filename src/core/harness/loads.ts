import { USB_MILLIAMPS } from '../catalogue/board-model'
import { railOf } from '../catalogue/boards'
import { expanderKind } from '../catalogue/expanders'
import { modelOf } from '../catalogue/own-board'
import { kindOf } from '../catalogue/own-kind'
import { leadsOf, linesOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { Milliamps } from '../units-of-measure'
import { drawsOf } from './draws'
import { lampCircuit } from './lamp-circuit'

/** Current in everyday use, and with everything lit or stalled at once. */
export interface Load {
  typical: Milliamps
  most: Milliamps
}

/** A current through one pin, or through a coil between two. */
export interface PinFlow {
  readonly pins: readonly string[]
  /** Which way it goes; a coil's goes either way, out of one pin and into the other. */
  readonly way: 'giving' | 'taking' | 'either'
  readonly milliamps: Milliamps
}

export interface BoardLoad {
  /** By pin, what flows through it at most. */
  readonly pins: ReadonlyMap<string, Milliamps>
  /** Everything that flows through pins, each current once: a coil lies between two of them. */
  readonly flows: readonly PinFlow[]
  /** What all pins give together, and what they take in. */
  readonly allPins: Load
  readonly taken: Load
  /** What parts and expanders take from the board's own contacts, by contact. */
  readonly rails: ReadonlyMap<string, Load>
  /** Everything that has to come in by the cable, or from the supply that feeds the board. */
  readonly total: Load
  /** What feeds it: null for its cable. */
  readonly supplyId: string | null
  readonly limit: Milliamps
}

export interface Loads {
  readonly boards: ReadonlyMap<string, BoardLoad>
  readonly expanders: ReadonlyMap<
    string,
    { readonly channels: ReadonlyMap<number, Milliamps>; readonly all: Load }
  >
  readonly supplies: ReadonlyMap<string, Load>
}

/** So many of a cockpit's lamps are lit in everyday use; most annunciators are dark. */
const LIT_SHARE = 0.4

const load = (): Load => ({ typical: 0, most: 0 })
const at = <K>(map: Map<K, Load>, key: K): Load => {
  let found = map.get(key)
  if (!found) {
    found = load()
    map.set(key, found)
  }
  return found
}
const add = (to: Load, typical: Milliamps, most: Milliamps): void => {
  to.typical += typical
  to.most += most
}

class Summing {
  readonly pins = new Map<string, Map<string, Milliamps>>()
  readonly allPins = new Map<string, Load>()
  readonly taken = new Map<string, Load>()
  readonly flows = new Map<string, PinFlow[]>()
  readonly rails = new Map<string, Map<string, Load>>()
  readonly channels = new Map<string, Map<number, Milliamps>>()
  readonly throughExpander = new Map<string, Load>()
  readonly supplies = new Map<string, Load>()

  constructor(private readonly rig: Rig) {
    for (const part of rowsOf(rig, 'part')) {
      this.addLamp(part)
      this.addFed(part)
      this.addMotors(part)
    }
    for (const expander of rowsOf(rig, 'expander')) {
      const kind = expanderKind(expander.kind)
      const plus = linesOf(rig, expander.id).find((l) => l.terminal === 'plus')
      if (!kind || !plus) continue
      const given = kind.sinks ? load() : (this.throughExpander.get(expander.id) ?? load())
      const { typicalMa, mostMa } = kind.draws
      this.from(plus, typicalMa * expander.chips + given.typical, mostMa * expander.chips + given.most)
    }
  }

  /** Takes current from wherever a supply lead goes. */
  private from(
    lead: { boardId: string | null; pin: string | null; supplyId: string | null },
    typical: Milliamps,
    most: Milliamps,
  ): void {
    if (lead.supplyId !== null) add(at(this.supplies, lead.supplyId), typical, most)
    if (lead.boardId === null || lead.pin === null) return
    const rails = this.rails.get(lead.boardId) ?? new Map<string, Load>()
    this.rails.set(lead.boardId, rails)
    add(at(rails, lead.pin), typical, most)
  }

  private throughPin(boardId: string, pin: string, most: Milliamps): void {
    const pins = this.pins.get(boardId) ?? new Map<string, Milliamps>()
    this.pins.set(boardId, pins)
    pins.set(pin, (pins.get(pin) ?? 0) + most)
  }

  private flow(boardId: string, flow: PinFlow): void {
    const flows = this.flows.get(boardId) ?? []
    this.flows.set(boardId, flows)
    flows.push(flow)
  }

  private addLamp(part: PartRow): void {
    const lamp = lampCircuit(this.rig, part)
    if (!lamp) return
    const { driven, milliamps, expander } = lamp
    const typical = milliamps * LIT_SHARE
    const kind = kindOf(part)
    const minus = kind?.terminals.find((t) => t.role === 'lamp-minus')?.id
    const sinks = driven.terminal === minus
    if (expander && driven.channel !== null) {
      const channels = this.channels.get(expander.id) ?? new Map<number, Milliamps>()
      this.channels.set(expander.id, channels)
      channels.set(driven.channel, milliamps)
      add(at(this.throughExpander, expander.id), typical, milliamps)
    } else if (driven.boardId !== null && driven.pin !== null) {
      this.throughPin(driven.boardId, driven.pin, milliamps)
      this.flow(driven.boardId, { pins: [driven.pin], way: sinks ? 'taking' : 'giving', milliamps })
      add(at(sinks ? this.taken : this.allPins, driven.boardId), typical, milliamps)
    }
    const plusId = kind?.terminals.find((t) => t.role === 'lamp-plus')?.id
    const plus = leadsOf(this.rig, part.id).find((l) => l.terminal === plusId)
    if (sinks && plus) this.from(plus, typical, milliamps)
  }

  /** Parts with a supply terminal of their own. */
  private addFed(part: PartRow): void {
    const kind = kindOf(part)
    const terminal = kind?.terminals.find((t) => t.role === 'plus')
    const plus = terminal && leadsOf(this.rig, part.id).find((l) => l.terminal === terminal.id)
    const draws = drawsOf(part)
    if (draws && plus) this.from(plus, draws.typicalMa, draws.mostMa)
  }

  /** Coils of gauge motors take their current from the pins themselves. */
  private addMotors(part: PartRow): void {
    const kind = kindOf(part)
    if (!kind?.draws) return
    const needles = kind.aspects.filter((a) => a.kind === 'needle' && a.drive === 'four-wire')
    for (const needle of needles) {
      if (needle.kind !== 'needle') continue
      const leads = leadsOf(this.rig, part.id).filter((l) => needle.terminals.includes(l.terminal))
      const most = kind.draws.mostMa / needles.length
      const typical = kind.draws.typicalMa / needles.length
      const [first] = leads
      if (first?.boardId) {
        add(at(this.allPins, first.boardId), typical, most)
        add(at(this.taken, first.boardId), typical, most)
      } else if (first?.expanderId) add(at(this.throughExpander, first.expanderId), typical, most)
      // Two coils, each between two pins: its current flows through both, and is one current.
      for (const coil of [needle.terminals.slice(0, 2), needle.terminals.slice(2, 4)]) {
        const ends = leads.filter((l) => coil.includes(l.terminal))
        for (const lead of ends)
          if (lead.boardId && lead.pin) this.throughPin(lead.boardId, lead.pin, most / 2)
        const pins = ends.flatMap((l) => l.pin ?? [])
        const boardId = ends[0]?.boardId
        if (boardId && pins.length > 0) this.flow(boardId, { pins, way: 'either', milliamps: most / 2 })
      }
    }
  }
}

const known = new WeakMap<Rig, Loads>()

/** What flows where, as everything is wired; worked out once for each version of a rig. */
export const loadsOf = (rig: Rig): Loads => {
  const found = known.get(rig) ?? findLoads(rig)
  known.set(rig, found)
  return found
}

const findLoads = (rig: Rig): Loads => {
  const sums = new Summing(rig)
  const boards = new Map<string, BoardLoad>()
  for (const board of rowsOf(rig, 'board')) {
    const model = modelOf(board)
    if (!model) continue
    const rails = sums.rails.get(board.id) ?? new Map<string, Load>()
    const allPins = sums.allPins.get(board.id) ?? load()
    const total: Load = {
      typical: model.ownMilliamps + allPins.typical,
      most: model.ownMilliamps + allPins.most,
    }
    for (const [contact, l] of rails) if (railOf(model, contact)) add(total, l.typical, l.most)
    const supply = rig.supply[board.supplyId ?? '']
    if (supply) add(at(sums.supplies, supply.id), total.typical, total.most)
    const limit = supply ? supply.maxMilliamps : USB_MILLIAMPS
    boards.set(board.id, {
      ...{ pins: sums.pins.get(board.id) ?? new Map(), allPins, rails, total, limit },
      flows: sums.flows.get(board.id) ?? [],
      taken: sums.taken.get(board.id) ?? load(),
      supplyId: supply?.id ?? null,
    })
  }
  const expanders = new Map(
    rowsOf(rig, 'expander').map((e) => [
      e.id,
      {
        channels: sums.channels.get(e.id) ?? new Map<number, Milliamps>(),
        all: sums.throughExpander.get(e.id) ?? load(),
      },
    ]),
  )
  return { boards, expanders, supplies: sums.supplies }
}
