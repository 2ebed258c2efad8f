import { create } from 'zustand'
import type { BoardModel } from '@/core/catalogue/board-model'
import { boardModels } from '@/core/catalogue/boards'
import { ownOf } from '@/core/catalogue/own-board'
import type { AssignProgress, ExpandedProposal } from '@/core/harness/assignment/propose-expander'
import {
  type Beginning,
  beginningWords,
  endOfLead,
  endWords,
  type LeadEnd,
  leadAt,
  putOn,
} from '@/core/harness/leads'
import { addRow, apply, sameValue } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { boardOfLead, boardsOf, leadsOf, type Rig } from '@/core/rig/rig'
import type { BoardRow, LeadRow } from '@/core/rig/rows'
import { select } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

export type HarnessDrawer = 'tray' | 'findings' | 'boards' | 'assign' | 'files'

/** A proposal and the rig that it was worked out for. */
interface Proposed {
  readonly title: string
  readonly is: ExpandedProposal
  readonly rig: Rig
}

interface HarnessState {
  /** The board that is looked at. */
  readonly boardId: string | null
  readonly drawer: HarnessDrawer
  /** The wire that is in the hand: it ends where it is put next. */
  readonly carried: Beginning | null
  /** Where the hand is while it drags, on the page. */
  readonly hand: { readonly x: number; readonly y: number } | null
  /** The lead that is looked at. */
  readonly leadId: string | null
  readonly zoom: number
  readonly proposal: Proposed | null
  /** How far an assignment is that is being worked out; null while none is. */
  readonly solving: AssignProgress | null
  /** A board model that was read from a file and is looked at. */
  readonly boardFile: { readonly name: string; readonly own: BoardModel } | null
}

export const useHarness = create<HarnessState>()(() => ({
  boardId: null,
  drawer: 'tray',
  carried: null,
  hand: null,
  leadId: null,
  zoom: 1,
  proposal: null,
  solving: null,
  boardFile: null,
}))

export const newId = (): string => crypto.randomUUID()

/** A board of a model as it is added to a rig, after those that are there. */
export const newBoard = (rig: Rig, model: BoardModel): BoardRow => ({
  id: newId(),
  name: numbered('Board', new Set(boardsOf(rig).map((b) => b.name))),
  model: model.id,
  own: ownOf(model),
  identity: null,
  position: Math.max(0, ...boardsOf(rig).map((b) => b.position)) + 1,
  supplyId: null,
})

/** Adds a board of a model, looked at from now on; what is known of it beside its model is said with it. */
export const addBoard = (
  model: BoardModel,
  sentence: (name: string) => string,
  known: Partial<BoardRow> = {},
): BoardRow => {
  const row = { ...newBoard(useStore.getState().rig, model), ...known }
  edit(sentence(row.name), [addRow('board', row)])
  useHarness.setState({ boardId: row.id })
  return row
}

/** Models to choose from: the catalogue's, and those that boards of this rig have of their own. */
export const modelsFor = (rig: Rig): readonly BoardModel[] => {
  const own = boardsOf(rig).flatMap((b) => b.own ?? [])
  return [...boardModels, ...new Map(own.map((m) => [m.id, m])).values()]
}

/** The board that is looked at: the chosen one, else the one the selected part hangs on, else the first. */
export const boardNow = (rig: Rig, chosen: string | null): BoardRow | undefined =>
  rig.board[chosen ?? ''] ?? boardsOf(rig)[0]

export const useBoard = (): BoardRow | undefined => {
  const chosen = useHarness((s) => s.boardId)
  return useStore((s) => boardNow(s.rig, chosen))
}

/** Takes the wire of a terminal into the hand. */
export const pickUp = (from: Beginning): void => {
  if (from.of === 'part') select(from.id)
  const lead = leadAt(useStore.getState().rig, from)
  useHarness.setState({ carried: from, leadId: lead?.id ?? null })
}

export const letGo = (): void => useHarness.setState({ carried: null, hand: null })

/** Puts what is in the hand down at an end. */
export const putDown = (end: LeadEnd): void => {
  const { carried } = useHarness.getState()
  letGo()
  if (!carried) return
  const { rig } = useStore.getState()
  const changes = putOn(rig, carried, end, newId)
  const exchanged = changes.length > 1 && changes.every((c) => c.op === 'change')
  const sentence = exchanged
    ? `Exchanged “${beginningWords(rig, carried)}” with what was at ${endWords(rig, end)}`
    : `Moved “${beginningWords(rig, carried)}” to ${endWords(rig, end)}`
  edit(sentence, changes)
  useHarness.setState({ leadId: leadAt(useStore.getState().rig, carried)?.id ?? null })
}

/** Shows the wires of a part: its board, and the part itself in the strip and the inspector. */
export const showPart = (partId: string): void => {
  select(partId)
  const { rig } = useStore.getState()
  const boardId = leadsOf(rig, partId)
    .map((l) => boardOfLead(rig, l))
    .find((b) => b !== null)
  if (boardId) useHarness.setState({ boardId })
}

/** Goes to the board of whatever part is selected elsewhere. */
export const followSelection = (): (() => void) => {
  const look = (selected: string | null) => {
    if (selected === null) return
    const { rig } = useStore.getState()
    const leads = leadsOf(rig, selected)
    const boards = leads.map((l) => boardOfLead(rig, l)).filter((b) => b !== null)
    const { boardId, leadId } = useHarness.getState()
    if (boards[0] && !boards.includes(boardId ?? '')) useHarness.setState({ boardId: boards[0] })
    if (leadId !== null && !leads.some((l) => l.id === leadId)) useHarness.setState({ leadId: null })
  }
  look(useStore.getState().selected)
  return useStore.subscribe((s, before) => {
    if (s.selected !== before.selected) look(s.selected)
  })
}

/** Whether anything that an assignment rests on is different now. */
const hasMoved = (then: Rig, now: Rig): boolean =>
  (['board', 'expander', 'supply', 'part', 'lead'] as const).some((t) => !sameValue(then[t], now[t]))

interface Drawn {
  readonly proposal: Proposed | null
  readonly rig: Rig
  /** The rig as it is drawn: with the proposal taken, while one is looked at. */
  readonly drawn: Rig
  /** The proposal was worked out for another rig than there is now. */
  readonly stale: boolean
}

let known: Drawn | null = null

/** Worked out once for each version of rig and proposal, for every pin that asks. */
const drawnOf = (rig: Rig, proposal: Proposed | null): Drawn => {
  if (known?.rig === rig && known.proposal === proposal) return known
  const stale = proposal !== null && hasMoved(proposal.rig, rig)
  const drawn = proposal === null || stale ? rig : apply(rig, proposal.is.changes)
  known = { proposal, rig, drawn, stale }
  return known
}

/** Shows a proposal, on a board that it changes something on. */
export const showProposal = (proposal: Proposed): void => {
  const after = apply(proposal.rig, proposal.is.changes)
  const boards = proposal.is.changes.flatMap((c) => {
    const lead = c.table === 'lead' ? after.lead[c.id] : undefined
    return (lead && boardOfLead(after, lead)) ?? []
  })
  const { boardId } = useHarness.getState()
  const [first] = boards
  const elsewhere = first !== undefined && !boards.includes(boardNow(proposal.rig, boardId)?.id ?? '')
  useHarness.setState({ proposal, boardId: elsewhere ? first : boardId })
}

/** The rig as the sheet shows it: as it would be with the proposal, while there is one that still holds. */
export const useDrawnRig = (): Rig => {
  const proposal = useHarness((s) => s.proposal)
  return useStore((s) => drawnOf(s.rig, proposal).drawn)
}

/** Within this the paths of a part that was selected have come, and with them their room. */
const PATHS_COME_MS = 250

/** Goes to a wire as it is drawn: to its board, and to where on the sheet it ends. */
export const showWire = (from: Beginning): void => {
  const { proposal } = useHarness.getState()
  const { drawn } = drawnOf(useStore.getState().rig, proposal)
  const lead = leadAt(drawn, from)
  const boardId = lead && boardOfLead(drawn, lead)
  if (from.of === 'part') select(from.id)
  useHarness.setState((s) => ({ boardId: boardId ?? s.boardId, leadId: lead?.id ?? s.leadId }))
  const show = () =>
    document
      .querySelector(`[data-from=${CSS.escape(JSON.stringify(from))}]`)
      ?.scrollIntoView({ block: 'center' })
  // The sheet may have to draw another board first, and to make room for the paths of what was selected.
  requestAnimationFrame(show)
  setTimeout(show, PATHS_COME_MS)
}

/** Whether the proposal that is looked at no longer fits the rig. */
export const useIsStale = (): boolean => {
  const proposal = useHarness((s) => s.proposal)
  return useStore((s) => drawnOf(s.rig, proposal).stale)
}

/** Whether a wire as it is drawn is only proposed: it is new, or ends elsewhere than it does now. */
export const useIsProposed = (lead: LeadRow | undefined): boolean =>
  useStore((s) => {
    if (!lead) return false
    const now = s.rig.lead[lead.id]
    return !now || !sameValue(endOfLead(now), endOfLead(lead))
  })
