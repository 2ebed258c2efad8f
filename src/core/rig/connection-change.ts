import { modelOf } from '../catalogue/own-board'
import { type ConnectionSettings, hostsIn } from '../connections/connections'
import { addRow, changeRow, type Diff } from './edit'
import { numbered } from './numbered'
import { connectionsOf, type Rig } from './rig'
import type { BoardRow, ConnectionRow } from './rows'

/** A connection as it is added to a rig, after those that are there, under a name that is free. */
export const newConnection = (
  rig: Rig,
  id: string,
  name: string,
  settings: ConnectionSettings,
): ConnectionRow => {
  const rows = connectionsOf(rig)
  const names = new Set(rows.map((r) => r.name))
  const wanted = name.slice(0, 110)
  return {
    id,
    name: names.has(wanted) ? numbered(wanted, names, 2) : wanted,
    position: Math.max(-1, ...rows.map((r) => r.position)) + 1,
    on: true,
    settings,
  }
}

/** The connection by which a simulated board with this identity is there, switched on or off. */
export const simulationOf = (rig: Rig, identity: string): ConnectionRow | undefined =>
  connectionsOf(rig).find(
    ({ settings }) => settings.kind === 'simulated board' && settings.identity === identity,
  )

/** What lets a simulated board stand for a drawn one; `fresh` are ids for what is not there yet. */
export const simulating = (
  rig: Rig,
  board: BoardRow,
  fresh: { readonly identity: string; readonly connection: string },
): Diff => {
  const identity = board.identity ?? fresh.identity
  const known = simulationOf(rig, identity)
  const model = modelOf(board)?.name ?? board.model
  const settings: ConnectionSettings = { kind: 'simulated board', identity, model, closed: [], wipers: [] }
  return [
    changeRow('board', board, { ...board, identity }),
    known
      ? changeRow('connection', known, { ...known, on: true })
      : addRow('connection', newConnection(rig, fresh.connection, `Simulated ${board.name}`, settings)),
  ].filter((c) => c !== null)
}

/** Whether a computer is this very one. */
const isHere = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|::1)$/i.test(host)

/**
 * The rows of a file that somebody else may have made, with connections to other computers switched off: what it says to
 * speak with is only spoken with once the builder has said so.
 */
export const withoutStrangers = (rows: Diff): Diff =>
  rows.map((change) => {
    if (change.op !== 'add' || change.table !== 'connection') return change
    const { settings } = change.row as { settings?: unknown }
    return hostsIn(settings).every(isHere) ? change : { ...change, row: { ...change.row, on: false } }
  })
