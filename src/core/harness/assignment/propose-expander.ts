import type { ChannelAbility, ExpanderKind } from '../../catalogue/expander-kind'
import { expanderKind, expanderKinds } from '../../catalogue/expanders'
import { addRow, apply, type Change, changeRow, squash } from '../../rig/edit'
import { boardsOf, expandersOf, leadsOnExpander, linesOf, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, ExpanderRow } from '../../rig/rows'
import { boardLines } from '../chip'
import { newExpander } from '../new-expander'
import { type Proposal, propose } from './propose'
import type { Scope } from './rig-instance'

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

/**
 * Assigns the wires in scope, with expanders where pins run out: for what is short most, every kind that could
 * help is tried on every board, and the cheapest that places most is taken; again until all have a place.
 */
export const proposeWithExpanders = (rig: Rig, scope: Scope, id: () => string): ExpandedProposal => {
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

const scoreOf = (p: Proposal): number => p.unplaced.length * UNPLACED + (p.cost % UNPLACED)

const waysFor = (rig: Rig, proposal: Proposal, scope: Scope, id: () => string): Way[] => {
  const ways: Way[] = []
  const short = proposal.shortages.reduce((sum, s) => sum + s.wires, 0)
  for (const { ability, wires } of proposal.shortages) {
    if (ability === 'inductive' || !channelAbilities.includes(ability as ChannelAbility)) continue
    for (const kind of expanderKinds) {
      if (!kind.abilities.includes(ability as ChannelAbility) || kind.follows) continue
      // On a full board an expander's own lines take pins whose wires move onto it; so may others that found none.
      const lines = boardLines(kind).length
      for (const board of boardsFor(rig, proposal, scope))
        ways.push(...waysWith(rig, kind, board, [wires, wires + lines, short + lines], id))
    }
    // One thing after the other: what is short most is cured first.
    if (ways.length > 0) break
  }
  return ways
}

/** Boards that the parts without a place could hang on: those of their panels first; all where they have none. */
const boardsFor = (rig: Rig, proposal: Proposal, { boardIds }: Scope): readonly BoardRow[] => {
  const panels = new Set(proposal.unplaced.map((p) => rig.part[p]?.panelId))
  const near = new Set(
    rowsOf(rig, 'lead').flatMap((l) => {
      const part = rig.part[l.partId ?? '']
      return part && panels.has(part.panelId) && l.boardId !== null ? [l.boardId] : []
    }),
  )
  const boards = boardsOf(rig).filter((b) => !boardIds || boardIds.has(b.id))
  const own = boards.filter((b) => near.has(b.id))
  return own.length > 0 ? own : boards
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
  const counts = new Set(wires.map((w) => Math.ceil((w - free) / kind.channelsPerChip)))
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
