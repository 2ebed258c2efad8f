import type { ExpandedProposal } from '@/core/harness/assignment/propose-expander'
import { notify, useStore } from '../live/store'
import type { AssignTask } from './assign-worker'
import { showProposal, useHarness } from './harness-store'

type Task = AssignTask extends infer T ? (T extends AssignTask ? Omit<T, 'rig'> : never) : never

let worker: Worker | null = null

/** Works a proposal out beside the page, and shows it. A new one takes the place of one that is still worked on. */
export const solve = (title: string, task: Task): void => {
  stopSolving()
  const { rig } = useStore.getState()
  worker = new Worker(new URL('./assign-worker.ts', import.meta.url), { type: 'module' })
  useHarness.setState((s) => ({
    solving: true,
    proposal: null,
    drawer: 'assign',
    boardId: (task.is === 'assign' ? task.boardIds?.[0] : task.boardId) ?? s.boardId,
  }))
  worker.onmessage = (e: MessageEvent<ExpandedProposal | null>) => {
    stopSolving()
    if (e.data) showProposal({ title, is: e.data, rig })
  }
  worker.onerror = (e) => {
    stopSolving()
    notify(`The assignment could not be worked out: ${e.message}. Nothing was changed.`)
  }
  worker.postMessage({ ...task, rig } as AssignTask)
}

export const stopSolving = (): void => {
  worker?.terminate()
  worker = null
  useHarness.setState({ solving: false })
}
