import type { BoardModel } from '@/core/catalogue/board-model'
import { proposeModel } from '@/core/harness/assignment/propose'
import {
  type AssignProgress,
  type ExpandedProposal,
  proposeWithExpanders,
} from '@/core/harness/assignment/propose-expander'
import type { Rig } from '@/core/rig/rig'

/** What is to be worked out: an assignment, or a board of another model in the place of one. */
export type AssignTask =
  | {
      readonly is: 'assign'
      readonly rig: Rig
      readonly partIds: readonly string[] | null
      readonly boardIds: readonly string[] | null
    }
  | { readonly is: 'model'; readonly rig: Rig; readonly boardId: string; readonly model: BoardModel }

/** What comes back: how far it is, any number of times, then what came out. */
export type AssignAnswer =
  | { readonly progress: AssignProgress }
  | { readonly proposal: ExpandedProposal | null }

const say = (answer: AssignAnswer): void => self.postMessage(answer)

const solve = (task: AssignTask): ExpandedProposal | null => {
  const id = () => crypto.randomUUID()
  if (task.is === 'assign') {
    const set = (ids: readonly string[] | null) => (ids === null ? null : new Set(ids))
    const scope = { partIds: set(task.partIds), boardIds: set(task.boardIds) }
    return proposeWithExpanders(task.rig, scope, id, (progress) => say({ progress }))
  }
  const board = task.rig.board[task.boardId]
  return board ? { ...proposeModel(task.rig, board, task.model, id), expanders: [], others: [] } : null
}

self.onmessage = (e: MessageEvent<AssignTask>) => say({ proposal: solve(e.data) })
