import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import {
  boardsOf,
  expandersOf,
  leadsOf,
  leadsOnBoard,
  leadsOnExpander,
  linesOf,
  panelsOf,
  type Rig,
} from '../../rig/rig'
import type { BoardRow, ExpanderRow, LeadRow } from '../../rig/rows'
import { isGiven } from '../given'
import { lampCircuit } from '../lamp-circuit'
import { beginningOf, endOfLead, endWords, terminalAt } from '../leads'
import { channelWords } from '../lines'
import { USUAL_WATTS, wattWords } from '../resistor-heat'

/** What wires of one sheet end at: a board, or an expander of it. */
export type Host =
  | { readonly is: 'board'; readonly id: string; readonly board: BoardRow }
  | { readonly is: 'expander'; readonly id: string; readonly board: BoardRow; readonly expander: ExpanderRow }

/** One wire of a part or expander, as a line of the drawing. */
export interface WireRow {
  readonly lead: LeadRow
  readonly terminal: string
  /** A resistor in the wire, by its value. */
  readonly resistor: string | null
  /** A contact or channel of the host of this sheet. */
  readonly at: { readonly name: string; readonly place: string } | null
  /** Where else it goes, in words: ground, a supply, or a pin that is drawn on another sheet. */
  readonly elsewhere: {
    readonly is: 'ground' | 'supply' | 'host'
    readonly words: string
    readonly hostId?: string
  } | null
}

/** A part or an expander with those of its wires that a sheet shows; it is kept whole. */
export interface WireItem {
  readonly id: string
  readonly title: string
  readonly subtitle: string
  readonly rows: readonly WireRow[]
  /** Of an expander: what hangs on its channels is drawn there. */
  readonly channelsOf: string | null
  /** Its other wires are drawn with this host. */
  readonly restWith: string | null
}

export interface WireGroup {
  readonly host: Host
  readonly items: readonly WireItem[]
}

const hostIdOf = (lead: LeadRow): string | null =>
  lead.expanderId ?? (lead.pin === null ? null : lead.boardId)

/** The row of contacts a pin is in and its place there; the chip of a channel. */
const placeOn = (host: Host, lead: LeadRow): { name: string; place: string } => {
  if (host.is === 'expander') {
    const name = channelWords(host.expander, lead.channel ?? 0).replace(`${host.expander.name} `, '')
    return { name, place: '' }
  }
  for (const [h, header] of (modelOf(host.board)?.headers ?? []).entries()) {
    const at = header.contacts.indexOf(lead.pin ?? '')
    if (at >= 0) return { name: lead.pin ?? '', place: `J${h + 1}·${at + 1}` }
  }
  return { name: lead.pin ?? '', place: '' }
}

/** The resistor in a lamp's wire, as it is to be soldered in. */
const resistorIn = (rig: Rig, lead: LeadRow): string | null => {
  const part = rig.part[lead.partId ?? '']
  const lamp = part && lampCircuit(rig, part)
  if (!part || !lamp || lamp.held || lamp.inductive || part.settings.seriesOhms === undefined) return null
  if (terminalAt(rig, beginningOf(lead))?.role !== 'lamp-plus') return null
  const watts = part.settings.seriesWatts ?? USUAL_WATTS
  return `${part.settings.seriesOhms} Ω${watts === USUAL_WATTS ? '' : ` ${wattWords(watts)}`}`
}

const rowOf = (rig: Rig, lead: LeadRow, host: Host): WireRow => {
  const terminal = terminalAt(rig, beginningOf(lead))?.name ?? lead.terminal
  const base = { lead, terminal, resistor: resistorIn(rig, lead) }
  const end = endOfLead(lead)
  if (hostIdOf(lead) === host.id) return { ...base, at: placeOn(host, lead), elsewhere: null }
  if (end.at === 'ground') return { ...base, at: null, elsewhere: { is: 'ground', words: 'ground' } }
  const words = endWords(rig, end)
  if (end.at === 'supply') return { ...base, at: null, elsewhere: { is: 'supply', words } }
  const hostId = hostIdOf(lead)
  return { ...base, at: null, elsewhere: { is: 'host', words, ...(hostId === null ? {} : { hostId }) } }
}

/** The host on which most of a part's wires end: there it is drawn with all of them. */
const homeOf = (leads: readonly LeadRow[]): string | null => {
  const counts = new Map<string, number>()
  for (const lead of leads) {
    const id = hostIdOf(lead)
    // A supply contact of a board is no reason to be drawn with it.
    if (id !== null && !(lead.shared && lead.channel === null)) counts.set(id, (counts.get(id) ?? 0) + 1)
  }
  const [first] = [...counts].sort((a, b) => b[1] - a[1])
  return first?.[0] ?? leads.map(hostIdOf).find((id) => id !== null) ?? null
}

const itemsOn = (rig: Rig, host: Host, leads: readonly LeadRow[]): WireItem[] => {
  const order = new Map(panelsOf(rig).map((p, i) => [p.id, i]))
  const partIds = [...new Set(leads.flatMap((l) => l.partId ?? []))]
  const parts = partIds.flatMap((id) => rig.part[id] ?? [])
  const firstOf = new Map(parts.map((p) => [p.id, Math.min(...leadsOf(rig, p.id).map((l) => l.number))]))
  parts.sort(
    (a, b) =>
      (order.get(a.panelId) ?? 0) - (order.get(b.panelId) ?? 0) ||
      (firstOf.get(a.id) ?? 0) - (firstOf.get(b.id) ?? 0),
  )
  return parts.flatMap((part): WireItem[] => {
    const all = leadsOf(rig, part.id)
    const home = homeOf(all)
    const isHome = home === host.id
    // Where it is only fed from, it is not drawn again.
    const own = isHome ? all : all.filter((l) => hostIdOf(l) === host.id && !(l.shared && l.channel === null))
    if (own.length === 0) return []
    const panel = rig.panel[part.panelId]?.name ?? ''
    return [
      {
        id: part.id,
        title: part.name,
        subtitle: [panel, kindOf(part)?.name ?? part.kind].filter((w) => w !== '').join(' · '),
        rows: own.map((l) => rowOf(rig, l, host)),
        channelsOf: null,
        restWith: isHome || home === null ? null : home,
      },
    ]
  })
}

const expanderItem = (rig: Rig, host: Host, expander: ExpanderRow): WireItem => {
  const kind = expanderKind(expander.kind)
  return {
    id: expander.id,
    title: expander.name,
    subtitle: `${expander.chips > 1 ? `${expander.chips} × ` : ''}${kind?.name ?? expander.kind}`,
    rows: linesOf(rig, expander.id).map((l) => rowOf(rig, l, host)),
    channelsOf: leadsOnExpander(rig, expander.id).length > 0 ? expander.id : null,
    restWith: null,
  }
}

/** Every board and every expander with what hangs on it, in the order of the drawing. */
export const wireGroups = (rig: Rig): WireGroup[] =>
  boardsOf(rig).flatMap((board): WireGroup[] => {
    if (isGiven(board)) return []
    const host: Host = { is: 'board', id: board.id, board }
    const expanders = expandersOf(rig, board.id)
    const items = [
      ...expanders.map((e) => expanderItem(rig, host, e)),
      ...itemsOn(rig, host, leadsOnBoard(rig, board.id)),
    ]
    const own: WireGroup[] = items.length > 0 ? [{ host, items }] : []
    const theirs = expanders.flatMap((expander): WireGroup[] => {
      const on: Host = { is: 'expander', id: expander.id, board, expander }
      const hung = itemsOn(rig, on, leadsOnExpander(rig, expander.id))
      return hung.length > 0 ? [{ host: on, items: hung }] : []
    })
    return [...own, ...theirs]
  })
