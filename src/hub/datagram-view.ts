import type { Connections } from './connections'
import { DatagramClient } from './datagram-client'
import type { Tab } from './tab'

/** So many are told in one turn at most, and so many bytes of them; what comes quicker is counted. */
const MOST_A_TURN = 24
const MOST_BYTES_A_TURN = 131_072

interface Seen {
  readonly client: DatagramClient
  items: { at: number; d: 'in' | 'out'; bytes: string }[]
  size: number
  left: number
}

/** Whole datagrams for tabs that look at them, so that a layout can be made. Nothing of it is there while nobody looks. */
export class DatagramView {
  private readonly seen = new Map<string, Seen>()

  constructor(private readonly connections: Connections) {}

  /** A tab looks at the datagrams of a connection from now on, or at none. */
  watch(tab: Tab, connection: string | null, tabs: Iterable<Tab>): void {
    tab.datagrams = connection
    this.follow(tabs)
  }

  /** Looks at just what is looked at; a connection may have been opened anew. */
  follow(tabs: Iterable<Tab>): void {
    const wanted = new Set<string>()
    for (const tab of tabs) if (tab.datagrams !== null) wanted.add(tab.datagrams)
    for (const [connection, { client }] of this.seen) {
      if (wanted.has(connection) && this.connections.client(connection) === client) continue
      client.eye = null
      this.seen.delete(connection)
    }
    for (const connection of wanted) {
      const client = this.connections.client(connection)
      if (client instanceof DatagramClient && !this.seen.has(connection)) this.look(connection, client)
    }
  }

  private look(connection: string, client: DatagramClient): void {
    const seen: Seen = { client, items: [], size: 0, left: 0 }
    this.seen.set(connection, seen)
    client.eye = (d, bytes) => {
      if (seen.items.length >= MOST_A_TURN || seen.size + bytes.length > MOST_BYTES_A_TURN) seen.left++
      else {
        seen.size += bytes.length
        const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).toString('base64')
        seen.items.push({ at: Math.round(performance.now()), d, bytes: text })
      }
    }
  }

  /** Tells the tabs what has come and gone since the last turn. */
  tell(tabs: Iterable<Tab>): void {
    for (const [connection, seen] of this.seen) {
      if (seen.items.length === 0) continue
      const { items, left } = seen
      Object.assign(seen, { items: [], size: 0, left: 0 })
      const text = JSON.stringify({ say: 'datagrams', connection, items, left })
      for (const tab of tabs) if (tab.datagrams === connection && !tab.line.isFull()) tab.line.send(text)
    }
  }
}
