import { z } from 'zod'
import { apply, type Change, type Diff, invalidRows } from '@/core/rig/edit'
import { diffSchema, editObjection, sentenceSchema } from '@/core/rig/edit-schema'
import type { HistorySummary } from '@/core/rig/history-summary'
import { OthersEdits } from './overwritten'
import { notify, type PendingEdit, useStore, withPending } from './store'

const KEPT = 'clavik.edits waiting'
/** What could not be sent is sent again: soon at first, then more and more seldom. */
const FIRST_PAUSE_MS = 500
const LONGEST_PAUSE_MS = 15_000
/** So often a server may fail at an edit before it is given back. */
const MOST_FAILURES = 6
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
  const objection = objectionTo(sentence, diff)
  if (objection !== null) {
    notify(`Not done: ${sentence}. This cannot be kept, because ${objection}`)
    return
  }
  const { rigId } = useStore.getState()
  const made: PendingEdit = { editId: crypto.randomUUID(), rigId, sentence, diff, revision: null }
  setPending((before) => [...before, made])
  const lost = others.overwrittenBy(diff, performance.now())
  if (lost.length > 0)
    notify(`This overwrote what was just done in another page: ${lost.join('; ')}.`, 'plain', {
      words: 'Take mine back',
      act: () => void stepHistory('undo'),
    })
  void send()
}

/** What the door would say against an edit, found before anything is shown or sent; null where it would take it. */
const objectionTo = (sentence: string, diff: Diff): string | null => {
  const objection = editObjection(sentence, diff)
  if (objection !== null) return `${objection}.`
  return invalidRows(apply(useStore.getState().rig, diff), diff)[0]?.message ?? null
}

/** An edit that was not kept goes back to the builder, with the reason and a way to try it once more. */
const giveBack = ({ editId, sentence, diff }: PendingEdit, why: string): void => {
  setPending((before) => before.filter((p) => p.editId !== editId))
  notify(`This was not kept: ${sentence}. ${why}`, 'fault', {
    words: 'Try it again',
    act: () => edit(sentence, diff),
  })
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
  let pauseMs = FIRST_PAUSE_MS
  let failures = 0
  for (;;) {
    const next = useStore.getState().pending.find((p) => p.revision === null)
    if (!next) break
    const { editId, sentence, diff, rigId } = next
    const { status, answer } = await post('/api/edits', {
      ...{ editId, sentence, diff },
      ...(rigId === null ? {} : { rigId }),
    })
    // Away is one thing, and passes; failing at this very edit is another.
    const away = status === 0 || status === 503
    if (!away && status >= 500) failures++
    if (away || (status >= 500 && failures < MOST_FAILURES)) {
      useStore.setState({ saving: 'waiting' })
      await new Promise((resolve) => setTimeout(resolve, pauseMs))
      pauseMs = Math.min(LONGEST_PAUSE_MS, pauseMs * 1.6)
      continue
    }
    if (status === 200 && answer.revision !== undefined) {
      const { revision } = answer
      const arrived = useStore.getState().revision >= revision
      setPending((before) =>
        arrived
          ? before.filter((p) => p.editId !== editId)
          : before.map((p) => (p.editId === editId ? { ...p, revision } : p)),
      )
    } else if (status >= 500) giveBack(next, `The server failed at it ${failures} times.`)
    else giveBack(next, (answer.reasons ?? ['It was refused.']).join(' '))
    pauseMs = FIRST_PAUSE_MS
    failures = 0
    useStore.setState({ saving: 'ok' })
  }
  sending = false
}

/** What an earlier page has kept for later, as far as it can be understood. */
const keptSchema = z.array(
  z.object({
    editId: z.uuid(),
    rigId: z.string().nullable().default(null),
    sentence: sentenceSchema,
    diff: diffSchema,
  }),
)

/** Takes up edits that an earlier page could not send. */
export const resumeEdits = (): void => {
  const kept = keptSchema.safeParse(readKept())
  if (!kept.success) {
    localStorage.removeItem(KEPT)
    notify('Edits that an earlier page had kept cannot be read; they were left out.')
    return
  }
  if (kept.data.length === 0) return
  setPending((before) => [
    ...kept.data.map((p): PendingEdit => ({ ...p, diff: p.diff as Diff, revision: null })),
    ...before,
  ])
  void send()
}

const readKept = (): unknown => {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '[]')
  } catch {
    return null
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
  const { rigId } = useStore.getState()
  const editId = crypto.randomUUID()
  others.takesStep(editId)
  const { status, answer } = await post('/api/history', {
    ...{ way, editId },
    ...(rigId === null ? {} : { rigId }),
  })
  if (status === 200) return
  notify(answer.reasons?.[0] ?? `The database is away; ${way} has to wait until it is back.`)
}

let asked = 0
let answered = 0

/** Learns what undo and redo would do now. */
export const refreshUpcoming = async (): Promise<void> => {
  const mine = ++asked
  try {
    const response = await fetch('/api/history')
    if (!response.ok) return
    const upcoming = (await response.json()) as HistorySummary
    // An answer that was overtaken by a later one is about what was.
    if (mine > answered) useStore.setState({ upcoming })
    answered = Math.max(answered, mine)
  } catch {
    // The words on the two buttons stay as they are until the web process is back.
  }
}
