import { simulating, simulationOf } from '@/core/rig/connection-change'
import { changeRow } from '@/core/rig/edit'
import type { BoardRow } from '@/core/rig/rows'
import { edit } from './edits'
import { useStore } from './store'

/** An identity such as boards have: eight bytes. */
export const newIdentity = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) => b.toString(16).padStart(2, '0')).join('')

/** Lets a simulated board stand for a drawn one, until a real one takes its place. */
export const simulate = (board: BoardRow): void => {
  const fresh = { identity: newIdentity(), connection: crypto.randomUUID() }
  const diff = simulating(useStore.getState().rig, board, fresh)
  if (diff.length > 0) edit(`${board.name} is simulated`, diff)
}

/** Switches a simulated board off. */
export const endSimulation = (board: BoardRow): void => {
  const row = simulationOf(useStore.getState().rig, board.identity ?? '')
  if (row?.on)
    edit(`${board.name} is simulated no longer`, [changeRow('connection', row, { ...row, on: false })])
}
