import { create } from 'zustand'
import type { ExpandedProposal } from '@/core/harness/assignment/propose-expander'
import { type Beginning, beginningWords, endWords, type LeadEnd, leadAt, putOn } from '@/core/harness/leads'
import { boardOfLead, boardsOf, leadsOf, type Rig } from '@/core/rig/rig'
import type { BoardRow } from '@/core/rig/rows'
import { select } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

export type Drawer = 'tray' | 'findings' | 'boards' | 'assign' | 'files'

interface HarnessState {
  /** The board that is looked at. */
  readonly boardId: string | null
  readonly drawer: Drawer
  /** The wire that is in the hand: it ends where it is put next. */
  readonly carried: Beginning | null
  /** Where the hand is while it drags, on the page. */
  readonly hand: { readonly x: number; readonly y: number } | null
  /** The lead that is looked at. */
  readonly leadId: string | null
  readonly zoom: number
  readonly proposal: { readonly title: string; readonly is: ExpandedProposal; readonly rig: Rig } | null
  readonly solving: boolean
}

export const useHarness = create<HarnessState>()(() => ({
  boardId: null,
  drawer: 'tray',
  carried: null,
  hand: null,
  leadId: null,
  zoom: 1,
  proposal: null,
  solving: false,
}))

export const newId = (): string => crypto.randomUUID()

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
