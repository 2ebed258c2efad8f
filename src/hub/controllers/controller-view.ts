import type { Connections } from '../connections'
import type { Tab } from '../tab'
import { ControllerClient } from './controller-client'

/** How often a tab is told where everything on a controller stands. */
const EVERY_MS = 40
const told = new WeakMap<Tab, { at: number; text: string }>()

/** Tells the tabs that look at a controller where everything on it stands, what was touched last, and what takes turns. */
export const tellControllers = (tabs: Iterable<Tab>, connections: Connections, now: number): void => {
  for (const tab of tabs) {
    if (tab.controller === null || tab.line.isFull()) continue
    const before = told.get(tab)
    if (before && now - before.at < EVERY_MS) continue
    const client = connections.client(tab.controller)
    if (!(client instanceof ControllerClient)) continue
    const { hello, standing, touched, up } = client
    const message = {
      say: 'controller' as const,
      connection: tab.controller,
      hello: up ? hello : null,
      raw: [...(standing?.raw ?? [])],
      touched,
      groups: client.groups().map((g) => [...g.pins]),
    }
    const text = JSON.stringify(message)
    told.set(tab, { at: now, text })
    if (text !== before?.text) tab.line.send(text)
  }
}
