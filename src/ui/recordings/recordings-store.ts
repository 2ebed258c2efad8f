import { create } from 'zustand'
import type { FromHub } from '@/core/live/feed'
import type { RecordingState, ReplayState } from '@/core/live/recording-states'
import type { Difference } from '@/core/recording/example'
import type { ListedRecording } from '@/core/recording/listed'
import { askDoor, postDoor } from '../live/door'
import { notify } from '../live/store'

/** What an example shows now that it did not, and with which revision of the rig that was seen. */
export interface Compared {
  readonly revision: number
  readonly differences: readonly Difference[]
}

interface RecordingsState {
  recording: RecordingState | null
  replay: ReplayState | null
  /** The sources of what is played; the same list for as long as they are the same. */
  played: readonly string[] | null
  /** When that was said, on the page's clock. */
  heardAt: number
  /** Null before they were listed. */
  list: readonly ListedRecording[] | null
  /** By recording, how it compared last. */
  compared: Readonly<Record<string, Compared>>
}

export const useRecordings = create<RecordingsState>()(() => ({
  recording: null,
  replay: null,
  heardAt: 0,
  played: null,
  list: null,
  compared: {},
}))

/** The sources that are played; null while none is. The same list as long as it says the same. */
export const playedOf = ({ played }: RecordingsState): readonly string[] | null => played

export const listRecordings = async (): Promise<void> => {
  const answer = await askDoor<{ recordings: ListedRecording[] }>('/api/recordings')
  if (answer) useRecordings.setState({ list: answer.recordings })
}

export type RecordingAsked =
  | { readonly do: 'rename'; readonly id: string; readonly name: string }
  | { readonly do: 'trim'; readonly id: string; readonly from: number; readonly until: number }
  | { readonly do: 'delete' | 'keep' | 'release'; readonly id: string }

/** Asks the door for recordings; true where it was done. */
export const askRecordings = async (asked: RecordingAsked): Promise<boolean> => {
  const answer = await postDoor('/api/recordings', asked)
  // It is compared with something else now.
  useRecordings.setState((s) => {
    const { [asked.id]: _, ...compared } = s.compared
    return { compared }
  })
  await listRecordings()
  return answer !== null
}

/** Takes a file in; what was odd about it is said. */
export const takeRecording = async (file: File): Promise<void> => {
  const name = file.name.replace(/\.(csv|tsv|txt|jsonl|ndjson)$/i, '')
  const answer = await askDoor<{ odd: string[] }>(`/api/recordings/taken?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    body: file,
  })
  if (answer) notify([`“${file.name}” was taken in.`, ...answer.odd].join(' '), 'plain')
  await listRecordings()
}

/** Plays an example with the rig as it is, and keeps what differs. */
export const compare = async (id: string): Promise<void> => {
  const answer = await askDoor<Compared>(`/api/recordings/${id}/differences`)
  if (answer) useRecordings.setState((s) => ({ compared: { ...s.compared, [id]: answer } }))
}

const hearReplay = (replay: ReplayState | null): void =>
  useRecordings.setState((s) => {
    const sources = replay?.sources ?? null
    const same = s.played?.join('\n') === sources?.join('\n')
    return { replay, heardAt: performance.now(), played: same ? s.played : sources }
  })

export const hearRecordings = (m: Extract<FromHub, { say: 'recording' | 'replay' | 'recordings' }>): void => {
  if (m.say === 'recording') useRecordings.setState({ recording: m.recording })
  else if (m.say === 'replay') hearReplay(m.replay)
  if (m.say === 'recordings' && useRecordings.getState().list) void listRecordings()
}
