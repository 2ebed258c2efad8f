import { create } from 'zustand'
import type { DatagramLayout } from '@/core/datagrams/layout'
import { LayoutReader } from '@/core/datagrams/read-datagram'
import type { FromHub } from '@/core/live/feed'
import { HubTime } from './hub-time'

type Heard = Extract<FromHub, { say: 'datagrams' }>

/** What was seen of one packet, or of datagrams of one size that are none. */
export interface SeenPacket {
  bytes: Uint8Array
  /** When each byte was another one last, in milliseconds of the hub. */
  readonly changed: Float64Array
  at: number
  count: number
  /** How often it comes a second, over the last second or so. */
  hz: number
  counted: number
  countedAt: number
}

/** Whoever wants every datagram of a packet, and not only the last. */
export type PacketListener = (bytes: Uint8Array, at: number) => void

/** How often what is shown of datagrams is drawn anew: quicker than an eye reads. */
const DRAW_MS = 100
/** Over how long a rate is counted. */
const RATE_MS = 1500

interface DatagramState {
  /** The connection that is looked at. */
  connection: string | null
  /** Counts up whenever there is something new to draw. */
  drawn: number
  left: number
}

export const useDatagrams = create<DatagramState>()(() => ({ connection: null, drawn: 0, left: 0 }))

/** What was seen, by packet of the layout; and by size, of what fits none. */
export const seen = new Map<number, SeenPacket>()
export const strange = new Map<number, SeenPacket>()

let reader: LayoutReader | null = null
/** Places in the layout of the packets that are read, and of those that are sent. */
let read: readonly number[] = []
let sent: readonly { readonly at: number; readonly bytes: number }[] = []
const listeners = new Map<number, Set<PacketListener>>()
let paused = false
let drawnAt = 0
/** How the hub's clock stands, by the datagrams that were told. */
export const hubTime = new HubTime()

/** Begins to look at a connection, or at none. */
export const beginDatagrams = (connection: string | null): void => {
  seen.clear()
  strange.clear()
  paused = false
  useDatagrams.setState({ connection, drawn: 0, left: 0 })
}

/** Sorts by this layout from now on. What was seen of packets that are no longer the same is seen anew. */
export const sortBy = (layout: DatagramLayout): void => {
  reader = new LayoutReader(layout)
  read = layout.packets.flatMap((p, i) => (p.send ? [] : [i]))
  sent = layout.packets.flatMap((p, at) => (p.send ? [{ at, bytes: p.bytes }] : []))
  for (const [i, s] of seen)
    if (s.bytes.length < (layout.packets[i]?.bytes ?? Number.POSITIVE_INFINITY)) seen.delete(i)
  strange.clear()
}

/** Holds what is shown as it is; what comes meanwhile is still listened to. */
export const pauseDatagrams = (on: boolean): void => {
  paused = on
}

export const listenTo = (packet: number, listener: PacketListener): (() => void) => {
  const set = listeners.get(packet) ?? new Set()
  listeners.set(packet, set)
  set.add(listener)
  return () => set.delete(listener)
}

const note = (among: Map<number, SeenPacket>, key: number, bytes: Uint8Array, at: number): void => {
  const known = among.get(key)
  if (!known || known.bytes.length !== bytes.length) {
    among.set(key, {
      bytes,
      changed: new Float64Array(bytes.length).fill(-1e9),
      at,
      count: 1,
      hz: 0,
      counted: 1,
      countedAt: at,
    })
    return
  }
  for (let i = 0; i < bytes.length; i++) if (known.bytes[i] !== bytes[i]) known.changed[i] = at
  known.bytes = bytes
  known.at = at
  known.count++
  const since = at - known.countedAt
  if (since < RATE_MS) return
  known.hz = ((known.count - known.counted) * 1000) / since
  known.counted = known.count
  known.countedAt = at
}

/** Which packet of the layout a datagram that went out is: the one of its size. */
const sentPacket = (bytes: Uint8Array): number | undefined => sent.find((s) => s.bytes === bytes.length)?.at

export const hearDatagrams = (m: Heard): void => {
  const state = useDatagrams.getState()
  if (state.connection !== m.connection || !reader) return
  const now = performance.now()
  for (const { at } of m.items.slice(-1)) hubTime.hear(at, now)
  for (const { at, d, bytes: text } of m.items) {
    const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
    const found = d === 'in' ? reader.packetOf(new DataView(bytes.buffer)) : null
    const packet = typeof found === 'number' ? read[found] : d === 'out' ? sentPacket(bytes) : undefined
    if (packet !== undefined) for (const listener of listeners.get(packet) ?? []) listener(bytes, at)
    if (paused) continue
    if (packet !== undefined) note(seen, packet, bytes, at)
    else if (d === 'in' && (strange.has(bytes.length) || strange.size < 12))
      note(strange, bytes.length, bytes, at)
  }
  if (now - drawnAt < DRAW_MS) return
  drawnAt = now
  useDatagrams.setState({ drawn: state.drawn + 1, left: state.left + m.left })
}
