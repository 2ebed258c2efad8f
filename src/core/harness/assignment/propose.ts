import type { BoardModel } from '../../catalogue/board-model'
import { expanderKind, expanderKinds } from '../../catalogue/expanders'
import { modelOf, ownOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { apply, type Change, changeRow, type Diff, sameValue, squash } from '../../rig/edit'
import { leadsOf, leadsOnBoard, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, PartRow } from '../../rig/rows'
import { throughArray } from '../between'
import { drawsOf } from '../draws'
import {
  type Beginning,
  beginningOf,
  beginningWords,
  endOfLead,
  endWords,
  type LeadEnd,
  leadAt,
  leadTo,
  nextNumber,
  terminalsOf,
} from '../leads'
import { shortName } from '../new-expander'
import { assign, type Search } from './assign'
import { ability, type Need } from './instance'
import { type AssignmentScope, type RigInstance, rigInstance } from './rig-instance'

/** One wire of a proposal: where it begins and ends, and where it ended before. */
export interface ProposedWire {
  readonly from: Beginning
  readonly number: number
  readonly words: string
  /** Null for a wire that is new. */
  readonly was: string | null
  readonly becomes: string
}

/** What there is too little of. */
export interface Shortage {
  readonly ability: keyof typeof ability
  readonly wires: number
  readonly words: string
  /** What would cure it, in words. */
  readonly cure: string
}

/** An assignment as an edit that is not made yet. */
export interface Proposal {
  readonly changes: Diff
  /** Wires that are new or move; those that stay are only counted. */
  readonly wires: readonly ProposedWire[]
  readonly kept: number
  /** Parts that found no place. */
  readonly unplaced: readonly string[]
  /** Whether it is certain that there is no place for them. */
  readonly proven: boolean
  readonly shortages: readonly Shortage[]
  readonly cost: number
}

/** Parts that take more than this are fed by a supply of their own where there is one. */
const RAIL_PART_MILLIAMPS = 100

/** Assigns the wires in scope; what is wired stays as far as that is possible. */
export const propose = (
  rig: Rig,
  scope: AssignmentScope,
  id: () => string,
  search: Search = 'all',
): Proposal => {
  const built = rigInstance(rig, scope)
  const solution = assign(built.instance, search)
  const wiring = new Rewiring(rig, id)
  for (const [n, wire] of built.wires.entries()) {
    const end = built.ends[solution.assignment[n] ?? -1]
    if (!wire || !end) continue
    const stays = wire.lead && sameValue(endOfLead(wire.lead), end)
    const coilEnd = wire.isCoil && end.at === 'contact' && !stays ? end : null
    if (coilEnd && wiring.putCoil(wire.from.id, coilEnd)) continue
    if (wire.lampMinus === undefined) wiring.put(wire.from, end)
    else wiring.putLamp(wire.from.id, wire.lampMinus, end)
  }
  const unplaced = ownersOf(built, solution.unplaced)
  for (const part of rowsOf(rig, 'part'))
    if ((!scope.partIds || scope.partIds.has(part.id)) && !unplaced.has(part.id)) wiring.finishPart(part)
  for (const expander of rowsOf(rig, 'expander')) wiring.finishExpander(expander.id)
  return {
    ...wiring.result(),
    unplaced: [...unplaced],
    proven: solution.proven,
    shortages: shortagesOf(built, solution.assignment, solution.unplaced),
    cost: placedCost(solution.cost, solution.unplaced.length),
  }
}

/** Parts and expanders some of whose wires found no place. */
const ownersOf = (built: RigInstance, blocks: readonly number[]): Set<string> => {
  const out = new Set(blocks)
  const owners = new Set<string>()
  for (const [n, need] of built.instance.needs.entries()) {
    const from = built.wires[n]?.from
    if (from && out.has(need.block)) owners.add(from.id)
  }
  return owners
}

/** What an assignment would leave over, reckoned quickly and without its wires. */
export interface Weighed extends Pick<Proposal, 'unplaced' | 'shortages' | 'cost'> {
  readonly wires: number
}

export const weigh = (rig: Rig, scope: AssignmentScope): Weighed => {
  const built = rigInstance(rig, scope)
  const solution = assign(built.instance, 'quick')
  return {
    unplaced: [...ownersOf(built, solution.unplaced)],
    shortages: shortagesOf(built, solution.assignment, solution.unplaced),
    cost: placedCost(solution.cost, solution.unplaced.length),
    wires: built.instance.needs.length,
  }
}

/** What has no place costs more than anything that has. */
const placedCost = (cost: number, unplaced: number): number =>
  Number.isFinite(cost) ? cost : 1_000_000 * unplaced

/** Gathers the changes of wires one after the other. */
class Rewiring {
  private now: Rig
  private readonly changes: Change[] = []
  private readonly moved = new Map<string, { from: Beginning; was: LeadEnd | null }>()
  private number: number

  constructor(
    private readonly before: Rig,
    private readonly id: () => string,
  ) {
    this.now = before
    this.number = nextNumber(before)
  }

  put(from: Beginning, end: LeadEnd): void {
    const lead = leadAt(this.now, from)
    const change = leadTo(this.now, from, end, this.id, this.number)
    if (!change) return
    if (change.op === 'add') this.number++
    if (!this.moved.has(change.id)) this.moved.set(change.id, { from, was: lead ? endOfLead(lead) : null })
    this.changes.push(change)
    this.now = apply(this.now, [change])
  }

  /** A lamp hangs with its plus where current is given, and with its minus where it is taken in. */
  putLamp(partId: string, minus: string, end: LeadEnd): void {
    const part = this.now.part[partId]
    const plus = part && kindOf(part)?.terminals.find((t) => t.role === 'lamp-plus')?.id
    if (!part || plus === undefined) return
    const expander = end.at === 'channel' ? this.now.expander[end.expanderId] : undefined
    const sinks = expanderKind(expander?.kind ?? '')?.sinks === true
    const at = (terminal: string): Beginning => ({ of: 'part', id: partId, terminal })
    if (sinks) {
      this.put(at(minus), end)
      const rail = this.plusFor(part, this.boardAt(end))
      if (rail) this.put(at(plus), rail)
    } else {
      const lead = leadAt(this.now, at(minus))
      const wasDriven = lead !== undefined && endOfLead(lead).at !== 'ground'
      this.put(at(plus), end)
      if (wasDriven) this.put(at(minus), { at: 'ground' })
    }
  }

  /** A coil hangs on a switch array that follows the pin; the array comes along where none has room. False without a supply. */
  putCoil(partId: string, end: Extract<LeadEnd, { at: 'contact' }>): boolean {
    const part = this.now.part[partId]
    const board = this.now.board[end.boardId]
    if (!part || !board) return false
    const changes = throughArray(this.now, part, board, null, this.id, end.pin)
    this.changes.push(...changes)
    this.now = apply(this.now, changes)
    this.number = nextNumber(this.now)
    for (const change of changes) {
      const lead = change.table === 'lead' ? this.now.lead[change.id] : undefined
      const before = this.before.lead[change.id]
      if (lead) this.moved.set(lead.id, { from: beginningOf(lead), was: before ? endOfLead(before) : null })
    }
    return changes.length > 0
  }

  /** What is left of a part's terminals: to ground, and to a supply that can feed it. */
  finishPart(part: PartRow): void {
    const board = this.boardOfPart(part)
    for (const terminal of terminalsOf(this.now, 'part', part.id)) {
      const from: Beginning = { of: 'part', id: part.id, terminal: terminal.id }
      if (leadAt(this.now, from)) continue
      const { role } = terminal
      if (role === 'common' || role === 'ground' || role === 'lamp-minus') this.put(from, { at: 'ground' })
      if (role !== 'plus' || !board) continue
      const rail = this.plusFor(part, board)
      if (rail) this.put(from, rail)
    }
  }

  finishExpander(id: string): void {
    const expander = this.now.expander[id]
    const board = this.now.board[expander?.boardId ?? '']
    if (!expander || !board) return
    for (const { id: terminal, role } of terminalsOf(this.now, 'expander', id)) {
      const from: Beginning = { of: 'expander', id, terminal }
      if (leadAt(this.now, from)) continue
      if (role === 'ground') this.put(from, { at: 'ground' })
      const rail = role === 'plus' ? railAt(board, (v) => v === modelOf(board)?.logicVolts) : null
      if (rail) this.put(from, rail)
    }
  }

  private boardAt(end: LeadEnd): BoardRow | undefined {
    const id =
      end.at === 'contact'
        ? end.boardId
        : end.at === 'channel'
          ? this.now.expander[end.expanderId]?.boardId
          : ''
    return this.now.board[id ?? '']
  }

  private boardOfPart(part: PartRow): BoardRow | undefined {
    for (const lead of leadsOf(this.now, part.id)) {
      const board = this.boardAt(endOfLead(lead))
      if (board) return board
    }
    return undefined
  }

  /** Where a part's plus goes: what is measured to the board's own logic supply, what takes much to a supply that has it. */
  private plusFor(part: PartRow, board: BoardRow | undefined): LeadEnd | null {
    const kind = kindOf(part)
    const model = modelOf(board)
    if (!kind || !board || !model) return null
    if (kind.terminals.some((t) => t.role === 'wiper')) return railAt(board, (v) => v === model.logicVolts)
    const most = drawsOf(part)?.mostMa ?? kind.electrical?.milliamps ?? 0
    const large = rowsOf(this.now, 'supply').find(
      (s) => s.volts === 5 && s.groundJoined && s.maxMilliamps >= 1000 && s.id !== board.supplyId,
    )
    const many = kind.electrical !== undefined
    if (large && (many || most > RAIL_PART_MILLIAMPS)) return { at: 'supply', supplyId: large.id }
    return railAt(board, (v) => v === 5) ?? railAt(board, () => true)
  }

  result(): Pick<Proposal, 'changes' | 'wires' | 'kept'> {
    const wires: ProposedWire[] = []
    for (const [leadId, { from, was }] of this.moved) {
      const lead = this.now.lead[leadId]
      if (!lead) continue
      const end = endOfLead(lead)
      if (was !== null && sameValue(was, end)) continue
      wires.push({
        ...{ from, number: lead.number, words: beginningWords(this.now, from) },
        was: was === null ? null : endWords(this.before, was),
        becomes: endWords(this.now, end),
      })
    }
    wires.sort((a, b) => a.number - b.number)
    const kept = rowsOf(this.before, 'lead').length - wires.filter((w) => w.was !== null).length
    return { changes: squash([this.changes]), wires, kept }
  }
}

/** A contact of a board that gives such a voltage. */
const railAt = (board: BoardRow, fits: (volts: number) => boolean): LeadEnd | null => {
  const rail = modelOf(board)?.rails.find((r) => fits(r.volts))
  return rail ? { at: 'contact', boardId: board.id, pin: rail.contact } : null
}

const shortWords: Partial<Record<keyof typeof ability, string>> = {
  contact: 'a pin with a pull-up, or a channel that reads contacts',
  wiper: 'an analog pin, or a channel that can measure',
  lamp: 'a pin that can be driven, or a channel for lamps',
  drive: 'a pin that can be driven',
  servo: 'a pin that can be driven, or a channel for servos',
  coil: 'a pin that can be driven, or a driver for gauge motors',
  signal: 'a pin with a pull-up',
  'two-wire-data': 'the board’s two-wire data pin',
  'two-wire-clock': 'the board’s two-wire clock pin',
  inductive: 'a switch array that can take a coil',
}

/** Of which ability there is too little, most wires first. */
const shortagesOf = (
  { instance }: RigInstance,
  assignment: Int32Array,
  unplaced: readonly number[],
): Shortage[] => {
  const out = new Set(unplaced)
  const wires = new Map<number, number>()
  const reached = instance.inUse.map((_, h) =>
    unplaced.some((b) => Number.isFinite(instance.blocks[b]?.hostCost[h] ?? Number.POSITIVE_INFINITY)),
  )
  for (const need of instance.needs) {
    if (out.has(need.block)) wires.set(need.abilities, (wires.get(need.abilities) ?? 0) + 1)
  }
  const used = new Set(assignment)
  return [...wires]
    .map(([abilities, count]) => {
      const able = instance.sites.flatMap((s, i) =>
        reached[s.host] && (s.abilities & abilities) === abilities ? [i] : [],
      )
      const free = able.filter((i) => !used.has(i)).length
      const name = nameOf(abilities)
      const words = `${count} ${count === 1 ? 'wire needs' : 'wires need'} ${shortWords[name] ?? name}; ${
        able.length === 0 ? 'there is none' : `of ${able.length}, ${free} ${free === 1 ? 'is' : 'are'} free`
      }${free >= count ? ', but not together on one board as they have to be' : ''}`
      return { ability: name, wires: count, words, cure: cureWords(name) }
    })
    .sort((a, b) => b.wires - a.wires)
}

/** Expanders that give an ability, and else another board. */
const cureWords = (name: keyof typeof ability): string => {
  const kinds = expanderKinds.filter((k) =>
    name === 'inductive' ? k.inductive : k.abilities.some((a) => a === name),
  )
  const chips = kinds.map(shortName).join(', ')
  return chips === '' ? 'another board' : `another board, or an expander that has it: ${chips}`
}

const nameOf = (abilities: Need['abilities']): keyof typeof ability => {
  const names = Object.keys(ability) as (keyof typeof ability)[]
  return names.find((n) => (ability[n] & abilities) !== 0) ?? 'drive'
}

/**
 * Puts a board of another model in the place of one: wires go to the pins of the same name where those will do, and
 * anywhere else where not. Every wire on the board is listed, since each has to be moved.
 */
export const proposeModel = (rig: Rig, board: BoardRow, model: BoardModel, id: () => string): Proposal => {
  const swap = changeRow('board', board, { ...board, model: model.id, own: ownOf(model) })
  if (!swap) return propose(rig, { partIds: new Set() }, id)
  const old = modelOf(board)
  const changes: Change[] = [swap]
  let base = apply(rig, [swap])
  for (const lead of leadsOnBoard(rig, board.id)) {
    const rail = old?.rails.find((r) => r.contact === lead.pin)
    const now = rail && (model.rails.find((r) => r.volts === rail.volts) ?? model.rails[0])
    const change = now ? changeRow('lead', lead, { ...lead, pin: now.contact }) : null
    if (change) changes.push(change)
  }
  base = apply(base, changes.slice(1))
  const parts = new Set(leadsOnBoard(rig, board.id).flatMap((l) => (l.partId === null ? [] : [l.partId])))
  const solved = propose(base, { partIds: parts }, id)
  const after = apply(base, solved.changes)
  const listed = leadsOnBoard(rig, board.id).map((lead): ProposedWire => {
    const now = after.lead[lead.id] ?? lead
    const from = beginningOf(lead)
    return {
      ...{ from, number: lead.number, words: beginningWords(rig, from) },
      was: `${board.name} ${lead.pin}`,
      becomes: endWords(after, endOfLead(now)),
    }
  })
  const others = solved.wires.filter((w) => !listed.some((l) => l.number === w.number))
  return {
    ...solved,
    changes: squash([changes, solved.changes]),
    wires: [...listed, ...others].sort((a, b) => a.number - b.number),
    kept: rowsOf(rig, 'lead').length - listed.length,
  }
}
