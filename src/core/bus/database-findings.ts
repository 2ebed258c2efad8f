import { fitsIn, placesOf } from './bits'
import { idWords, keyOf } from './bus-frame'
import type { BusDatabase, BusMessage, BusSignal } from './database'

/** Whether two signals can be in one message at the same time. */
const areTogether = (a: BusSignal, b: BusSignal): boolean =>
  typeof a.multiplex !== 'number' || typeof b.multiplex !== 'number' || a.multiplex === b.multiplex

const ofMessage = (m: BusMessage): string[] => {
  const said: string[] = []
  const chooser = m.signals.filter((s) => s.multiplex === 'chooses')
  if (chooser.length > 1)
    said.push(`${m.name}: ${chooser.map((s) => s.name).join(' and ')} both choose what is in it.`)
  if (chooser.length === 0 && m.signals.some((s) => typeof s.multiplex === 'number'))
    said.push(`${m.name}: nothing says which of its alternatives is in it; those are left out.`)
  for (const [i, s] of m.signals.entries()) {
    if (!fitsIn(m, s)) {
      said.push(`${m.name}: ${s.name} lies beyond its ${m.bytes} bytes and is left out.`)
      continue
    }
    const mine = new Set(placesOf(s))
    for (const other of m.signals.slice(i + 1))
      if (areTogether(s, other) && placesOf(other).some((p) => mine.has(p)))
        said.push(`${m.name}: ${s.name} and ${other.name} lie on the same bits.`)
  }
  return said
}

/** What is wrong or odd in a database, in sentences; what is wrong is left out, and the rest is read. */
export const databaseFindings = (d: BusDatabase): string[] => {
  const said: string[] = []
  const ids = new Map<number, string>()
  for (const m of d.messages) {
    const key = keyOf(m.id, m.extended)
    const other = ids.get(key)
    if (other !== undefined)
      said.push(`${m.name} has the number ${idWords(m.id, m.extended)} of ${other}; it is left out.`)
    else ids.set(key, m.name)
    said.push(...ofMessage(m))
  }
  return said
}
