import type { OfScreen } from '../core/live/screen-feed'
import type { Millis } from '../core/units-of-measure'

const FIRST_PAUSE_MS = 200
const LONGEST_PAUSE_MS = 1500
/** The hub says once a second that it is there. */
const SILENCE_MS = 2600

interface Heard {
  readonly told: (message: OfScreen) => void
  /** Since when it is away, or null while it is there. */
  readonly away: (since: Millis | null) => void
}

/** The line of a device to its screen: it comes back by itself, and at once when the device wakes. */
export const openScreenLine = (
  address: string,
  { told, away }: Heard,
): { readonly say: (message: object) => void; readonly end: () => void } => {
  let socket: WebSocket | null = null
  let retry: ReturnType<typeof setTimeout> | null = null
  let pauseMs = FIRST_PAUSE_MS
  let heardAt = performance.now()
  let awaySince: Millis | null = null
  let ended = false
  const sayAway = (is: boolean) => {
    const before = awaySince
    awaySince = is ? (before ?? heardAt) : null
    if (before !== awaySince) away(awaySince)
  }
  const open = () => {
    if (retry) clearTimeout(retry)
    retry = null
    if (ended) return
    const ws = new WebSocket(address)
    socket = ws
    ws.onmessage = (event) => {
      if (socket !== ws) return
      heardAt = performance.now()
      pauseMs = FIRST_PAUSE_MS
      sayAway(false)
      told(JSON.parse(String(event.data)) as OfScreen)
    }
    ws.onclose = () => {
      if (socket === ws) again()
    }
  }
  const again = () => {
    if (socket) socket.onclose = null
    socket?.close()
    socket = null
    if (ended) return
    sayAway(true)
    if (retry) clearTimeout(retry)
    retry = setTimeout(open, pauseMs)
    pauseMs = Math.min(LONGEST_PAUSE_MS, pauseMs * 1.6)
  }
  // A line that went without a word is noticed by its silence.
  const watch = setInterval(() => {
    if (socket && performance.now() - heardAt > SILENCE_MS) again()
  }, 500)
  const woken = () => {
    if (document.visibilityState !== 'visible') return
    pauseMs = FIRST_PAUSE_MS
    if (!socket || performance.now() - heardAt > SILENCE_MS) {
      again()
      open()
    }
  }
  document.addEventListener('visibilitychange', woken)
  addEventListener('online', woken)
  open()
  const say = (message: object) => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(message))
  }
  const end = () => {
    ended = true
    clearInterval(watch)
    if (retry) clearTimeout(retry)
    document.removeEventListener('visibilitychange', woken)
    removeEventListener('online', woken)
    socket?.close()
  }
  return { say, end }
}
