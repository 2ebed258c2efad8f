import type { ExpanderKind } from '../catalogue/expander-kind'
import { bss138 } from '../catalogue/expanders/bss138'
import { hct245 } from '../catalogue/expanders/hct245'
import { uln2803 } from '../catalogue/expanders/uln2803'
import { modelOf } from '../catalogue/own-board'
import { addRow, apply, type Change } from '../rig/edit'
import { expandersOf, leadsOf, leadsOnBoard, leadsOnExpander, linesOf, type Rig, rowsOf } from '../rig/rig'
import type { BoardRow, ExpanderRow, LeadRow, PartRow } from '../rig/rows'
import type { Volts } from '../units-of-measure'
import { resistorChange, voltsAt } from './lamp-circuit'
import { type Beginning, beginningOf, endOfLead, type LeadEnd, leadsTo, mayShare, terminalAt } from './leads'
import { newExpander } from './new-expander'
import { seriesOhms } from './series-resistor'
import { freePin } from './spare-pins'

/** A lamp needs so much more than its own voltage: what drops in the array, and enough for a resistor to hold the current. */
const ROOM_VOLTS = 1.2
/** Coils of buzzers and relays are made for 5 V, as a rule. */
const COIL_VOLTS = 4.5

type Wire = { readonly from: Beginning; readonly end: LeadEnd }

/** A chip whose channels each follow a pin, with room for more: one of the board's, or a new one; null without an address. */
const chipWithRoom = (
  rig: Rig,
  boardId: string,
  kind: ExpanderKind,
  channels: number,
  fits: (e: ExpanderRow) => boolean,
  id: () => string,
) => {
  const there = expandersOf(rig, boardId).find(
    (e) =>
      e.kind === kind.id &&
      kind.channelsPerChip - new Set(leadsOnExpander(rig, e.id).map((l) => l.channel)).size >= channels &&
      fits(e),
  )
  const chip = there ?? newExpander(rig, boardId, kind, 1, id())
  if (!chip) return null
  const grown = there ? rig : apply(rig, [addRow('expander', chip)])
  const used = new Set(leadsOnExpander(grown, chip.id).map((l) => l.channel))
  return {
    chip,
    rig: grown,
    adds: there ? [] : [addRow('expander', chip)],
    free: Array.from({ length: kind.channelsPerChip }, (_, c) => c).filter((c) => !used.has(c)),
  }
}

/** The supply and ground of a chip that has neither yet. */
const feeding = (rig: Rig, chip: ExpanderRow, plus: LeadEnd): Wire[] => {
  const fed = linesOf(rig, chip.id).some((l) => l.terminal === 'plus')
  const from = { of: 'expander', id: chip.id } as const
  return fed
    ? []
    : [
        { from: { ...from, terminal: 'plus' }, end: plus },
        { from: { ...from, terminal: 'ground' }, end: { at: 'ground' } },
      ]
}

/** What gives at least so many volts at a board, the least of those: one of its contacts, else a supply. */
const sourceOf = (rig: Rig, board: BoardRow, least: Volts): { end: LeadEnd; volts: Volts } | null => {
  const rails = (modelOf(board)?.rails ?? []).filter((r) => r.volts >= least)
  const [rail] = rails.sort((a, b) => a.volts - b.volts)
  if (rail) return { end: { at: 'contact', boardId: board.id, pin: rail.contact }, volts: rail.volts }
  const supplies = rowsOf(rig, 'supply').filter((s) => s.volts >= least && s.groundJoined)
  const [supply] = supplies.sort((a, b) => a.volts - b.volts)
  return supply ? { end: { at: 'supply', supplyId: supply.id }, volts: supply.volts } : null
}

/**
 * Hangs a coil, or a lamp that needs more than its board gives, on a switch array that follows a pin: the one it was on
 * unless another is said. A lamp gets the resistor for that. Nothing where there is no pin or no such supply.
 */
export const throughArray = (
  rig: Rig,
  part: PartRow,
  board: BoardRow,
  lamp: { readonly forwardVolts: Volts; readonly rated: number } | null,
  id: () => string,
  followed: string | null = null,
): readonly Change[] => {
  const source = lamp
    ? sourceOf(rig, board, lamp.forwardVolts + ROOM_VOLTS)
    : (sourceOf(rig, board, COIL_VOLTS) ?? sourceOf(rig, board, 0))
  const made = chipWithRoom(rig, board.id, uln2803, 1, () => true, id)
  const channel = made?.free[0]
  if (!source || !made || channel === undefined) return []
  const line = { of: 'expander', id: made.chip.id, terminal: `in-${channel + 1}` } as const
  const driven = leadsOf(rig, part.id).find((l) => l.pin !== null && !l.shared && l.boardId === board.id)
  const pin = followed ?? driven?.pin ?? freePin(made.rig, board.id, line)
  if (pin === null) return []
  const at = (terminal: string) => ({ of: 'part', id: part.id, terminal }) as const
  const wires: Wire[] = [
    { from: at('plus'), end: source.end },
    { from: at('minus'), end: { at: 'channel', expanderId: made.chip.id, channel } },
    { from: line, end: { at: 'contact', boardId: board.id, pin } },
    ...feeding(made.rig, made.chip, source.end),
  ]
  const ohms = lamp && seriesOhms(source.volts - (uln2803.dropVolts ?? 0), lamp.forwardVolts, lamp.rated)
  const resistor = ohms === null ? null : resistorChange(rig, part.id, ohms)
  return [...made.adds, ...leadsTo(made.rig, wires, id), ...(resistor ? [resistor] : [])]
}

/** The wires by which a board drives a part, each on a pin of its own or of its line. */
const drivenLeads = (rig: Rig, part: PartRow): LeadRow[] =>
  leadsOf(rig, part.id).filter(
    (l) => l.pin !== null && l.boardId !== null && terminalAt(rig, beginningOf(l))?.role === 'drive',
  )

/** Whether a level shifter can come between a part and its board: it is fed with what the shifter works from. */
export const canShift = (plus: Volts): boolean => plus >= hct245.volts.least && plus <= hct245.volts.most

/**
 * Puts a level shifter between a part and its board. Each pin stays what it is; what hangs on it, with all that shares the
 * line, hangs on a channel that follows the pin.
 */
export const throughShifter = (
  rig: Rig,
  part: PartRow,
  board: BoardRow,
  plus: LeadRow,
  id: () => string,
): readonly Change[] => {
  const driven = drivenLeads(rig, part)
  const volts = voltsAt(rig, plus)
  const fedAlike = (e: ExpanderRow) =>
    linesOf(rig, e.id).every((l) => l.terminal !== 'plus' || voltsAt(rig, l) === volts)
  const made = chipWithRoom(rig, board.id, hct245, driven.length, fedAlike, id)
  if (!made) return []
  const wires = driven.flatMap((lead, i): Wire[] => {
    const channel = made.free[i] ?? 0
    const along = leadsOnBoard(rig, board.id).filter(
      (l) =>
        l.pin === lead.pin &&
        (l.id === lead.id || mayShare(terminalAt(rig, beginningOf(l)), terminalAt(rig, beginningOf(lead)))),
    )
    return [
      ...along.map((l): Wire => {
        const end: LeadEnd = { at: 'channel', expanderId: made.chip.id, channel }
        return { from: beginningOf(l), end }
      }),
      {
        from: { of: 'expander', id: made.chip.id, terminal: `in-${channel + 1}` },
        end: { at: 'contact', boardId: board.id, pin: lead.pin ?? '' },
      },
    ]
  })
  const end = endOfLead(plus)
  return [...made.adds, ...leadsTo(made.rig, [...wires, ...feeding(made.rig, made.chip, end)], id)]
}

/** Whether a bus shifter can come between a board and what pulls its bus up higher. */
export const canShiftBus = (low: Volts, high: Volts): boolean =>
  low >= bss138.volts.least && high > low && high <= bss138.volts.most

/**
 * Puts a bus shifter between a part and its board's two-wire bus: one of the board's that is fed alike, or a new one. What
 * runs at the board's own voltage stays where it is.
 */
export const throughBusShifter = (
  rig: Rig,
  part: PartRow,
  board: BoardRow,
  plus: LeadRow,
  id: () => string,
): readonly Change[] => {
  const model = modelOf(board)
  const low = model?.rails.find((r) => r.volts === model.logicVolts)
  const bus = leadsOf(rig, part.id).flatMap((lead) => {
    const role = terminalAt(rig, beginningOf(lead))?.role
    return role === 'two-wire-data'
      ? [{ lead, channel: 0 }]
      : role === 'two-wire-clock'
        ? [{ lead, channel: 1 }]
        : []
  })
  if (!low || bus.length === 0) return []
  const volts = voltsAt(rig, plus)
  const there = expandersOf(rig, board.id).find(
    (e) =>
      e.kind === bss138.id &&
      linesOf(rig, e.id).some((l) => l.terminal === 'plus' && voltsAt(rig, l) === volts),
  )
  const chip = there ?? newExpander(rig, board.id, bss138, 1, id())
  if (!chip) return []
  const grown = there ? rig : apply(rig, [addRow('expander', chip)])
  const at = (terminal: string) => ({ of: 'expander', id: chip.id, terminal }) as const
  const high = endOfLead(plus)
  const own: Wire[] = there
    ? []
    : [
        ...bus.map(({ lead, channel }): Wire => {
          const end: LeadEnd = { at: 'contact', boardId: board.id, pin: lead.pin ?? '' }
          return { from: at(`in-${channel + 1}`), end }
        }),
        { from: at('low'), end: { at: 'contact', boardId: board.id, pin: low.contact } },
        { from: at('plus'), end: high },
        { from: at('ground'), end: { at: 'ground' } },
      ]
  const moved = bus.map(({ lead, channel }): Wire => {
    return { from: beginningOf(lead), end: { at: 'channel', expanderId: chip.id, channel } }
  })
  return [...(there ? [] : [addRow('expander', chip)]), ...leadsTo(grown, [...moved, ...own], id)]
}
