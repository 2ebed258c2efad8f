import type { ConnectionKindName, SettingsOf } from '../core/connections/connections'
import type { ConnectionRow } from '../core/rig/rows'
import type { ToStandins } from '../links/hand-link'
import type { Client } from './client-of'
import { UdpLine } from './lines/udp-line'

type Be = Extract<ToStandins, { say: 'be' }>
type Lists = Omit<Be, 'say' | 'rig'>

/** Puts what a connection of a kind is to be into its list. */
type Put<K extends ConnectionKindName> = (
  lists: Lists,
  settings: SettingsOf<K>,
  id: string,
  client: Client | null,
) => void

/** Every kind of connection behind which a stand-in is; a new one is a line here, and its list in the hand link. */
const kinds: { readonly [K in ConnectionKindName]?: Put<K> } = {
  'simulated board': ({ boards }, { identity, model, closed, wipers }) =>
    void boards.push({ identity, model, closed, wipers }),
  'simulated craft': ({ crafts }, { seed, further }, id) =>
    void crafts.push({ id, seed, further: further ?? 0 }),
  'simulated cluster': ({ clusters }, _, id) => void clusters.push({ id }),
  'simulated controller': ({ controllers }, { identity, model }) =>
    void controllers.push({ id: identity, model }),
  'simulated truck': ({ trucks }, _, id, client) => {
    // It sends to the port that was opened for it.
    const line = client?.line
    if (line instanceof UdpLine && line.port > 0) trucks.push({ id, port: line.port })
  },
}

/** All stand-ins that there are to be for these connections. */
export const standinsOf = (rows: readonly ConnectionRow[], client: (id: string) => Client | null): Lists => {
  const lists: Lists = { boards: [], crafts: [], clusters: [], trucks: [], controllers: [] }
  for (const { id, on, settings } of rows) {
    const put = on ? (kinds[settings.kind] as Put<ConnectionKindName> | undefined) : undefined
    put?.(lists, settings, id, client(id))
  }
  return lists
}
