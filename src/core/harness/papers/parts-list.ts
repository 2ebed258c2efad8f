import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { ExpanderRow, PartRow, PurchaseRow } from '../../rig/rows'
import type { Milliamps } from '../../units-of-measure'
import { cameWithDevice, isInside } from '../given'
import { lampCircuit } from '../lamp-circuit'
import { USUAL_WATTS, wattWords } from '../resistor-heat'
import { nextE12 } from '../series-resistor'

export interface PartsLine {
  readonly count: number
  readonly what: string
  readonly value: string
  /** Where it goes. */
  readonly use: string
  /** What the builder has noted about it. */
  readonly note: string
  readonly link: string
  readonly price: number | null
}

/** What to buy for one panel alone: its parts, their resistors, their wires. */
export const panelPartsList = (rig: Rig, panelId: string): PartsLine[] => {
  const own = rowsOf(rig, 'part').filter((p) => p.panelId === panelId && !cameWithDevice(rig, p.id))
  const ids = new Set(own.map((p) => p.id))
  return noted(rig, [
    ...own.map((p) => ({ what: kindOf(p)?.name ?? p.kind, value: '', use: p.name })),
    ...own.flatMap((p) => resistorOf(rig, p)),
    ...rowsOf(rig, 'lead')
      .filter((l) => ids.has(l.partId ?? ''))
      .map((l) => wire(l.colour)),
  ])
}

/** Everything to be bought, counted: parts, boards, chips, resistors, supplies, wire by colour. */
export const partsList = (rig: Rig): PartsLine[] =>
  noted(rig, [
    ...rowsOf(rig, 'part')
      .filter((p) => !cameWithDevice(rig, p.id))
      .map((p) => ({
        what: kindOf(p)?.name ?? p.kind,
        value: '',
        use: rig.panel[p.panelId]?.name ?? '',
      })),
    ...rowsOf(rig, 'board').map((b) => ({
      what: modelOf(b)?.name ?? b.model,
      value: '',
      use: b.name,
    })),
    ...rowsOf(rig, 'expander').flatMap((e) => {
      const what = expanderKind(e.kind)?.name ?? e.kind
      return Array.from({ length: e.chips }, () => ({ what, value: '', use: e.name }))
    }),
    ...rowsOf(rig, 'part').flatMap((p) => resistorOf(rig, p)),
    ...rowsOf(rig, 'expander').flatMap((e) => [...pullUps(rig, e), ...setResistors(rig, e)]),
    ...rowsOf(rig, 'supply').map((s) => ({
      what: 'Supply',
      value: `${s.volts} V, ${s.maxMilliamps / 1000} A`,
      use: s.name,
    })),
    ...rowsOf(rig, 'lead')
      .filter((l) => !isInside(rig, l))
      .map((l) => wire(l.colour)),
  ])

interface Line {
  readonly what: string
  readonly value: string
  readonly use: string
}

const wire = (colour: string): Line => ({
  what: 'Wire',
  value: colour,
  use: 'pieces; lengths are in the wire list',
})

const ohmWords = (ohms: number): string => (ohms >= 1000 ? `${ohms / 1000} kΩ` : `${ohms} Ω`)

const resistorOf = (rig: Rig, p: PartRow): Line[] => {
  const lamp = lampCircuit(rig, p)
  if (!lamp || lamp.held || lamp.inductive || p.settings.seriesOhms === undefined) return []
  const watts = p.settings.seriesWatts ?? USUAL_WATTS
  const value = `${ohmWords(p.settings.seriesOhms)}${watts === USUAL_WATTS ? '' : `, ${wattWords(watts)}`}`
  return [{ what: 'Resistor', value, use: 'in series with a lamp' }]
}

/** The pull-ups that an expander lacks. */
const pullUps = (rig: Rig, e: ExpanderRow): Line[] => {
  const kiloohms = expanderKind(e.kind)?.pullUpKiloohms
  if (!kiloohms) return []
  return leadsOnExpander(rig, e.id).map(() => ({
    what: 'Resistor',
    value: ohmWords(kiloohms * 1000),
    use: `from a channel of ${e.name} to plus`,
  }))
}

/** The least that any lamp on a chip is made for: all of its channels give the same. */
const chipMilliamps = (rig: Rig, e: ExpanderRow, chip: number): Milliamps | null => {
  const kind = expanderKind(e.kind)
  const lamps = leadsOnExpander(rig, e.id)
    .filter((l) => kind && Math.floor((l.channel ?? 0) / kind.channelsPerChip) === chip)
    .flatMap((l) => {
      const part = rig.part[l.partId ?? '']
      return (part && kindOf(part)?.electrical?.milliamps) ?? []
    })
  return lamps.length === 0 ? null : Math.min(...lamps)
}

/** The resistor by which each chip of a driver sets the current of its lamps, reckoned from those. */
const setResistors = (rig: Rig, e: ExpanderRow): Line[] => {
  const setBy = expanderKind(e.kind)?.setBy
  if (!setBy) return []
  return Array.from({ length: e.chips }, (_, chip) => chipMilliamps(rig, e, chip)).flatMap(
    (milliamps, chip) => {
      if (milliamps === null) return []
      const ohms = nextE12((setBy.times * setBy.volts) / (milliamps / 1000))
      const which = e.chips > 1 ? `${e.name} chip ${chip + 1}` : e.name
      return [{ what: 'Resistor', value: ohmWords(ohms), use: `sets ${which} to ${milliamps} mA` }]
    },
  )
}

/** By what a line of the list is known. */
export const purchaseKey = (what: string, value: string): string => JSON.stringify([what, value])

const purchases = (rig: Rig): ReadonlyMap<string, PurchaseRow> =>
  new Map(rowsOf(rig, 'purchase').map((p) => [purchaseKey(p.what, p.value), p]))

/** The same things in one line, with every use once, in the order in which they first come, and what is noted of them. */
const noted = (rig: Rig, lines: readonly Line[]): PartsLine[] => {
  const known = purchases(rig)
  const found = new Map<string, { count: number; what: string; value: string; uses: Set<string> }>()
  for (const { what, value, use } of lines) {
    const key = purchaseKey(what, value)
    const line = found.get(key)
    if (line) {
      line.count++
      line.uses.add(use)
    } else found.set(key, { count: 1, what, value, uses: new Set([use]) })
  }
  return [...found].map(([key, { uses, ...line }]) => {
    const { note = '', link = '', price = null } = known.get(key) ?? {}
    return { ...line, use: [...uses].join(', '), note, link, price }
  })
}
