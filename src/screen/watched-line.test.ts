// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { openWatchedLine, type WatchedLine } from './watched-line'

/** A socket whose other end is this test. */
class Socket {
  static all: Socket[] = []
  static OPEN = 1
  readyState = 0
  onmessage: ((e: { data: string }) => void) | null = null
  onclose: (() => void) | null = null
  onopen: (() => void) | null = null
  sent: string[] = []
  constructor(readonly address: string) {
    Socket.all.push(this)
  }
  open(): void {
    this.readyState = 1
    this.onopen?.()
  }
  tell(message: object): void {
    this.readyState = 1
    this.onmessage?.({ data: JSON.stringify(message) })
  }
  send(text: string): void {
    this.sent.push(text)
  }
  close(): void {
    this.readyState = 3
    this.onclose?.()
  }
}

let away: (number | null)[] = []
let told: object[] = []
let opened = 0
let line: WatchedLine
const newest = () => Socket.all.at(-1) as Socket
const see = (state: 'visible' | 'hidden') => {
  vi.spyOn(document, 'visibilityState', 'get').mockReturnValue(state)
  document.dispatchEvent(new Event('visibilitychange'))
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance'] })
  vi.stubGlobal('WebSocket', Socket)
  Socket.all = []
  away = []
  told = []
  opened = 0
  line = openWatchedLine<object>('ws://clavik/screen?name=Dash', 2600, {
    told: (m) => told.push(m),
    away: (since) => away.push(since),
    opened: () => opened++,
  })
})
afterEach(() => {
  line.end()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
  vi.useRealTimers()
})

describe('the line of a device', () => {
  it('comes back by itself, with a pause that grows but never long', () => {
    newest().tell({ say: 'alive' })
    newest().tell({ say: 'more' })
    // That the hub is there is for the line itself.
    expect(told).toEqual([{ say: 'more' }])
    newest().close()
    expect(away).toEqual([expect.any(Number)])
    for (let i = 0; i < 20; i++) {
      vi.advanceTimersByTime(1500)
      expect(Socket.all.length).toBeGreaterThanOrEqual(i + 2)
      newest().close()
    }
    vi.advanceTimersByTime(1500)
    newest().tell({ say: 'alive' })
    expect(away.at(-1)).toBeNull()
  })

  it('that has gone without a word is noticed by its silence', () => {
    newest().tell({ say: 'alive' })
    const first = newest()
    vi.advanceTimersByTime(2500)
    expect(away).toEqual([])
    vi.advanceTimersByTime(700)
    expect(away).toEqual([0])
    vi.advanceTimersByTime(300)
    expect(newest()).not.toBe(first)
    // What the old one still says is nobody's business any more.
    first.tell({ say: 'late' })
    expect(told).toEqual([])
  })

  it('counts no time in which this page itself was kept from running', () => {
    newest().tell({ say: 'alive' })
    const now = performance.now.bind(performance)
    // The page was busy for twenty seconds; what was told meanwhile still waits behind what it does next.
    vi.spyOn(performance, 'now').mockImplementation(() => now() + 20_000)
    vi.advanceTimersByTime(500)
    expect(away).toEqual([])
    newest().tell({ say: 'alive' })
    vi.advanceTimersByTime(2500)
    expect(away).toEqual([])
    vi.advanceTimersByTime(1000)
    expect(away).toEqual([expect.any(Number)])
  })

  it('says each time that it is open, before anything was heard', () => {
    newest().open()
    expect(opened).toBe(1)
    newest().close()
    vi.advanceTimersByTime(1500)
    newest().open()
    expect(opened).toBe(2)
  })

  it('is tried at once when the device wakes, and left alone where it stands', () => {
    newest().tell({ say: 'alive' })
    see('hidden')
    see('visible')
    expect(Socket.all).toHaveLength(1)
    // Asleep: nothing runs, and the network is gone.
    vi.setSystemTime(0)
    newest().close()
    for (let i = 0; i < 8; i++) {
      vi.advanceTimersByTime(1500)
      newest().close()
    }
    const before = Socket.all.length
    see('visible')
    expect(Socket.all.length).toBe(before + 1)
    newest().tell({ say: 'alive' })
    expect(away.at(-1)).toBeNull()
  })

  it('says what a finger does only where somebody hears it', () => {
    line.say({ say: 'touch' })
    expect(newest().sent).toEqual([])
    newest().tell({ say: 'alive' })
    line.say({ say: 'touch' })
    expect(newest().sent).toEqual(['{"say":"touch"}'])
  })

  it('ended, it stays away', () => {
    newest().tell({ say: 'alive' })
    line.end()
    const before = Socket.all.length
    vi.advanceTimersByTime(20_000)
    see('visible')
    expect(Socket.all).toHaveLength(before)
  })
})
