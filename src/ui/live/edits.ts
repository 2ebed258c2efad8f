import type { Change, Diff } from '@/core/rig/edit'
import type { HistorySummary } from '@/core/rig/history-summary'
import { OthersEdits } from './overwritten'
import { notify, type PendingEdit, useStore, withPending } from './store'

const KEPT = 'clavik.edits waiting'
const RETRY_MS = 1000
const KEPT_WITHIN_MS = 5000

let sending = false

const setPending = (change: (before: readonly PendingEdit[]) => readonly PendingEdit[]): void => {
  useStore.setState((s) => {
    const pending = change(s.pending)
    return { pending, rig: withPending(s.base, pending) }
  })
  const unsent = useStore.getState().pending.filter((p) => p.revision === null)
  if (unsent.length > 0) localStorage.setItem(KEPT, JSON.stringify(unsent))
  else localStorage.removeItem(KEPT)
}

/** Makes an edit: it shows at once, is kept until the database has it, and is sent in order. */
export const edit = (sentence: string, changes: readonly (Change | null)[]): void => {
  const diff: Diff = changes.filter((c) => c !== null)
  if (diff.length === 0) return
  const made: PendingEdit = { editId: crypto.randomUUID(), sentence, diff, revision: null }
  setPending((before) => [...before, made])
  const lost = others.overwrittenBy(diff, performance.now())
  if (lost.length > 0)
    notify(`This overwrote what was just done in another page: ${lost.join('; ')}.`, 'plain', {
      words: 'Take mine back',
      act: () => void stepHistory('undo'),
    })
  void send()
}

/** What other pages have changed lately. */
export const others = new OthersEdits()

interface Answer {
  readonly revision?: number
  readonly reasons?: readonly string[]
}

const post = async (path: string, body: unknown): Promise<{ status: number; answer: Answer }> => {
  try {
    const response = await fetch(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(15_000),
    })
    return { status: response.status, answer: (await response.json().catch(() => ({}))) as Answer }
  } catch {
    return { status: 0, answer: {} }
  }
}

/** Sends what waits, oldest first, until all is kept; tries again while the database or the web is away. */
const send = async (): Promise<void> => {
  if (sending) return
  sending = true
  for (;;) {
    const next = useStore.getState().pending.find((p) => p.revision === null)
    if (!next) break
    const { editId, sentence, diff } = next
    const { status, answer } = await post('/api/edits', { editId, sentence, diff })
    if (status === 200 && answer.revision !== undefined) {
      const { revision } = answer
      const arrived = useStore.getState().revision >= revision
      setPending((before) =>
        arrived
          ? before.filter((p) => p.editId !== editId)
          : before.map((p) => (p.editId === editId ? { ...p, revision } : p)),
      )
    } else if (status >= 400 && status < 500) {
      setPending((before) => before.filter((p) => p.editId !== editId))
      notify(`Not done: ${sentence}. ${(answer.reasons ?? ['It was refused.']).join(' ')}`)
    } else {
      useStore.setState({ saving: 'waiting' })
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
      continue
    }
    useStore.setState({ saving: 'ok' })
  }
  sending = false
}

/** Takes up edits that an earlier page could not send. */
export const resumeEdits = (): void => {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '[]') as PendingEdit[]
    if (kept.length === 0) return
    setPending((before) => [...kept, ...before])
    void send()
  } catch {
    localStorage.removeItem(KEPT)
  }
}

let stepping: Promise<void> = Promise.resolve()

/** Undoes or redoes the last edit of this rig; quick presses of the keys are carried out one after the other. */
export const stepHistory = (way: 'undo' | 'redo'): Promise<void> => {
  stepping = stepping.then(() => stepOnce(way))
  return stepping
}

const hasUnsent = (): boolean => useStore.getState().pending.some((p) => p.revision === null)

/** Waits until every edit of this page is kept; false when that takes too long. */
const allKept = (): Promise<boolean> =>
  new Promise((resolve) => {
    if (!hasUnsent()) return resolve(true)
    const end = (kept: boolean) => {
      clearTimeout(late)
      stop()
      resolve(kept)
    }
    const late = setTimeout(() => end(false), KEPT_WITHIN_MS)
    const stop = useStore.subscribe(() => {
      if (!hasUnsent()) end(true)
    })
  })

const stepOnce = async (way: 'undo' | 'redo'): Promise<void> => {
  // What was done last is what is to be undone, so it has to be in the history first.
  if (!(await allKept())) {
    notify(`Your last edits are not kept yet; ${way} has to wait until they are.`)
    return
  }
  const { status, answer } = await post('/api/history', { way, editId: crypto.randomUUID() })
  if (status === 200) return
  notify(answer.reasons?.[0] ?? `The database is away; ${way} has to wait until it is back.`)
}

/** Learns what undo and redo would do now. */
export const refreshUpcoming = async (): Promise<void> => {
  try {
    const response = await fetch('/api/history')
    if (response.ok) useStore.setState({ upcoming: (await response.json()) as HistorySummary })
  } catch {
    // The words on the two buttons stay as they are until the web process is back.
  }
}
