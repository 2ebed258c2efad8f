import { railOf } from '../catalogue/boards'
import { expanderKind } from '../catalogue/expanders'
import { modelOf } from '../catalogue/own-board'
import { kindOf } from '../catalogue/own-kind'
import type { Terminal } from '../catalogue/part-kind'
import { addRow, type Change, changeRow, removeRow } from '../rig/edit'
import { leadsOf, leadsOnBoard, leadsOnExpander, linesOf, type Rig, rowsOf } from '../rig/rig'
import type { LeadRow } from '../rig/rows'
import { channelWords } from './lines'

/** Where a wire begins: a terminal of a part, or of an expander. */
export interface Beginning {
  readonly of: 'part' | 'expander'
  readonly id: string
  readonly terminal: string
}

/** Where a wire ends. */
export type LeadEnd =
  | { readonly at: 'contact'; readonly boardId: string; readonly pin: string }
  | { readonly at: 'channel'; readonly expanderId: string; readonly channel: number }
  | { readonly at: 'supply'; readonly supplyId: string }
  | { readonly at: 'ground' }

export const beginningOf = (lead: LeadRow): Beginning => ({
  of: lead.partId === null ? 'expander' : 'part',
  id: lead.partId ?? lead.fromExpanderId ?? '',
  terminal: lead.terminal,
})

export const endOfLead = (lead: LeadRow): LeadEnd => {
  if (lead.boardId !== null && lead.pin !== null)
    return { at: 'contact', boardId: lead.boardId, pin: lead.pin }
  if (lead.expanderId !== null && lead.channel !== null)
    return { at: 'channel', expanderId: lead.expanderId, channel: lead.channel }
  if (lead.supplyId !== null) return { at: 'supply', supplyId: lead.supplyId }
  return { at: 'ground' }
}

/** The terminals of a part or expander; none of a kind that is not known. */
export const terminalsOf = (rig: Rig, of: Beginning['of'], id: string): readonly Terminal[] => {
  if (of === 'expander') return expanderKind(rig.expander[id]?.kind ?? '')?.lines ?? []
  const part = rig.part[id]
  return (part && kindOf(part)?.terminals) ?? []
}

export const terminalAt = (rig: Rig, { of, id, terminal }: Beginning): Terminal | undefined =>
  terminalsOf(rig, of, id).find((t) => t.id === terminal)

export const leadAt = (rig: Rig, { of, id, terminal }: Beginning): LeadRow | undefined =>
  (of === 'part' ? leadsOf(rig, id) : linesOf(rig, id)).find((l) => l.terminal === terminal)

/** What a wire begins at, in words. */
export const beginningWords = (rig: Rig, from: Beginning): string => {
  const owner = from.of === 'part' ? rig.part[from.id]?.name : rig.expander[from.id]?.name
  return `${owner ?? 'something that is gone'} · ${terminalAt(rig, from)?.name ?? from.terminal}`
}

/** What a wire ends at, in words. */
export const endWords = (rig: Rig, end: LeadEnd): string => {
  switch (end.at) {
    case 'contact':
      return `${rig.board[end.boardId]?.name ?? 'a board that is gone'} ${end.pin}`
    case 'channel': {
      const expander = rig.expander[end.expanderId]
      return expander ? channelWords(expander, end.channel) : 'an expander that is gone'
    }
    case 'supply':
      return rig.supply[end.supplyId]?.name ?? 'a supply that is gone'
    case 'ground':
      return 'ground'
  }
}

/** The leads that end at a contact or channel. */
export const leadsAt = (rig: Rig, end: LeadEnd): readonly LeadRow[] => {
  if (end.at === 'contact') return leadsOnBoard(rig, end.boardId).filter((l) => l.pin === end.pin)
  if (end.at === 'channel')
    return leadsOnExpander(rig, end.expanderId).filter((l) => l.channel === end.channel)
  return []
}

/** The columns of a lead that say where it ends. */
const columnsOf = (rig: Rig, terminal: Terminal | undefined, end: LeadEnd) => {
  const nowhere = { boardId: null, pin: null, expanderId: null, channel: null, supplyId: null, ground: false }
  switch (end.at) {
    case 'contact': {
      const model = modelOf(rig.board[end.boardId])
      const shared =
        terminal?.shares !== undefined || (model !== undefined && railOf(model, end.pin) !== undefined)
      return { ...nowhere, boardId: end.boardId, pin: end.pin, shared }
    }
    case 'channel':
      return {
        ...{ ...nowhere, expanderId: end.expanderId, channel: end.channel },
        shared: terminal?.shares !== undefined,
      }
    case 'supply':
      return { ...nowhere, supplyId: end.supplyId, shared: false }
    case 'ground':
      return { ...nowhere, ground: true, shared: false }
  }
}

/** A lead that ends nowhere and is nothing special. */
export const plainLead = {
  fromExpanderId: null,
  boardId: null,
  pin: null,
  expanderId: null,
  channel: null,
  supplyId: null,
  ground: false,
  shared: false,
  locked: false,
  ribbon: null,
} as const

/** Colours of wires as they are sold; black is ground and red a supply, the others follow each other. */
export const wireColours = [
  'white',
  'yellow',
  'green',
  'blue',
  'violet',
  'grey',
  'orange',
  'brown',
  'red',
  'black',
] as const
const SIGNAL_COLOURS = 8

const colourFor = (role: Terminal['role'] | undefined, end: LeadEnd, number: number): string => {
  if (end.at === 'ground') return 'black'
  if (end.at === 'supply' || role === 'plus') return 'red'
  return wireColours[number % SIGNAL_COLOURS] ?? 'white'
}

export const nextNumber = (rig: Rig): number =>
  rowsOf(rig, 'lead').reduce((most, l) => Math.max(most, l.number), 0) + 1

/**
 * The changes that make a terminal's wire end somewhere: an existing lead keeps its number, a new one takes the next.
 * Nothing else is moved: what stands in the way is the caller's to see to.
 */
export const leadTo = (
  rig: Rig,
  from: Beginning,
  end: LeadEnd,
  id: () => string,
  number = nextNumber(rig),
): Change | null => {
  const terminal = terminalAt(rig, from)
  const lead = leadAt(rig, from)
  const columns = columnsOf(rig, terminal, end)
  if (lead) return changeRow('lead', lead, { ...lead, ...columns })
  return addRow('lead', {
    id: id(),
    partId: from.of === 'part' ? from.id : null,
    fromExpanderId: from.of === 'expander' ? from.id : null,
    terminal: from.terminal,
    number,
    colour: colourFor(terminal?.role, end, number),
    locked: false,
    ribbon: null,
    ...columns,
  })
}

/** Several wires at once, numbered on from the last one there is. */
export const leadsTo = (
  rig: Rig,
  wires: readonly { readonly from: Beginning; readonly end: LeadEnd }[],
  id: () => string,
): Change[] => {
  let number = nextNumber(rig)
  const changes: Change[] = []
  for (const { from, end } of wires) {
    const change = leadTo(rig, from, end, id, number)
    if (!change) continue
    if (change.op === 'add') number++
    changes.push(change)
  }
  return changes
}

/** Whether two wires may end at one pin. */
export const mayShare = (a: Terminal | undefined, b: Terminal | undefined): boolean =>
  a?.shares !== undefined && a.shares === b?.shares

/**
 * Puts a terminal's wire onto a contact or channel. What is there already goes where the wire came from; without such a
 * place it is taken off. Wires of one shared line stay together.
 */
export const putOn = (rig: Rig, from: Beginning, end: LeadEnd, id: () => string): Change[] => {
  const own = leadAt(rig, from)
  const terminal = terminalAt(rig, from)
  const there = leadsAt(rig, end).filter((l) => l.id !== own?.id)
  const model = end.at === 'contact' ? modelOf(rig.board[end.boardId]) : undefined
  const isRail = end.at === 'contact' && model !== undefined && railOf(model, end.pin) !== undefined
  const inTheWay = isRail ? [] : there.filter((l) => !mayShare(terminal, terminalAt(rig, beginningOf(l))))
  const changes: (Change | null)[] = [leadTo(rig, from, end, id)]
  const back = own ? endOfLead(own) : null
  const goesBack = back !== null && (back.at === 'contact' || back.at === 'channel')
  for (const lead of inTheWay) {
    const at = beginningOf(lead)
    changes.push(goesBack ? leadTo(rig, at, back, id) : removeRow('lead', lead))
  }
  return changes.filter((c) => c !== null)
}
