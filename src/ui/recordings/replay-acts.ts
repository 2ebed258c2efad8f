import { sayToHub } from '../live/connection'
import { useRecordings } from './recordings-store'

/** Goes to a moment of what is played, in milliseconds from where it begins to count. */
export const replayTo = (ms: number): void => {
  const { replay } = useRecordings.getState()
  if (replay) sayToHub({ say: 'replay change', at: replay.from + Math.max(0, ms) * 1000 })
}
