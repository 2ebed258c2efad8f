import type { SimulatorCatalogue } from '../rig/simulator-catalogue'
import type { Effect } from './input'

/** What an effect orders of a source: of which variable or event, by name, and with what; null where it orders nothing. */
export const orderIn = (
  { variables, events }: SimulatorCatalogue,
  e: Effect,
): { readonly to: string; readonly request: number; readonly value: number | string | null } | null => {
  const info = e.is === 'set' ? variables[e.variable] : e.is === 'event' ? events[e.event] : undefined
  return info && (e.is === 'set' || e.is === 'event')
    ? { to: info.name, request: e.request, value: e.value }
    : null
}
