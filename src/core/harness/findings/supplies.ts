import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import type { PartKind } from '../../catalogue/part-kind'
import { apply, changeRow, squash } from '../../rig/edit'
import { boardOfLead, leadsOf, linesOf, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, LeadRow, PartRow } from '../../rig/rows'
import type { Volts } from '../../units-of-measure'
import { canShift, canShiftBus, throughBusShifter, throughShifter } from '../between'
import { drawsOf } from '../draws'
import { voltsAt } from '../lamp-circuit'
import { beginningOf, leadTo } from '../leads'
import { channelNeed } from '../wiring'
import { asSentence, type Cure, changed, type HarnessFinding, placeOf, wireWords } from './finding'

/** A chip at this share of its own supply counts a level as high, as 74HC and WS2812 data sheets have it. */
const HIGH_SHARE = 0.7
/** Parts from which more than this is taken should not hang on the board's own supply. */
const BOARD_PART_MILLIAMPS = 200
/** What a board of 3.3 V stands on a pin. */
const SLACK_VOLTS = 0.3

/** Separate supplies whose minus is not joined, or whose plus is. */
export const joins = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'supply').flatMap((supply): HarnessFinding[] => {
    const found: HarnessFinding[] = []
    const leads = rowsOf(rig, 'lead').filter((l) => l.supplyId === supply.id)
    const feeds = leads.length > 0 || rowsOf(rig, 'board').some((b) => b.supplyId === supply.id)
    const place = {
      partIds: leads.flatMap((l) => l.partId ?? []),
      leadIds: leads.map((l) => l.id),
      supplyId: supply.id,
    }
    if (feeds && !supply.groundJoined)
      found.push({
        id: `ground ${supply.id}`,
        kind: 'ground',
        words: `The minus of ${supply.name} is not joined to the boards' ground. Lamps on it all light and never go out, servos twitch, displays show nothing: the board's levels mean nothing to what this supply feeds.`,
        place,
        cure: {
          words: 'Join its minus to the boards’ ground',
          changes: () => changed(changeRow('supply', supply, { ...supply, groundJoined: true })),
        },
      })
    if (supply.plusJoinedTo !== null) {
      const other = rig.supply[supply.plusJoinedTo]?.name ?? rig.board[supply.plusJoinedTo]?.name ?? 'another'
      found.push({
        id: `joined plus ${supply.id}`,
        kind: 'joined plus',
        words: `The plus of ${supply.name} is joined to that of ${other}: the stronger of the two drives current into the other, and into the computer. Only minus is joined, never plus.`,
        place,
        cure: {
          words: 'Take the joint off',
          changes: () => changed(changeRow('supply', supply, { ...supply, plusJoinedTo: null })),
        },
      })
    }
    return found
  })

/** What stands at 5 V where 3.3 V are meant, and the other way round. */
export const voltages = (rig: Rig): HarnessFinding[] => [
  ...rowsOf(rig, 'part').flatMap((part) => partVoltages(rig, part)),
  ...expanderVoltages(rig),
]

const boardsOfPart = (rig: Rig, part: PartRow): BoardRow[] => {
  const ids = new Set(leadsOf(rig, part.id).flatMap((l) => (l.shared ? [] : (boardOfLead(rig, l) ?? []))))
  const bus = leadsOf(rig, part.id).find((l) => l.shared && l.boardId !== null)
  if (ids.size === 0 && bus?.boardId) ids.add(bus.boardId)
  return [...ids].flatMap((id) => rig.board[id] ?? [])
}

/** Feeds something from the board's own logic supply; what works from certain volts only, from a contact that has those. */
const feedFrom = (
  rig: Rig,
  lead: LeadRow,
  board: BoardRow,
  works?: { readonly least: Volts; readonly most: Volts },
): Cure | null => {
  const model = modelOf(board)
  const { least, most } = works ?? { least: model?.logicVolts ?? 0, most: model?.logicVolts ?? 0 }
  const rails = model?.rails.filter((r) => r.volts >= least && r.volts <= most) ?? []
  const rail = rails.find((r) => r.volts === model?.logicVolts) ?? rails[0]
  return rail
    ? {
        words: `Feed it from ${board.name} ${rail.contact}`,
        changes: (id) =>
          changed(
            leadTo(rig, beginningOf(lead), { at: 'contact', boardId: board.id, pin: rail.contact }, id),
          ),
      }
    : null
}

/** A cure with that of what it would leave wrong with the same part: right volts may need a shifter for its lines. */
const thenMended = (rig: Rig, part: PartRow, cure: Cure | null): Cure | null => {
  if (!cure) return null
  const next = partVoltages(
    apply(
      rig,
      cure.changes(() => ''),
    ),
    part,
  )[0]?.cure
  if (!next) return cure
  return {
    words: `${cure.words}, and ${next.words.charAt(0).toLowerCase()}${next.words.slice(1)}`,
    changes: (id) => {
      const first = cure.changes(id)
      const after = apply(rig, first)
      return squash([first, partVoltages(after, part)[0]?.cure?.changes(id) ?? []])
    },
  }
}

/** From a contact of the board that has what it works from, else from a supply that does. */
const feedRight = (
  rig: Rig,
  lead: LeadRow,
  board: BoardRow,
  works: { readonly least: Volts; readonly most: Volts },
): Cure | null => {
  const supply = rowsOf(rig, 'supply').find(
    (s) => s.groundJoined && s.volts >= works.least && s.volts <= works.most,
  )
  // What takes much current is not hung on the board itself.
  const part = rig.part[lead.partId ?? '']
  const hungry = ((part && drawsOf(part)?.mostMa) ?? 0) > BOARD_PART_MILLIAMPS
  if (supply && (hungry || !feedFrom(rig, lead, board, works)))
    return {
      words: `Feed it from ${supply.name}`,
      changes: (id) => changed(leadTo(rig, beginningOf(lead), { at: 'supply', supplyId: supply.id }, id)),
    }
  return feedFrom(rig, lead, board, works)
}

/** Whether its bus hangs on the board's own pins, with nothing between. */
const isOnBareBus = (rig: Rig, part: PartRow): boolean => {
  const bus = kindOf(part)?.terminals.filter((t) => t.role === 'two-wire-data' || t.role === 'two-wire-clock')
  return leadsOf(rig, part.id).some((l) => l.pin !== null && bus?.some((t) => t.id === l.terminal))
}

const driveTerminals = (kind: PartKind) =>
  kind.aspects.every((a) => a.kind === 'needle') ? [] : kind.terminals.filter((t) => t.role === 'drive')

/** Whether a pin itself drives any of its lines, with nothing between. */
const isDrivenBare = (rig: Rig, part: PartRow, kind: PartKind): boolean => {
  const driven = new Set(driveTerminals(kind).map((t) => t.id))
  return leadsOf(rig, part.id).some((l) => l.pin !== null && driven.has(l.terminal))
}

/** Whether all its lines go one way, so that a chip may come between. */
const goesThrough = (kind: PartKind): boolean =>
  driveTerminals(kind).every((t) => channelNeed(kind, t) === 'line')

const partVoltages = (rig: Rig, part: PartRow): HarnessFinding[] => {
  const kind = kindOf(part)
  const plusId = kind?.terminals.find((t) => t.role === 'plus')?.id
  const plus = leadsOf(rig, part.id).find((l) => l.terminal === plusId)
  const volts = voltsAt(rig, plus)
  const [board] = boardsOfPart(rig, part)
  const model = modelOf(board)
  if (!kind || !plus || volts === null || !board || !model) return []
  const base = { place: { ...placeOf(plus), boardId: board.id } }
  const measured = kind.terminals.some((t) => t.role === 'wiper')
  if (measured && volts > model.logicVolts + SLACK_VOLTS) {
    const words = `“${part.name}” is fed with ${volts} V and measured by ${board.name}, whose pins stand ${model.logicVolts} V: its wiper would destroy the pin.`
    return [{ ...base, id: `voltage ${part.id}`, kind: 'voltage', words, cure: feedFrom(rig, plus, board) }]
  }
  const works = kind.volts
  if (works && (volts < works.least || volts > works.most)) {
    const words = `“${part.name}” is fed with ${volts} V; it works from ${works.least} V to ${works.most} V.`
    const cure = thenMended(rig, part, feedRight(rig, plus, board, works))
    return [{ ...base, id: `voltage ${part.id}`, kind: 'voltage', words, cure }]
  }
  if (isOnBareBus(rig, part) && volts > model.logicVolts + SLACK_VOLTS) {
    const words = `“${part.name}” pulls the two-wire bus up to ${volts} V; the pins of ${board.name} stand ${model.logicVolts} V.`
    const runsLow = model.logicVolts >= (works?.least ?? 0)
    const cure = runsLow
      ? feedFrom(rig, plus, board)
      : canShiftBus(model.logicVolts, volts)
        ? {
            words: 'Put a BSS138 bus shifter between',
            changes: (id: () => string) => throughBusShifter(rig, part, board, plus, id),
          }
        : null
    return [{ ...base, id: `voltage ${part.id}`, kind: 'voltage', words, cure }]
  }
  const high = kind.highVolts ?? volts * HIGH_SHARE
  if (model.logicVolts < high && isDrivenBare(rig, part, kind)) {
    const shifts = goesThrough(kind) && canShift(volts)
    const words = `“${part.name}” is fed with ${volts} V and takes only ${high.toFixed(1)} V for high; ${board.name} gives ${model.logicVolts} V: it flickers or shows nothing. It needs ${shifts ? 'a level shifter' : 'less supply'}.`
    const cure = shifts
      ? {
          words: 'Put a 74HCT245 between',
          changes: (id: () => string) => throughShifter(rig, part, board, plus, id),
        }
      : feedFrom(rig, plus, board)
    return [{ ...base, id: `voltage ${part.id}`, kind: 'voltage', words, cure }]
  }
  return []
}

const expanderVoltages = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'expander').flatMap((expander): HarnessFinding[] => {
    const kind = expanderKind(expander.kind)
    const board = rig.board[expander.boardId]
    const model = modelOf(board)
    const plus = linesOf(rig, expander.id).find((l) => l.terminal === 'plus')
    const volts = voltsAt(rig, plus)
    if (!kind || !board || !model || !plus || volts === null) return []
    const cure = feedFrom(rig, plus, board, kind.volts)
    const say = (words: string): HarnessFinding[] => [
      {
        ...{ id: `voltage ${expander.id}`, kind: 'voltage' as const, words: asSentence(words), cure },
        place: { partIds: [], leadIds: [plus.id], expanderId: expander.id, boardId: board.id },
      },
    ]
    if (volts < kind.volts.least || volts > kind.volts.most)
      return say(
        `${wireWords(rig, plus)} feeds ${expander.name} with ${volts} V; it works from ${kind.volts.least} V to ${kind.volts.most} V.`,
      )
    if (kind.follows) return []
    const answers = kind.lines.some((l) => l.role === 'signal' || l.role === 'two-wire-data')
    if (answers && volts > model.logicVolts + SLACK_VOLTS)
      return say(
        `${expander.name} is fed with ${volts} V and answers with as much; the pins of ${board.name} stand ${model.logicVolts} V.`,
      )
    if (model.logicVolts < volts * HIGH_SHARE)
      return say(
        `${expander.name} at ${volts} V takes only ${(volts * HIGH_SHARE).toFixed(1)} V for high; ${board.name} gives ${model.logicVolts} V, so it hears nothing or the wrong thing.`,
      )
    return []
  })
