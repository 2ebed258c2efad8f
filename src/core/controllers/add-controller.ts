import type { ConnectionSettings } from '../connections/connections'
import { newConnection } from '../rig/connection-change'
import { addRow, type Diff } from '../rig/edit'
import { numbered } from '../rig/numbered'
import { boardsOf, type Rig } from '../rig/rig'
import type { Capabilities } from './capabilities'
import { controllerBoard } from './controller-board'

/** A controller as it comes into the rig: the connection over which it is read, and the board that it is. */
export const addingController = (
  rig: Rig,
  hello: Capabilities,
  settings: Extract<ConnectionSettings, { kind: 'controller' | 'simulated controller' }>,
  ids: { readonly connection: string; readonly board: string },
): Diff => {
  const model = controllerBoard(hello)
  const boards = boardsOf(rig)
  const names = new Set(boards.map((b) => b.name))
  const name = names.has(model.name) ? numbered(model.name, names, 2) : model.name
  return [
    addRow('connection', newConnection(rig, ids.connection, name, settings)),
    addRow('board', {
      ...{ id: ids.board, name, model: model.id, own: model, identity: settings.identity },
      ...{ position: Math.max(-1, ...boards.map((b) => b.position)) + 1, supplyId: null },
    }),
  ]
}
