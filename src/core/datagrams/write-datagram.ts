import { fieldTypes, nearest } from './field-type'
import { type DatagramField, type DatagramLayout, type DatagramPacket, endOf } from './layout'
import type { DatagramValue } from './read-datagram'

const encoder = new TextEncoder()

/** As many bytes of a text as there is room for, without half a letter at the end. */
const textBytes = (text: string, room: number): Uint8Array => {
  const bytes = encoder.encode(text)
  if (bytes.length <= room) return bytes
  let end = room
  while (end > 0 && ((bytes[end] as number) & 0xc0) === 0x80) end--
  return bytes.subarray(0, end)
}

const putBits = (view: DataView, f: DatagramField, at: number, value: number, little: boolean): void => {
  if (f.as === 'text' || !f.bits) return
  const type = fieldTypes[f.as]
  const { from, width } = f.bits
  const room = 2 ** (type.bytes * 8)
  const is = type.read(view, at, little)
  const held = is < 0 ? is + room : is
  const step = 2 ** from
  const before = Math.floor(held / step) % 2 ** width
  const next = held + (Math.min(2 ** width - 1, Math.max(0, Math.round(value))) - before) * step
  type.write(view, at, type.least < 0 && next >= room / 2 ? next - room : next, little)
}

/**
 * Writes a packet: `values` has one for each of its fields, in their order. What is absent is zero bytes, and a number is the
 * nearest that its field can hold.
 */
export const writeDatagram = (
  packet: DatagramPacket,
  layout: DatagramLayout,
  values: readonly DatagramValue[],
): Uint8Array => {
  const bytes = new Uint8Array(packet.bytes)
  const view = new DataView(bytes.buffer)
  if (packet.tell) {
    const { at, as, is, order } = packet.tell
    const type = fieldTypes[as]
    if (at + type.bytes <= packet.bytes)
      type.write(view, at, nearest(type, is), (order ?? layout.order) === 'little')
  }
  for (const [i, f] of packet.fields.entries()) {
    const value = values[i] ?? null
    if (value === null || endOf(f) > packet.bytes) continue
    if (f.as === 'text') {
      bytes.set(textBytes(String(value), f.count ?? 1), f.at)
      continue
    }
    const raw = typeof value === 'number' ? (value - (f.add ?? 0)) / (f.scale ?? 1) : Number.NaN
    if (!Number.isFinite(raw)) continue
    const type = fieldTypes[f.as]
    const little = (f.order ?? layout.order) === 'little'
    for (let n = 0; n < (f.count ?? 1); n++) {
      const at = f.at + n * type.bytes
      if (f.bits) putBits(view, f, at, raw, little)
      else type.write(view, at, nearest(type, raw), little)
    }
  }
  return bytes
}
