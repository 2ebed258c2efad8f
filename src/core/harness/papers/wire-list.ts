import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { boardsOf, expandersOf, linesOf, type Rig, rowsOf } from '../../rig/rig'
import type { LeadRow } from '../../rig/rows'
import type { Millimetres } from '../../units-of-measure'
import { isInside } from '../given'
import { beginningOf, beginningWords, endOfLead, endWords } from '../leads'

/** One wire as it is cut, labelled and soldered. */
export interface WireLine {
  /** Its number; a letter behind it for the pieces that carry a line on from chip to chip. */
  readonly number: string
  readonly colour: string
  readonly panel: string
  readonly from: string
  readonly to: string
  /** The row of contacts it ends in, and where in it, counted from 1. */
  readonly connector: string
  readonly position: string
  readonly ribbon: string
  readonly lengthMm: Millimetres
}

/** From a panel to its boards, behind it; and the piece from one chip to the next. */
const BEHIND_MM: Millimetres = 300
const LINK_MM: Millimetres = 60
/** Wires are cut to the next so much. */
const CUT_MM: Millimetres = 50

const roundUp = (mm: Millimetres): Millimetres => Math.ceil(mm / CUT_MM) * CUT_MM

/** Along the panel to the middle of its lower edge, where the loom leaves it, and to the boards behind. */
const estimatedLength = (rig: Rig, lead: LeadRow): Millimetres => {
  const part = rig.part[lead.partId ?? '']
  const panel = part && rig.panel[part.panelId]
  if (!part || !panel) return roundUp(BEHIND_MM)
  return roundUp(Math.abs(part.xMm - panel.widthMm / 2) + (panel.heightMm - part.yMm) + BEHIND_MM)
}

/** The row of contacts of a pin, by number, and its place there; empty for what is no contact of a board. */
const connectorOf = (rig: Rig, lead: LeadRow): { connector: string; position: string } => {
  const model = modelOf(rig.board[lead.boardId ?? ''])
  for (const [h, header] of (model?.headers ?? []).entries()) {
    const at = header.contacts.indexOf(lead.pin ?? '')
    if (at >= 0) return { connector: `J${h + 1}`, position: `${at + 1}` }
  }
  const kind = expanderKind(rig.expander[lead.expanderId ?? '']?.kind ?? '')
  if (!kind || lead.channel === null) return { connector: '', position: '' }
  const chip = Math.floor(lead.channel / kind.channelsPerChip) + 1
  return { connector: `chip ${chip}`, position: `${(lead.channel % kind.channelsPerChip) + 1}` }
}

const lineOf = (rig: Rig, lead: LeadRow): WireLine => ({
  number: `${lead.number}`,
  colour: lead.colour,
  panel: rig.panel[rig.part[lead.partId ?? '']?.panelId ?? '']?.name ?? '',
  from: beginningWords(rig, beginningOf(lead)),
  to: endWords(rig, endOfLead(lead)),
  ...connectorOf(rig, lead),
  ribbon: lead.ribbon ?? '',
  lengthMm: estimatedLength(rig, lead),
})

/** The pieces that carry the lines of a chain on from each chip to the next: its data in a row, its other lines in parallel. */
const linksOf = (rig: Rig): WireLine[] =>
  boardsOf(rig)
    .flatMap((b) => expandersOf(rig, b.id))
    .flatMap((expander) =>
      linesOf(rig, expander.id).flatMap((lead) =>
        Array.from({ length: expander.chips - 1 }, (_, i): WireLine => {
          const data = lead.terminal === 'data'
          const terminal = beginningWords(rig, beginningOf(lead)).split(' · ').at(-1) ?? lead.terminal
          return {
            number: `${lead.number}${letters(i)}`,
            colour: lead.colour,
            panel: '',
            from: `${expander.name} chip ${i + 1} · ${data ? 'data out' : terminal}`,
            to: `${expander.name} chip ${i + 2} · ${data ? 'data in' : terminal}`,
            ...{ connector: `chip ${i + 2}`, position: '', ribbon: '', lengthMm: LINK_MM },
          }
        }),
      ),
    )

const letters = (i: number): string => String.fromCharCode(97 + i)

/** Every wire of a rig by its number, with the pieces between chips behind the line they carry on. */
export const wireList = (rig: Rig): WireLine[] => {
  const links = linksOf(rig)
  return rowsOf(rig, 'lead')
    .filter((l) => !isInside(rig, l))
    .sort((a, b) => a.number - b.number)
    .flatMap((lead) => [
      lineOf(rig, lead),
      ...links.filter((l) => l.number.slice(0, -1) === `${lead.number}`),
    ])
}
