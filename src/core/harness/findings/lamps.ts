import { expanderKind } from '../../catalogue/expanders'
import { uln2803 } from '../../catalogue/expanders/uln2803'
import { modelOf } from '../../catalogue/own-board'
import { addRow, apply, type Change } from '../../rig/edit'
import { expandersOf, leadsOf, leadsOnExpander, linesOf, type Rig, rowsOf } from '../../rig/rig'
import type { PartRow } from '../../rig/rows'
import { type LampCircuit, lampCircuit } from '../lamp-circuit'
import { type LeadEnd, leadsTo } from '../leads'
import { newExpander } from '../new-expander'
import { seriesOhms } from '../series-resistor'
import { changed, freePin, type HarnessFinding, resistorChange } from './finding'

const ma = (milliamps: number): string => `${Number(milliamps.toFixed(milliamps < 10 ? 1 : 0))} mA`

/** A resistor lets up to so much more than the lamp's current through before it is called wrong, and at least so little. */
const MOST = 1.25
const LEAST = 0.15

const lampsOf = (rig: Rig): { part: PartRow; lamp: LampCircuit }[] =>
  rowsOf(rig, 'part').flatMap((part) => {
    const lamp = lampCircuit(rig, part)
    return lamp ? [{ part, lamp }] : []
  })

/** Lamps without a series resistor, with the wrong one, or on a supply that cannot light them. */
export const resistors = (rig: Rig): HarnessFinding[] =>
  lampsOf(rig).flatMap(({ part, lamp }): HarnessFinding[] => {
    if (lamp.held || lamp.inductive || lamp.volts === 0) return []
    const place = { partIds: [part.id], leadIds: [lamp.driven.id], boardId: lamp.driven.boardId ?? undefined }
    const right = seriesOhms(lamp.volts, lamp.forwardVolts, lamp.rated)
    if (right === null) {
      const words = `“${part.name}” needs ${lamp.forwardVolts} V to light; ${lamp.volts} V leave nothing for its resistor, so it stays dark or flickers.`
      return [{ id: `voltage ${part.id}`, kind: 'voltage', words, place, cure: null }]
    }
    const ohms = part.settings.seriesOhms
    const cure = {
      words: `Give it ${right} Ω`,
      changes: () => changed(resistorChange(rig, part.id, right)),
    }
    const sum = `(${lamp.volts} V − ${lamp.forwardVolts} V) / ${ma(lamp.rated)}, next E12 value: ${right} Ω`
    if (ohms === undefined) {
      const words = `“${part.name}” has no series resistor: it takes more current than it or its pin can stand. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    if (lamp.milliamps > lamp.rated * MOST) {
      const words = `With ${ohms} Ω, ${ma(lamp.milliamps)} flow through “${part.name}”, which is made for ${ma(lamp.rated)}. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    if (lamp.milliamps < lamp.rated * LEAST) {
      const words = `With ${ohms} Ω, only ${ma(lamp.milliamps)} of ${ma(lamp.rated)} flow through “${part.name}”: it will hardly be seen. ${sum}.`
      return [{ id: `resistor ${part.id}`, kind: 'resistor', words, place, cure }]
    }
    return []
  })

/** Coils that a pin or a chip without protection switches. */
export const inductives = (rig: Rig): HarnessFinding[] =>
  lampsOf(rig).flatMap(({ part, lamp }): HarnessFinding[] => {
    if (!lamp.inductive || expanderKind(lamp.expander?.kind ?? '')?.inductive) return []
    const boardId = lamp.expander?.boardId ?? lamp.driven.boardId ?? undefined
    return [
      {
        id: `inductive ${part.id}`,
        kind: 'inductive',
        words: `“${part.name}” is a coil: when it is switched off it gives back a voltage that kills a bare pin. It needs a switch with a diode between.`,
        place: { partIds: [part.id], leadIds: [lamp.driven.id], boardId },
        cure:
          boardId === undefined
            ? null
            : { words: 'Put a ULN2803 between', changes: (id) => throughArray(rig, part, boardId, id) },
      },
    ]
  })

/** Hangs a coil on a switch array: one of the board's that has a channel left, or a new one. */
const throughArray = (rig: Rig, part: PartRow, boardId: string, id: () => string): readonly Change[] => {
  const changes: Change[] = []
  const there = expandersOf(rig, boardId).find(
    (e) => e.kind === uln2803.id && leadsOnExpander(rig, e.id).length < uln2803.channelsPerChip,
  )
  const array = there ?? newExpander(rig, boardId, uln2803, 1, id())
  if (!array) return []
  if (!there) changes.push(addRow('expander', array))
  const grown = apply(rig, changes)
  const used = new Set(leadsOnExpander(grown, array.id).map((l) => l.channel))
  const channel = [0, 1, 2, 3, 4, 5, 6, 7].find((c) => !used.has(c)) ?? 0
  const leads = leadsOf(rig, part.id)
  const driven = leads.find((l) => l.pin !== null && !l.shared && l.boardId === boardId)
  const line = { of: 'expander', id: array.id, terminal: `in-${channel + 1}` } as const
  const pin = driven?.pin ?? freePin(grown, boardId, line)
  if (pin === null) return []
  const rail = modelOf(rig.board[boardId])?.rails[0]?.contact ?? '5V'
  const plus: LeadEnd = { at: 'contact', boardId, pin: rail }
  const at = (terminal: string) => ({ of: 'part', id: part.id, terminal }) as const
  const wires = [
    { from: at('plus'), end: plus },
    { from: at('minus'), end: { at: 'channel', expanderId: array.id, channel } as const },
    { from: line, end: { at: 'contact', boardId, pin } as const },
    ...(linesOf(grown, array.id).length > 0
      ? []
      : [
          { from: { ...line, terminal: 'plus' }, end: plus },
          { from: { ...line, terminal: 'ground' }, end: { at: 'ground' } as const },
        ]),
  ]
  return [...changes, ...leadsTo(grown, wires, id)]
}
