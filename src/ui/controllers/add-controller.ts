import type { ConnectionSettings } from '@/core/connections/connections'
import { addingController } from '@/core/controllers/add-controller'
import type { Capabilities } from '@/core/controllers/capabilities'
import { type SimulatedModelName, simulatedCapabilities } from '@/core/controllers/simulated-models'
import type { FoundController } from '@/core/live/feed'
import { changeRow } from '@/core/rig/edit'
import { edit } from '../live/edits'
import { newIdentity } from '../live/simulate'
import { useStore } from '../live/store'

/** Takes a controller into the rig, and opens what can be worked on it. */
const add = (
  hello: Capabilities,
  settings: Extract<ConnectionSettings, { kind: 'controller' | 'simulated controller' }>,
): void => {
  const connection = crypto.randomUUID()
  const { rig } = useStore.getState()
  edit(
    `Took in ${hello.name}`,
    addingController(rig, hello, settings, { connection, board: crypto.randomUUID() }),
  )
  useStore.setState({ connectionsAt: null, ownSheet: { of: 'controller', id: connection } })
}

export const addFoundController = (found: FoundController): void => {
  const { name, vendor, product, serial, port, keys } = found
  const axes = found.axes.map((code) => ({ code, value: 0, least: 0, most: 1 }))
  const hello: Capabilities = {
    ...{ controller: 1, name, vendor, product, serial, port, keys: [...keys], down: [], axes },
  }
  const identity = newIdentity()
  add(hello, { kind: 'controller', identity, vendor, product, serial, port, reads: 'Clavik and others' })
}

export const addSimulatedController = (model: SimulatedModelName): void => {
  const identity = newIdentity()
  add(simulatedCapabilities(model, identity), { kind: 'simulated controller', identity, model })
}

/** The builder says that what is plugged in is one that the rig knows. */
export const thisIs = (connection: string, { name, serial, port }: FoundController): void => {
  const row = useStore.getState().rig.connection[connection]
  if (row?.settings.kind !== 'controller') return
  edit(
    `${name} on ${port || 'this port'} is ${row.name}`,
    [changeRow('connection', row, { ...row, settings: { ...row.settings, serial, port } })].filter(
      (c) => c !== null,
    ),
  )
}
