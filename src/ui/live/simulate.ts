import { modelOf } from '@/core/catalogue/own-board'
import { changeRow } from '@/core/rig/edit'
import type { BoardRow } from '@/core/rig/rows'
import { sayToHub } from './connection'
import { edit } from './edits'
import { notify } from './store'

/** An identity such as boards have: eight bytes. */
const newIdentity = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) => b.toString(16).padStart(2, '0')).join('')

/** Lets a simulated board stand for a drawn one, until a real one takes its place. */
export const simulate = (board: BoardRow): void => {
  const identity = board.identity ?? newIdentity()
  const model = modelOf(board)?.name ?? board.model
  if (!sayToHub({ say: 'simulate', identity, model, on: true })) {
    notify('The hub is away, so nothing can be simulated just now.')
    return
  }
  if (board.identity === null)
    edit(`${board.name} is simulated`, [changeRow('board', board, { ...board, identity })])
}

/** Puts a simulated board away. */
export const endSimulation = (board: BoardRow): void => {
  if (board.identity !== null) sayToHub({ say: 'simulate', identity: board.identity, model: '', on: false })
}
