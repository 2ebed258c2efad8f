import { notify, useStore } from '../live/store'
import type { AssignAnswer, AssignTask } from './assign-worker'
import { showProposal, useHarness } from './harness-store'

type Task = AssignTask extends infer T ? (T extends AssignTask ? Omit<T, 'rig'> : never) : never

let worker: Worker | null = null

/** Works a proposal out beside the page, and shows it. A new one takes the place of one that is still worked on. */
export const solve = (title: string, task: Task): void => {
  stopSolving()
  const { rig } = useStore.getState()
  worker = new Worker(new URL('./assign-worker.ts', import.meta.url), { type: 'module' })
  useHarness.setState((s) => ({
    solving: { placed: 0, of: 0 },
    proposal: null,
    drawer: 'assign',
    boardId: (task.is === 'assign' ? task.boardIds?.[0] : task.boardId) ?? s.boardId,
  }))
  worker.onmessage = ({ data }: MessageEvent<AssignAnswer>) => {
    if ('progress' in data) {
      useHarness.setState({ solving: data.progress })
      return
    }
    stopSolving()
    if (data.proposal) showProposal({ title, is: data.proposal, rig })
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
  useHarness.setState({ solving: null })
}
