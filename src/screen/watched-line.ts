import type { Alive } from '../core/live/feed'
import type { Millis } from '../core/units-of-measure'

const FIRST_PAUSE_MS = 200
const LONGEST_PAUSE_MS = 1500
/** How often it is looked whether the hub still says something: it does once a second. */
const LOOK_MS = 500

interface Heard<M> {
  readonly told: (message: M) => void
  /** Since when it is away, or null while it is there. */
  readonly away: (since: Millis | null) => void
  /** It is there, first or again, and has been told nothing yet. */
  readonly opened?: () => void
}

export interface WatchedLine {
  /** Says something; false when nobody is there to hear it. */
  readonly say: (message: object) => boolean
  readonly end: () => void
}

const isAlive = (message: object): message is Alive => 'say' in message && message.say === 'alive'

/**
 * A line to the hub that comes back by itself, and at once when the device wakes. One that has gone without a word, as
 * lines do when the network or the other end stands still, counts as away after `silenceMs`.
 */
export const openWatchedLine = <M extends object>(
  address: string,
  silenceMs: Millis,
  { told, away, opened }: Heard<M>,
): WatchedLine => {
  let socket: WebSocket | null = null
  let retry: ReturnType<typeof setTimeout> | null = null
  let pauseMs = FIRST_PAUSE_MS
  let heardAt = performance.now()
  /** How long nothing was heard while this page could have heard: one that is kept from running hears nothing either. */
  let silentMs = 0
  let lookedAt = heardAt
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
    silentMs = 0
    const ws = new WebSocket(address)
    socket = ws
    ws.onopen = () => {
      if (socket === ws) opened?.()
    }
    ws.onmessage = (event) => {
      if (socket !== ws) return
      heardAt = performance.now()
      silentMs = 0
      pauseMs = FIRST_PAUSE_MS
      sayAway(false)
      const message = JSON.parse(String(event.data)) as M | Alive
      if (!isAlive(message)) told(message)
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
  const watch = setInterval(() => {
    const now = performance.now()
    silentMs += Math.min(now - lookedAt, 2 * LOOK_MS)
    lookedAt = now
    if (socket && silentMs > silenceMs) again()
  }, LOOK_MS)
  const woken = () => {
    if (document.visibilityState !== 'visible') return
    pauseMs = FIRST_PAUSE_MS
    if (!socket || performance.now() - heardAt > silenceMs) {
      again()
      open()
    }
  }
  document.addEventListener('visibilitychange', woken)
  addEventListener('online', woken)
  open()
  const say = (message: object) => {
    if (socket?.readyState !== WebSocket.OPEN) return false
    socket.send(JSON.stringify(message))
    return true
  }
  const end = () => {
    ended = true
    clearInterval(watch)
    if (retry) clearTimeout(retry)
    document.removeEventListener('visibilitychange', woken)
    removeEventListener('online', woken)
    socket?.close()
    socket = null
  }
  return { say, end }
}
