import { railOf } from '../../catalogue/boards'
import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { addRow, type Change, changeRow } from '../../rig/edit'
import { numbered } from '../../rig/numbered'
import { leadsOf, leadsOnBoard, leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { BoardRow, LeadRow, SupplyRow } from '../../rig/rows'
import type { Milliamps } from '../../units-of-measure'
import { drawsOf } from '../draws'
import { lampCircuit, resistorChange } from '../lamp-circuit'
import { beginningOf, leadTo } from '../leads'
import { loadsOf } from '../loads'
import { nextE12 } from '../series-resistor'
import { type Cure, changed, type HarnessFinding } from './finding'

const ma = (milliamps: Milliamps): string => `${Math.round(milliamps)} mA`
const both = (load: { typical: Milliamps; most: Milliamps }): string =>
  `${ma(load.most)} at most, ${ma(load.typical)} in everyday use`

/** Parts from which more than this is taken should not hang on the board's own supply. */
const BOARD_PART_MILLIAMPS = 200
/** What supplies are sold with. */
const SUPPLY_SIZES = [
  1000, 2000, 3000, 4000, 5000, 6000, 8000, 10_000, 15_000, 20_000, 30_000, 40_000,
] as const

const nextSupply = (milliamps: Milliamps): Milliamps =>
  SUPPLY_SIZES.find((s) => s >= milliamps) ?? Math.ceil(milliamps)

/** Everything through which more flows than it can stand. */
export const currents = (rig: Rig): HarnessFinding[] => [
  ...rowsOf(rig, 'board').flatMap((board) => boardCurrents(rig, board)),
  ...expanderCurrents(rig),
  ...supplyCurrents(rig),
  ...hungryParts(rig),
]

const boardCurrents = (rig: Rig, board: BoardRow): HarnessFinding[] => {
  const model = modelOf(board)
  const load = loadsOf(rig).boards.get(board.id)
  if (!model || !load) return []
  const found: HarnessFinding[] = []
  const on = (pins: readonly string[]): readonly LeadRow[] =>
    leadsOnBoard(rig, board.id).filter((l) => l.pin !== null && pins.includes(l.pin))
  const say = (
    id: string,
    kind: HarnessFinding['kind'],
    words: string,
    leads: readonly LeadRow[],
    cure: Cure | null,
  ) =>
    found.push({
      ...{ id: `${kind} ${board.id} ${id}`, kind, words, cure },
      place: {
        partIds: leads.flatMap((l) => l.partId ?? []),
        leadIds: leads.map((l) => l.id),
        boardId: board.id,
      },
    })
  for (const [pin, most] of load.pins) {
    if (most <= model.milliampsPerPin) continue
    const leads = on([pin])
    const words = `${ma(most)} flow through ${board.name} ${pin}; a pin of this board stands ${ma(model.milliampsPerPin)}.`
    say(pin, 'pin current', words, leads, dimCure(rig, leads, most, model.milliampsPerPin))
  }
  for (const group of model.groups) {
    const through = (way: 'giving' | 'taking') =>
      load.flows
        .filter((f) => (f.way === way || f.way === 'either') && f.pins.some((p) => group.pins.includes(p)))
        .reduce((sum, f) => sum + f.milliamps, 0)
    const [giving, taking] = [through('giving'), through('taking')]
    const way = group.only === 'taking' || (group.only === undefined && taking > giving) ? 'taking' : 'giving'
    const most = way === 'taking' ? taking : giving
    if (most <= group.milliamps) continue
    const leads = on(group.pins)
    const words =
      way === 'taking'
        ? `${ma(most)} flow into ${group.name} of ${board.name} together; these stand ${ma(group.milliamps)}.`
        : `${ma(most)} flow out of ${group.name} of ${board.name} together; these stand ${ma(group.milliamps)}.`
    say(`${way} ${group.name}`, 'group current', words, leads, dimCure(rig, leads, most, group.milliamps))
  }
  if (load.allPins.most > model.milliampsAllPins) {
    const leads = on([...load.pins.keys()])
    const words = `The pins of ${board.name} give ${both(load.allPins)}; all of them together stand ${ma(model.milliampsAllPins)}. Lamps belong on a lamp driver, motors on a motor driver.`
    say('all', 'board current', words, leads, dimCure(rig, leads, load.allPins.most, model.milliampsAllPins))
  }
  if (load.taken.most > model.milliampsAllPins) {
    const leads = on([...load.pins.keys()])
    const words = `The pins of ${board.name} take in ${both(load.taken)}; through its ground go ${ma(model.milliampsAllPins)}. Lamps belong on a lamp driver, motors on a motor driver.`
    say('ground', 'board current', words, leads, dimCure(rig, leads, load.taken.most, model.milliampsAllPins))
  }
  for (const [contact, rail] of load.rails) {
    const limit = railOf(model, contact)?.milliamps
    // What USB gives is looked at for the board as a whole.
    if (limit === undefined || rail.most <= limit || load.total.most > load.limit) continue
    const leads = on([contact])
    const words = `${board.name} ${contact} gives ${both(rail)}; it stands ${ma(limit)}.`
    const weak = railOf(model, contact)?.volts !== 5
    say(
      contact,
      'rail current',
      words,
      leads,
      weak ? toStronger(rig, board, leads) : feedApart(rig, board, rail.most),
    )
  }
  if (load.supplyId === null && load.total.most > load.limit) {
    const words = `${board.name} and what hangs on it take ${both(load.total)}; the computer's port gives ${ma(load.limit)}. When it is too much, the port switches off and the board is gone.`
    say('usb', 'usb current', words, [], feedApart(rig, board, load.total.most))
  }
  return found
}

/** Larger series resistors, so that all lamps among these together stay within the limit. */
const dimCure = (rig: Rig, leads: readonly LeadRow[], most: Milliamps, limit: Milliamps): Cure | null => {
  const lamps = leads.flatMap((l) => {
    const part = rig.part[l.partId ?? '']
    const lamp = part && lampCircuit(rig, part)
    return part && lamp && lamp.driven.id === l.id && !lamp.inductive && !lamp.held ? [{ part, lamp }] : []
  })
  const lit = lamps.reduce((sum, l) => sum + l.lamp.milliamps, 0)
  const left = limit - (most - lit)
  if (lamps.length === 0 || left <= 0) return null
  const share = left / lit
  const changes = () =>
    lamps.flatMap(({ part, lamp }) => {
      const ohms = nextE12((lamp.volts - lamp.forwardVolts) / ((lamp.milliamps * share) / 1000))
      return changed(resistorChange(rig, part.id, ohms))
    })
  // Dimmed to a tenth they would light nothing: that is no cure.
  if (share < 0.2) return null
  const words = `Larger resistors for ${lamps.length === 1 ? `“${lamps[0]?.part.name}”` : `${lamps.length} lamps`}: ${Math.round(share * 100)} % of their current`
  return { words, changes }
}

/** A supply that has so much left; or a new one, with the change that adds it. */
const supplyWith = (
  rig: Rig,
  milliamps: Milliamps,
  id: () => string,
): { supply: SupplyRow; adds: readonly Change[] } => {
  const { supplies } = loadsOf(rig)
  const roomy = rowsOf(rig, 'supply').find(
    (s) =>
      s.volts === 5 &&
      s.maxMilliamps >= 1000 &&
      s.maxMilliamps - (supplies.get(s.id)?.most ?? 0) >= milliamps,
  )
  if (roomy) return { supply: roomy, adds: [] }
  const supply: SupplyRow = {
    ...{ id: id(), volts: 5, groundJoined: true, plusJoinedTo: null },
    name: numbered('5 V supply', new Set(rowsOf(rig, 'supply').map((s) => s.name))),
    maxMilliamps: nextSupply(milliamps * 1.25),
  }
  return { supply, adds: [addRow('supply', supply)] }
}

/** Whatever takes current from a board's contacts is fed by a supply of its own. */
const feedApart = (rig: Rig, board: BoardRow, milliamps: Milliamps): Cure => ({
  words: 'Feed what hangs on its 5 V from a supply of its own',
  changes: (id) => {
    const { supply, adds } = supplyWith(rig, milliamps, id)
    const model = modelOf(board)
    const fed = leadsOnBoard(rig, board.id).filter(
      (l) => l.pin !== null && model && railOf(model, l.pin)?.volts === 5 && !isMeasured(rig, l),
    )
    return [
      ...adds,
      ...fed.flatMap((l) => changed(leadTo(rig, beginningOf(l), { at: 'supply', supplyId: supply.id }, id))),
    ]
  },
})

/** From a weak contact of a board to its 5 V, where the board's own levels fit that. */
const toStronger = (rig: Rig, board: BoardRow, leads: readonly LeadRow[]): Cure | null => {
  const model = modelOf(board)
  const strong = model?.rails.find((r) => r.volts === 5)
  if (!model || !strong || model.logicVolts < 5) return null
  const end = { at: 'contact', boardId: board.id, pin: strong.contact } as const
  return {
    words: `Feed it from ${strong.contact} instead`,
    changes: (id) => leads.flatMap((l) => changed(leadTo(rig, beginningOf(l), end, id))),
  }
}

/** A lever or ladder is measured against the board's own supply. */
const isMeasured = (rig: Rig, lead: LeadRow): boolean => {
  const part = rig.part[lead.partId ?? '']
  return (part && kindOf(part)?.terminals.some((t) => t.role === 'wiper')) ?? false
}

const expanderCurrents = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'expander').flatMap((expander): HarnessFinding[] => {
    const kind = expanderKind(expander.kind)
    const load = loadsOf(rig).expanders.get(expander.id)
    if (!kind || !load) return []
    const leads = leadsOnExpander(rig, expander.id)
    const found: HarnessFinding[] = []
    const say = (id: string, words: string, at: readonly LeadRow[], cure: Cure | null) =>
      found.push({
        ...{ id: `expander current ${expander.id} ${id}`, kind: 'expander current', words, cure },
        place: {
          partIds: at.flatMap((l) => l.partId ?? []),
          leadIds: at.map((l) => l.id),
          expanderId: expander.id,
        },
      })
    for (const [channel, most] of load.channels) {
      if (most <= kind.milliampsPerChannel) continue
      const at = leads.filter((l) => l.channel === channel)
      const words = `${ma(most)} flow through ${expander.name} channel ${channel}; it stands ${ma(kind.milliampsPerChannel)}.`
      say(`${channel}`, words, at, dimCure(rig, at, most, kind.milliampsPerChannel))
    }
    for (let chip = 0; chip < expander.chips; chip++) {
      const on = leads.filter((l) => Math.floor((l.channel ?? 0) / kind.channelsPerChip) === chip)
      const most = on.reduce((sum, l) => sum + (load.channels.get(l.channel ?? -1) ?? 0), 0)
      if (most <= kind.milliampsPerChip) continue
      const which = expander.chips > 1 ? `chip ${chip + 1} of ${expander.name}` : expander.name
      const words = `${ma(most)} flow through ${which} when all is lit; the chip stands ${ma(kind.milliampsPerChip)}.`
      say(`chip ${chip}`, words, on, dimCure(rig, on, most, kind.milliampsPerChip))
    }
    return found
  })

const supplyCurrents = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'supply').flatMap((supply): HarnessFinding[] => {
    const load = loadsOf(rig).supplies.get(supply.id)
    if (!load || load.most <= supply.maxMilliamps) return []
    const maxMilliamps = nextSupply(load.most)
    return [
      {
        id: `supply current ${supply.id}`,
        kind: 'supply current',
        words: `${supply.name} has to give ${both(load)}; it can give ${ma(supply.maxMilliamps)}.`,
        place: { partIds: [], leadIds: [], supplyId: supply.id },
        cure: {
          words: `Use one of ${supply.volts} V, ${maxMilliamps / 1000} A`,
          changes: () => changed(changeRow('supply', supply, { ...supply, maxMilliamps })),
        },
      },
    ]
  })

/** Servos and strips that hang on the board's own supply. */
const hungryParts = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'part').flatMap((part): HarnessFinding[] => {
    const kind = kindOf(part)
    const most = drawsOf(part)?.mostMa ?? 0
    const isHungry = kind?.aspects.some(
      (a) => a.kind === 'colour' || (a.kind === 'needle' && a.drive === 'servo'),
    )
    if (!kind || !isHungry || most < BOARD_PART_MILLIAMPS) return []
    const plus = kind.terminals.find((t) => t.role === 'plus')?.id
    const lead = leadsOf(rig, part.id).find((l) => l.terminal === plus)
    const board = rig.board[lead?.boardId ?? '']
    if (!lead || !board) return []
    return [
      {
        id: `board supply ${part.id}`,
        kind: 'board supply',
        words: `“${part.name}” takes up to ${ma(most)} and hangs on ${board.name} ${lead.pin}: the board's supply dips when it moves or lights, and the board starts anew.`,
        place: { partIds: [part.id], leadIds: [lead.id], boardId: board.id },
        cure: {
          words: 'Feed it from a supply of its own',
          changes: (id) => {
            const { supply, adds } = supplyWith(rig, most, id)
            return [
              ...adds,
              ...changed(leadTo(rig, beginningOf(lead), { at: 'supply', supplyId: supply.id }, id)),
            ]
          },
        },
      },
    ]
  })
