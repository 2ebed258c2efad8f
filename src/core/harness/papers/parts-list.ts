import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { PartRow } from '../../rig/rows'
import { lampCircuit } from '../lamp-circuit'

export interface PartsLine {
  readonly count: number
  readonly what: string
  readonly value: string
  readonly note: string
}

/** What to buy for one panel alone: its parts, their resistors, their wires. */
export const panelPartsList = (rig: Rig, panelId: string): PartsLine[] => {
  const own = rowsOf(rig, 'part').filter((p) => p.panelId === panelId)
  const ids = new Set(own.map((p) => p.id))
  return [
    ...counted(own.map((p) => ({ what: kindOf(p)?.name ?? p.kind, value: '', note: p.name }))),
    ...counted(own.flatMap((p) => resistorOf(rig, p))),
    ...counted(
      rowsOf(rig, 'lead')
        .filter((l) => ids.has(l.partId ?? ''))
        .map((l) => ({ what: 'Wire', value: l.colour, note: 'pieces; lengths are in the wire list' })),
    ),
  ]
}

/** Everything to be bought, counted: parts, boards, chips, resistors, supplies, wire by colour. */
export const partsList = (rig: Rig): PartsLine[] => [
  ...counted(
    rowsOf(rig, 'part').map((p) => ({
      what: kindOf(p)?.name ?? p.kind,
      value: '',
      note: rig.panel[p.panelId]?.name ?? '',
    })),
  ),
  ...counted(
    rowsOf(rig, 'board').map((b) => ({
      what: modelOf(b)?.name ?? b.model,
      value: '',
      note: b.name,
    })),
  ),
  ...rowsOf(rig, 'expander').map((e) => {
    const kind = expanderKind(e.kind)
    return { count: e.chips, what: kind?.name ?? e.kind, value: '', note: e.name }
  }),
  ...counted(resistors(rig)),
  ...counted(
    rowsOf(rig, 'supply').map((s) => ({
      what: 'Supply',
      value: `${s.volts} V, ${s.maxMilliamps / 1000} A`,
      note: s.name,
    })),
  ),
  ...counted(
    rowsOf(rig, 'lead').map((l) => ({
      what: 'Wire',
      value: l.colour,
      note: 'pieces; lengths are in the wire list',
    })),
  ),
]

type Line = Omit<PartsLine, 'count'>

const resistorOf = (rig: Rig, p: PartRow): Line[] => {
  const lamp = lampCircuit(rig, p)
  if (!lamp || lamp.held || lamp.inductive || p.settings.seriesOhms === undefined) return []
  return [{ what: 'Resistor', value: `${p.settings.seriesOhms} Ω`, note: 'in series with a lamp' }]
}

/** Series resistors of lamps, and the pull-ups that an expander lacks. */
const resistors = (rig: Rig): Line[] => [
  ...rowsOf(rig, 'part').flatMap((p) => resistorOf(rig, p)),
  ...rowsOf(rig, 'expander').flatMap((e): Line[] => {
    const kind = expanderKind(e.kind)
    if (!kind?.pullUpKiloohms) return []
    const value = `${kind.pullUpKiloohms} kΩ`
    return leadsOnExpander(rig, e.id).map(() => ({
      what: 'Resistor',
      value,
      note: `from a channel of ${e.name} to plus`,
    }))
  }),
]

/** The same things in one line, with every note once, in the order in which they first come. */
const counted = (lines: readonly Line[]): PartsLine[] => {
  const found = new Map<string, { count: number; what: string; value: string; notes: Set<string> }>()
  for (const { what, value, note } of lines) {
    const line = found.get(`${what} ${value}`)
    if (line) {
      line.count++
      line.notes.add(note)
    } else found.set(`${what} ${value}`, { count: 1, what, value, notes: new Set([note]) })
  }
  return [...found.values()].map(({ notes, ...line }) => ({ ...line, note: [...notes].join(', ') }))
}
