import { BusClient } from './bus-client'
import type { Connections } from './connections'
import type { Tab } from './tab'

/** How often a tab is told of a bus: quicker than an eye reads. */
const EVERY_MS = 120
const toldAt = new WeakMap<Tab, number>()

/** Tells the tabs that look at a bus what is on it. */
export const tellBuses = (tabs: Iterable<Tab>, connections: Connections, now: number): void => {
  for (const tab of tabs) {
    if (tab.bus === null || now - (toldAt.get(tab) ?? 0) < EVERY_MS || tab.line.isFull()) continue
    const client = connections.client(tab.bus)
    if (!(client instanceof BusClient)) continue
    toldAt.set(tab, now)
    const rows = [...client.seen.values()].map(({ id, extended, d, data, count, everyMs, at }) => ({
      ...{ id, extended, d, count, everyMs: Math.round(everyMs * 10) / 10, ago: Math.round(now - at) },
      hex: Buffer.from(data).toString('hex'),
    }))
    tab.send({ say: 'bus', connection: tab.bus, rows, slow: client.slowNow() })
  }
}
