import { pinOf } from '../catalogue/boards'
import { modelOf } from '../catalogue/own-board'
import { kindOf } from '../catalogue/own-kind'
import { leadsOnBoard, type Rig } from '../rig/rig'
import type { LeadRow } from '../rig/rows'
import type { Beginning } from './leads'

/** Whether what begins there is dimmed or turned by the width of pulses: a lamp, a servo, an instrument. */
export const isPulsed = (rig: Rig, from: Beginning): boolean => {
  if (from.of !== 'part') return false
  const part = rig.part[from.id]
  const kind = part && kindOf(part)
  const terminal = kind?.terminals.find((t) => t.id === from.terminal)
  const role = terminal?.role
  if (role === 'lamp-plus' || role === 'lamp-minus' || terminal?.needs === 'pwm') return true
  return (
    kind?.aspects.some(
      (a) => a.kind === 'needle' && a.drive === 'servo' && a.terminals.includes(from.terminal),
    ) ?? false
  )
}

const isPulsedLead = (rig: Rig, lead: LeadRow): boolean =>
  !lead.shared &&
  lead.partId !== null &&
  isPulsed(rig, { of: 'part', id: lead.partId, terminal: lead.terminal })

/** The wires on a board's pins that a timer channel drives, by channel; boards whose pins each have their own have none. */
export const pwmUsers = (rig: Rig, boardId: string): ReadonlyMap<string, readonly LeadRow[]> => {
  const users = new Map<string, LeadRow[]>()
  const model = modelOf(rig.board[boardId])
  if (!model?.pins.some((p) => p.pwmChannel)) return users
  for (const lead of leadsOnBoard(rig, boardId)) {
    const channel = pinOf(model, lead.pin ?? '')?.pwmChannel
    if (channel === undefined || !isPulsedLead(rig, lead)) continue
    const list = users.get(channel) ?? []
    users.set(channel, list)
    // Two on one pin are another mistake.
    if (!list.some((l) => l.pin === lead.pin)) list.push(lead)
  }
  return users
}
