import { railOf } from '../catalogue/boards'
import { expanderKind } from '../catalogue/expanders'
import { modelOf } from '../catalogue/own-board'
import { kindOf } from '../catalogue/own-kind'
import { type Change, changeRow } from '../rig/edit'
import { leadsOf, linesOf, type Rig } from '../rig/rig'
import type { ExpanderRow, LeadRow, PartRow } from '../rig/rows'
import type { Milliamps, Volts } from '../units-of-measure'
import { lampMilliamps } from './series-resistor'

/** A lamp as it is wired: what drives it, what feeds it, and what flows. */
export interface LampCircuit {
  readonly driven: LeadRow
  /** The expander that drives it; null for a pin. */
  readonly expander: ExpanderRow | null
  /** What is there for it and its resistor: the voltage that its current comes from, less what is lost in the driver. */
  readonly volts: Volts
  /** What of that is lost in the driver. */
  readonly dropVolts: Volts
  /** The driver keeps the current itself. */
  readonly held: boolean
  readonly rated: Milliamps
  readonly forwardVolts: Volts
  readonly inductive: boolean
  /** What flows when it is lit; the most there could be without a resistor is limited by nothing, and counts as rated. */
  readonly milliamps: Milliamps
}

/** The voltage at which a lead's contact or supply stands; null where that is not known. */
export const voltsAt = (rig: Rig, lead: LeadRow | undefined): Volts | null => {
  if (!lead) return null
  if (lead.supplyId !== null) return rig.supply[lead.supplyId]?.volts ?? null
  if (lead.boardId === null || lead.pin === null) return null
  const model = modelOf(rig.board[lead.boardId])
  return model ? (railOf(model, lead.pin)?.volts ?? model.logicVolts) : null
}

/** The voltage that feeds an expander. */
export const expanderVolts = (rig: Rig, expanderId: string): Volts | null =>
  voltsAt(
    rig,
    linesOf(rig, expanderId).find((l) => l.terminal === 'plus'),
  )

/** The lamp of a part with what is round it, or null where it is not wired to anything that drives it. */
export const lampCircuit = (rig: Rig, part: PartRow): LampCircuit | null => {
  const kind = kindOf(part)
  const electrical = kind?.electrical
  if (!kind || !electrical) return null
  const leads = leadsOf(rig, part.id)
  const at = (role: string) => {
    const id = kind.terminals.find((t) => t.role === role)?.id
    return leads.find((l) => l.terminal === id)
  }
  const plus = at('lamp-plus')
  const minus = at('lamp-minus')
  const isDriven = (l: LeadRow | undefined): l is LeadRow =>
    l !== undefined && (l.expanderId !== null || (l.pin !== null && !l.shared))
  const driven = isDriven(plus) ? plus : isDriven(minus) ? minus : null
  if (!driven) return null
  const expander = rig.expander[driven.expanderId ?? ''] ?? null
  const driver = expanderKind(expander?.kind ?? '')
  const sinks = driven === minus
  const fed = sinks ? voltsAt(rig, plus) : expander ? expanderVolts(rig, expander.id) : voltsAt(rig, driven)
  const dropVolts = driver?.dropVolts ?? 0
  const volts = fed === null ? null : Math.round((fed - dropVolts) * 100) / 100
  const { forwardVolts, milliamps: rated, inductive = false } = electrical
  const ohms = part.settings.seriesOhms
  const held = driver?.holdsCurrent === true
  const flows =
    held || inductive || ohms === undefined ? rated : lampMilliamps(volts ?? 0, forwardVolts, ohms)
  return {
    driven,
    expander,
    volts: volts ?? 0,
    dropVolts,
    held,
    rated,
    forwardVolts,
    inductive,
    milliamps: flows,
  }
}

/** Gives a part another series resistor. */
export const resistorChange = (rig: Rig, partId: string, ohms: number): Change | null => {
  const part = rig.part[partId]
  return part ? changeRow('part', part, { ...part, settings: { ...part.settings, seriesOhms: ohms } }) : null
}
