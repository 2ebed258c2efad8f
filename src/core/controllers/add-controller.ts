import type { ConnectionSettings } from '../connections/connections'
import { newConnection } from '../rig/connection-change'
import { addRow, type Diff } from '../rig/edit'
import { numbered } from '../rig/numbered'
import { boardsOf, type Rig } from '../rig/rig'
import type { BoardRow } from '../rig/rows'
import type { Capabilities } from './capabilities'
import { controllerBoard } from './controller-board'

/** The board that a controller is, after those that are there, under a name that is free. */
export const boardOf = (rig: Rig, hello: Capabilities, identity: string, id: string): BoardRow => {
  const model = controllerBoard(hello)
  const boards = boardsOf(rig)
  const names = new Set(boards.map((b) => b.name))
  const name = names.has(model.name) ? numbered(model.name, names, 2) : model.name
  const position = Math.max(-1, ...boards.map((b) => b.position)) + 1
  return { id, name, model: model.id, own: model, identity, position, supplyId: null }
}

/** A controller as it comes into the rig: the connection over which it is read, and the board that it is. */
export const addingController = (
  rig: Rig,
  hello: Capabilities,
  settings: Extract<ConnectionSettings, { kind: 'controller' | 'simulated controller' | 'touch screen' }>,
  ids: { readonly connection: string; readonly board: string },
): Diff => {
  const board = boardOf(rig, hello, settings.identity, ids.board)
  return [
    addRow('connection', newConnection(rig, ids.connection, board.name, settings)),
    addRow('board', board),
  ]
}
