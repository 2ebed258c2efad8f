import { type Change, changeRow } from '../rig/edit'
import { boardOfLead, leadsOf, type Rig, rowsOf } from '../rig/rig'
import type { LeadRow } from '../rig/rows'

/** Wires of a lead's part that could lie in one ribbon with it: those that end on pins or channels of the same board. */
export const ribbonMates = (rig: Rig, lead: LeadRow): readonly LeadRow[] => {
  if (lead.partId === null) return []
  const board = boardOfLead(rig, lead)
  return leadsOf(rig, lead.partId).filter(
    (l) => (l.pin !== null || l.channel !== null) && !l.shared && boardOfLead(rig, l) === board,
  )
}

/** The first name for a ribbon that no wire has yet: R1, R2 and so on. */
export const freeRibbon = (rig: Rig): string => {
  const taken = new Set(rowsOf(rig, 'lead').map((l) => l.ribbon))
  let n = 1
  while (taken.has(`R${n}`)) n++
  return `R${n}`
}

/** Puts a lead and all its mates into one ribbon: the lead's own, if it lies in one, else a new one. */
export const asRibbon = (rig: Rig, lead: LeadRow): readonly Change[] => {
  const ribbon = lead.ribbon ?? freeRibbon(rig)
  return ribbonMates(rig, lead)
    .map((l) => changeRow('lead', l, { ...l, ribbon }))
    .filter((c) => c !== null)
}
