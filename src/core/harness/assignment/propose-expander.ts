import type { ChannelAbility, ExpanderKind } from '../../catalogue/expander-kind'
import { expanderKind, expanderKinds } from '../../catalogue/expanders'
import { addRow, apply, type Change, changeRow, squash } from '../../rig/edit'
import {
  boardsOf,
  expandersOf,
  leadsOnBoard,
  leadsOnExpander,
  linesOf,
  type Rig,
  rowsOf,
} from '../../rig/rig'
import type { BoardRow, ExpanderRow } from '../../rig/rows'
import { boardLines } from '../chip'
import { isGiven } from '../given'
import { newExpander } from '../new-expander'
import { type Proposal, propose, type Weighed, weigh } from './propose'
import type { AssignmentScope } from './rig-instance'

/** An expander that a proposal brings along, and what it does for the rig. */
export interface ProposedExpander {
  readonly expander: ExpanderRow
  /** In words: which, how many, where, and what is saved. */
  readonly words: string
}

export interface ExpandedProposal extends Proposal {
  readonly expanders: readonly ProposedExpander[]
  /** Other ways that would do, with what they take. */
  readonly others: readonly string[]
}

/** In the unit of the assignment's prices: what a chip is worth, and to have one kind more. */
const CHIP = 12
const KIND = 30
const UNPLACED = 1_000_000
/** Kinds of expanders that are added one after the other at most. */
const MOST_STEPS = 5

const channelAbilities: readonly ChannelAbility[] = ['contact', 'wiper', 'lamp', 'servo', 'coil']

/** One way to help: an expander that is new, or one that is there with more chips in its chain. */
interface Way {
  readonly change: Change
  readonly expander: ExpanderRow
  readonly chips: number
}

/** Wires up to which every way is worked out in full; beyond, ways are compared quickly and the best is worked out. */
const SMALL = 60
/** Expanders a board that are added to a large rig at most. */
const STEPS_PER_BOARD = 3

/** How far it is: parts that have a place, of all that are to have one. */
export interface AssignProgress {
  readonly placed: number
  readonly of: number
}

/**
 * Assigns the wires in scope, with expanders where pins run out: for what is short most, every kind that could
 * help is tried on every board, and the cheapest that places most is taken; again until all have a place.
 */
export const proposeWithExpanders = (
  rig: Rig,
  scope: AssignmentScope,
  id: () => string,
  report: (progress: AssignProgress) => void = () => {},
): ExpandedProposal => {
  const parts = scope.partIds?.size ?? rowsOf(rig, 'part').length
  const tell = (unplaced: readonly string[]) =>
    report({ placed: Math.max(0, parts - unplaced.length), of: parts })
  const first = weigh(rig, scope)
  tell(first.unplaced)
  return first.wires <= SMALL
    ? smallWithExpanders(rig, scope, id)
    : largeWithExpanders(rig, scope, id, first, tell)
}

const smallWithExpanders = (rig: Rig, scope: AssignmentScope, id: () => string): ExpandedProposal => {
  let base = rig
  let best = propose(rig, scope, id)
  const added: Change[] = []
  let others: readonly string[] = []
  for (let step = 0; step < MOST_STEPS && best.unplaced.length > 0; step++) {
    const tried = waysFor(base, best, scope, id).map((way) => {
      const grown = apply(base, [way.change])
      const proposal = propose(grown, scope, id, 'if small')
      return { way, grown, proposal, score: scoreOf(proposal) + CHIP * way.chips + KIND }
    })
    tried.sort((a, b) => a.score - b.score)
    const [first, ...more] = tried
    if (!first || first.proposal.unplaced.length >= best.unplaced.length) break
    others = [
      ...others,
      ...more
        .filter((t) => t.proposal.unplaced.length === first.proposal.unplaced.length)
        .filter((t, i, list) => list.findIndex((u) => u.way.expander.kind === t.way.expander.kind) === i)
        .filter((t) => t.way.expander.kind !== first.way.expander.kind)
        .slice(0, 2)
        .map((t) => savedWords(apply(t.grown, t.proposal.changes), t.way.expander)),
    ]
    base = first.grown
    best = first.proposal
    added.push(first.way.change)
  }
  return expanded(base, best, added, others)
}

/** The same for very many wires: of boards that are alike one is tried, and only what is taken is worked out. */
const largeWithExpanders = (
  rig: Rig,
  scope: AssignmentScope,
  id: () => string,
  first: Weighed,
  tell: (unplaced: readonly string[]) => void,
): ExpandedProposal => {
  let base = rig
  let now = first
  const added: Change[] = []
  const most = STEPS_PER_BOARD * Math.max(1, boardsOf(rig).length)
  for (let step = 0; step < most && now.unplaced.length > 0; step++) {
    const tried = waysFor(base, now, scope, id, true).map((way) => {
      const grown = apply(base, [way.change])
      const weighed = weigh(grown, scope)
      return { way, grown, weighed, score: scoreOf(weighed) + CHIP * way.chips + KIND }
    })
    tried.sort((a, b) => a.score - b.score)
    const [best] = tried
    if (!best || best.weighed.unplaced.length >= now.unplaced.length) break
    base = best.grown
    now = best.weighed
    added.push(best.way.change)
    tell(now.unplaced)
  }
  return expanded(base, propose(base, scope, id, 'if small'), added, [])
}

/** A proposal with the expanders that it brings along. */
const expanded = (
  base: Rig,
  best: Proposal,
  added: readonly Change[],
  others: readonly string[],
): ExpandedProposal => {
  const after = apply(base, best.changes)
  const changes = squash([added, best.changes])
  const brought = changes.flatMap((c) => (c.table === 'expander' && c.op !== 'remove' ? [c.id] : []))
  const expanders = brought.flatMap((expanderId) => {
    const expander = after.expander[expanderId]
    return expander ? [{ expander, words: wordsFor(after, expander) }] : []
  })
  return { ...best, changes, expanders, others, kept: best.kept }
}

const wordsFor = (rig: Rig, expander: ExpanderRow): string => {
  const kind = expanderKind(expander.kind)
  return kind?.inductive
    ? `${kind.name} on ${rig.board[expander.boardId]?.name}: a coil would kill a bare pin when it is switched off`
    : savedWords(rig, expander)
}

const scoreOf = (p: Pick<Proposal, 'unplaced' | 'cost'>): number =>
  p.unplaced.length * UNPLACED + (p.cost % UNPLACED)

const waysFor = (
  rig: Rig,
  proposal: Pick<Proposal, 'unplaced' | 'shortages'>,
  scope: AssignmentScope,
  id: () => string,
  isLarge = false,
): Way[] => {
  const ways: Way[] = []
  const short = proposal.shortages.reduce((sum, s) => sum + s.wires, 0)
  for (const { ability, wires } of proposal.shortages) {
    if (ability === 'inductive' || !channelAbilities.includes(ability as ChannelAbility)) continue
    for (const kind of expanderKinds) {
      if (!kind.abilities.includes(ability as ChannelAbility) || kind.follows) continue
      // On a full board an expander's own lines take pins whose wires move onto it; so may others that found none.
      const lines = boardLines(kind).length
      const boards = boardsFor(rig, proposal, scope)
      const counts = isLarge ? [wires + lines] : [wires, wires + lines, short + lines]
      for (const board of isLarge ? unlike(rig, boards) : boards)
        ways.push(...waysWith(rig, kind, board, counts, id))
    }
    // One thing after the other: what is short most is cured first.
    if (ways.length > 0) break
  }
  return ways
}

/** Boards that the parts without a place could hang on: those of their panels first; all where they have none. */
const boardsFor = (
  rig: Rig,
  proposal: Pick<Proposal, 'unplaced'>,
  { boardIds }: AssignmentScope,
): readonly BoardRow[] => {
  const panels = new Set(proposal.unplaced.map((p) => rig.part[p]?.panelId))
  const near = new Set(
    rowsOf(rig, 'lead').flatMap((l) => {
      const part = rig.part[l.partId ?? '']
      return part && panels.has(part.panelId) && l.boardId !== null ? [l.boardId] : []
    }),
  )
  const boards = boardsOf(rig).filter((b) => !isGiven(b) && (!boardIds || boardIds.has(b.id)))
  const own = boards.filter((b) => near.has(b.id))
  return own.length > 0 ? own : boards
}

/** Of boards that are the same, with the same on them, the first: what is true of it is true of all. */
const unlike = (rig: Rig, boards: readonly BoardRow[]): BoardRow[] => {
  const seen = new Set<string>()
  return boards.filter((board) => {
    const wired = leadsOnBoard(rig, board.id).length
    const chips = expandersOf(rig, board.id).map(
      (e) => `${e.kind} ${e.chips} ${leadsOnExpander(rig, e.id).length}`,
    )
    // What is wired already makes each board one of its own.
    const key = wired > 0 ? board.id : JSON.stringify([board.model, board.own, chips.sort()])
    if (seen.has(key)) return false
    seen.add(key)
    return true
  })
}

const waysWith = (
  rig: Rig,
  kind: ExpanderKind,
  board: BoardRow,
  wires: readonly number[],
  id: () => string,
): Way[] => {
  const there = expandersOf(rig, board.id)
  const free = there
    .filter((e) => e.kind === kind.id)
    .reduce((sum, e) => sum + e.chips * kind.channelsPerChip - leadsOnExpander(rig, e.id).length, 0)
  const ways: Way[] = []
  const counts = new Set(
    wires.map((w) => Math.min(kind.mostChips, Math.ceil((w - free) / kind.channelsPerChip))),
  )
  for (const chips of counts) {
    if (chips < 1) continue
    const chain = there.find((e) => e.kind === kind.id && e.chips + chips <= kind.mostChips)
    const longer = chain && changeRow('expander', chain, { ...chain, chips: chain.chips + chips })
    if (chain && longer)
      ways.push({ change: longer, expander: { ...chain, chips: chain.chips + chips }, chips })
    if (chips > kind.mostChips) continue
    const expander = newExpander(rig, board.id, kind, chips, id())
    if (!expander) continue
    ways.push({ change: addRow('expander', expander), expander, chips })
  }
  return ways
}

const savedWords = (rig: Rig, expander: ExpanderRow): string => {
  const kind = expanderKind(expander.kind)
  const row = rig.expander[expander.id] ?? expander
  const wires = leadsOnExpander(rig, row.id).length
  const pins = linesOf(rig, row.id).filter((l) => l.boardId !== null && !isRailLead(kind, l.terminal)).length
  const chips = row.chips > 1 ? `${row.chips} × ` : ''
  const saved = wires - pins
  const saves = saved > 0 ? `: ${saved} ${saved === 1 ? 'pin' : 'pins'} saved` : ''
  return `${chips}${kind?.name ?? row.kind} on ${rig.board[row.boardId]?.name ?? 'a board'}: ${wires} wires on ${pins} pins${saves}`
}

const isRailLead = (kind: ExpanderKind | undefined, terminal: string): boolean =>
  kind?.lines.some((l) => l.id === terminal && (l.role === 'plus' || l.role === 'ground')) ?? false
