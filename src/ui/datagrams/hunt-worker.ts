import { HuntWork, type ToHunt } from './hunt-work'

// A packet of many bytes may be read in so many ways that the page would stand still meanwhile.
const work = new HuntWork(
  (found) => self.postMessage(found),
  () => performance.now(),
)
self.onmessage = ({ data }: MessageEvent<ToHunt>) => work.hear(data)
