import type { VariableInfo } from '../rig/simulator-catalogue'
import { fieldTypes } from './field-type'
import {
  bytesOfOne,
  type DatagramField,
  type DatagramLayout,
  type DatagramPacket,
  endOf,
  namesOf,
} from './layout'

/** What a value can be, once read; null is one that makes no sense, such as a float that is no number. */
export type DatagramValue = number | string | null

type Read = (view: DataView) => DatagramValue

/** The bits of a whole number from its lowest, as far as 2^53 reaches. */
const bitsOf = (value: number, from: number, width: number): number =>
  Math.floor(value / 2 ** from) % 2 ** width

const decoder = new TextDecoder()

/** A text ends at its first zero byte, or with its room. */
const textAt = (view: DataView, at: number, room: number): string => {
  const bytes = new Uint8Array(view.buffer, view.byteOffset + at, room)
  const end = bytes.indexOf(0)
  return decoder.decode(end < 0 ? bytes : bytes.subarray(0, end)).trimEnd()
}

/** How one value of a field is read, `nth` of several in a row. */
const readerOf = (f: DatagramField, layout: DatagramLayout, nth: number): Read => {
  const { as } = f
  if (as === 'text') {
    const room = f.count ?? 1
    return (view) => textAt(view, f.at, room)
  }
  const type = fieldTypes[as]
  const at = f.at + nth * type.bytes
  const little = (f.order ?? layout.order) === 'little'
  const { bits, scale = 1, add = 0 } = f
  if (bits) {
    // What has a sign is read as the bits that it is.
    const room = 2 ** (type.bytes * 8)
    return (view) => {
      const value = type.read(view, at, little)
      return bitsOf(value < 0 ? value + room : value, bits.from, bits.width) * scale + add
    }
  }
  if (type.isWhole) return (view) => type.read(view, at, little) * scale + add
  return (view) => {
    const value = type.read(view, at, little) * scale + add
    return Number.isFinite(value) ? value : null
  }
}

const infoOf = (f: DatagramField, name: string, p: DatagramPacket): VariableInfo => ({
  name,
  type: f.as === 'text' ? 'text' : 'number',
  unit: f.unit ?? null,
  writable: false,
  range: f.range ?? null,
  ...(f.choices ? { choices: f.choices } : {}),
  description: f.description ?? '',
  group: p.name,
})

/** One packet as it is read: the variables that it tells, from which slot on, and how. */
interface ReadPacket {
  readonly packet: DatagramPacket
  readonly tell: { readonly is: number; readonly read: Read; readonly end: number } | null
  readonly slots: readonly number[]
  readonly reads: readonly Read[]
  /** Where among its reads the one is that only grows; -1 for none. */
  readonly grows: number
  /** When that wraps round, or infinity. */
  readonly wraps: number
}

/** Why a datagram is none of a layout’s: how long it is, and which packet it was nearest to. */
export interface Misfit {
  readonly bytes: number
  readonly nearest: string | null
  readonly wanted: number | null
}

/** A layout made ready to read datagrams with. */
export class LayoutReader {
  readonly variables: VariableInfo[] = []
  private readonly packets: ReadPacket[] = []

  constructor(readonly layout: DatagramLayout) {
    const taken = new Set<string>()
    for (const packet of layout.packets) if (!packet.send) this.packets.push(this.make(packet, taken))
  }

  private make(packet: DatagramPacket, taken: Set<string>): ReadPacket {
    const slots: number[] = []
    const reads: Read[] = []
    let grows = -1
    let wraps = Number.POSITIVE_INFINITY
    for (const f of packet.fields) {
      const sound = endOf(f) <= packet.bytes && isWithin(f)
      for (const [nth, name] of namesOf(f).entries()) {
        if (!sound || taken.has(name)) continue
        taken.add(name)
        if (name === packet.grows && f.as !== 'text') {
          grows = reads.length
          const type = fieldTypes[f.as]
          if (type.isWhole && !f.bits) wraps = (type.most - type.least + 1) * Math.abs(f.scale ?? 1)
        }
        slots.push(this.variables.length)
        this.variables.push(infoOf(f, name, packet))
        reads.push(readerOf(f, this.layout, nth))
      }
    }
    const { tell } = packet
    return {
      packet,
      tell: tell
        ? {
            is: tell.is,
            end: tell.at + fieldTypes[tell.as].bytes,
            read: readerOf({ name: 'tell', at: tell.at, as: tell.as, order: tell.order }, this.layout, 0),
          }
        : null,
      slots,
      reads,
      grows,
      wraps,
    }
  }

  /** Which of the packets that are read this is, or why it is none. */
  packetOf(view: DataView): number | Misfit {
    let nearest: ReadPacket | null = null
    let least = Number.POSITIVE_INFINITY
    for (const [i, p] of this.packets.entries()) {
      if (p.tell && (p.tell.end > view.byteLength || p.tell.read(view) !== p.tell.is)) continue
      const off = view.byteLength - p.packet.bytes
      if (off === 0 || (off > 0 && p.packet.longer)) return i
      if (Math.abs(off) < least) {
        least = Math.abs(off)
        nearest = p
      }
    }
    return {
      bytes: view.byteLength,
      nearest: nearest?.packet.name ?? null,
      wanted: nearest?.packet.bytes ?? null,
    }
  }

  nameOf(packet: number): string {
    return this.packets[packet]?.packet.name ?? ''
  }

  get count(): number {
    return this.packets.length
  }

  /** Tells each value of a datagram of this packet whose slot is wanted. */
  read(
    view: DataView,
    packet: number,
    isWanted: (slot: number) => boolean,
    take: (slot: number, v: DatagramValue) => void,
  ): void {
    const p = this.packets[packet]
    if (!p) return
    for (let i = 0; i < p.slots.length; i++) {
      const slot = p.slots[i] as number
      if (isWanted(slot)) take(slot, (p.reads[i] as Read)(view))
    }
  }

  /** What only grows in this packet, and where it begins anew; null where nothing does. */
  growing(view: DataView, packet: number): { readonly is: number; readonly wraps: number } | null {
    const p = this.packets[packet]
    const is = p && p.grows >= 0 ? (p.reads[p.grows] as Read)(view) : null
    return p && typeof is === 'number' ? { is, wraps: p.wraps } : null
  }
}

const isWithin = (f: DatagramField): boolean =>
  f.bits === undefined ||
  (f.as !== 'text' && fieldTypes[f.as].isWhole && f.bits.from + f.bits.width <= bytesOfOne(f) * 8)

/** One value of a field out of bytes, for who looks at them; undefined where they end before it. */
export const readField = (
  bytes: Uint8Array,
  f: DatagramField,
  layout: DatagramLayout,
  nth = 0,
): DatagramValue | undefined => {
  if (endOf(f) > bytes.length || !isWithin(f)) return undefined
  return readerOf(f, layout, nth)(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength))
}
