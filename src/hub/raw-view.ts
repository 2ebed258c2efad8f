import type { RawItem } from '../core/live/feed'
import type { RawReader } from '../links/raw-reader'
import type { Client } from './client-of'
import type { Connections } from './connections'
import { SerialLine } from './lines/serial-line'
import type { Tab } from './tab'

/** So much is told in one turn at most; what comes quicker is counted, not shown. */
const MOST_A_TURN = 120

interface Watched {
  readonly client: Client
  readonly tabs: Set<Tab>
  items: RawItem[]
  left: number
}

/** What goes over single connections, for tabs that look at it. Nothing of it is there while nobody looks. */
export class RawView {
  private readonly watched = new Map<string, Watched>()

  constructor(private readonly connections: Connections) {}

  /** A tab looks at a connection from now on, or at none. */
  watch(tab: Tab, connection: string | null): void {
    this.leave(tab)
    if (connection === null) return
    tab.raw = connection
    this.look(tab, connection)
  }

  private look(tab: Tab, connection: string): void {
    const client = this.connections.client(connection)
    if (!client) return
    const known = this.watched.get(connection)
    if (known?.client === client) known.tabs.add(tab)
    else this.watched.set(connection, this.begin(client, new Set([...(known?.tabs ?? []), tab])))
  }

  private begin(client: Client, tabs: Set<Tab>): Watched {
    const watched: Watched = { client, tabs, items: [], left: 0 }
    const readers = client.rawReaders()
    const text = new TextEncoder()
    client.line.tap = (direction, data) => {
      const bytes = typeof data === 'string' ? text.encode(data) : data
      this.take(watched, direction, readers[direction], bytes)
    }
    return watched
  }

  private take(watched: Watched, d: 'in' | 'out', reader: RawReader, bytes: Uint8Array): void {
    const t = Date.now()
    for (const piece of reader.push(bytes)) {
      if (watched.items.length < MOST_A_TURN) watched.items.push({ t, d, ...piece })
      else watched.left++
    }
  }

  leave(tab: Tab): void {
    tab.raw = null
    for (const [connection, watched] of this.watched) {
      watched.tabs.delete(tab)
      if (watched.tabs.size > 0) continue
      watched.client.line.tap = null
      this.watched.delete(connection)
    }
  }

  /** A connection was opened anew: whoever looked at it looks at the new one. */
  follow(tabs: Iterable<Tab>): void {
    for (const tab of tabs) {
      if (tab.raw === null) continue
      const watched = this.watched.get(tab.raw)
      if (watched && this.connections.client(tab.raw) === watched.client) continue
      this.look(tab, tab.raw)
    }
  }

  /** Tells the tabs what has gone over since the last turn. */
  tell(): void {
    for (const [connection, watched] of this.watched) {
      if (watched.items.length === 0) continue
      const { items, left } = watched
      watched.items = []
      watched.left = 0
      const text = JSON.stringify({ say: 'raw', connection, items, left })
      for (const tab of watched.tabs) if (!tab.line.isFull()) tab.line.send(text)
    }
  }

  /** Sends bytes by hand; what is wrong with that, or null. */
  send(connection: string, bytes: Uint8Array): string | null {
    const client = this.connections.client(connection)
    if (!client?.line.isUp) return 'The line is not open, so nothing was sent.'
    client.line.send(bytes)
    return null
  }

  /** Sets the control lines of a serial port by hand; what is wrong with that, or null. */
  async setLines(connection: string, hand: { dtr: boolean; rts: boolean }): Promise<string | null> {
    const line = this.connections.client(connection)?.line
    if (!(line instanceof SerialLine)) return 'This connection has no such lines.'
    const problem = await line.setLines(hand)
    return problem === null ? null : `The lines could not be set: ${problem}.`
  }

  /** Asks the other end something that changes nothing, and says how long the answer took. */
  echo(connection: string, heard: (ms: number | null) => void): void {
    const client = this.connections.client(connection)
    if (!client?.up) {
      heard(null)
      return
    }
    const patience = setTimeout(() => heard(null), ECHO_MS)
    client.askEcho((ms) => {
      clearTimeout(patience)
      heard(ms)
    })
  }
}

/** How long an echo is waited for. */
const ECHO_MS = 2000
