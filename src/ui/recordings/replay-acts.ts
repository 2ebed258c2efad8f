import { sayToHub } from '../live/connection'
import { notify } from '../live/store'
import { useRecordings } from './recordings-store'

/** Goes to a moment of what is played, in milliseconds from where it begins to count. */
export const replayTo = (ms: number): void => {
  const { replay } = useRecordings.getState()
  if (replay) sayToHub({ say: 'replay change', at: replay.from + Math.max(0, ms) * 1000 })
}

const recordOrEnd = (): void => {
  const { recording } = useRecordings.getState()
  if (recording) sayToHub({ say: 'record end' })
  else sayToHub({ say: 'record', name: `Session of ${new Date().toLocaleString('en-GB')}`, names: null })
}

const playOrPause = (): void => {
  const { replay } = useRecordings.getState()
  if (replay) sayToHub({ say: 'replay change', playing: !replay.playing })
  else notify('No recording is open: Scope has the list of them, under Recordings.', 'plain')
}

/** What can be done with recordings wherever one looks. */
export const recordingCommands: readonly {
  readonly words: string
  readonly key: string | null
  readonly run: () => void
}[] = [
  { words: 'Record a session, or end it', key: 'Shift+r', run: recordOrEnd },
  { words: 'Play the open recording, or pause it', key: 'Shift+p', run: playOrPause },
  { words: 'Close the replay', key: null, run: () => void sayToHub({ say: 'replay close' }) },
]
