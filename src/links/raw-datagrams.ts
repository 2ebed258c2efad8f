import type { DatagramLayout } from '../core/datagrams/layout'
import { type DatagramValue, LayoutReader } from '../core/datagrams/read-datagram'
import { formatNumber } from '../core/signal/format'
import { hexDigits, type RawReader, shortened } from './raw-reader'

/** So many values of one datagram are named; the rest is in the layout. */
const MOST_NAMED = 24

const valueWords = (value: DatagramValue): string =>
  value === null ? 'no number' : typeof value === 'string' ? `“${value}”` : formatNumber(value)

/** Reads whole datagrams for eyes; `sent` those of the packets that go out. */
export const datagramReaders = (layout: DatagramLayout, sent = false): RawReader => {
  const packets = sent ? layout.packets.filter((p) => p.send).map(({ send: _, ...p }) => p) : layout.packets
  const reader = new LayoutReader({ ...layout, packets })
  return {
    push: (bytes) => {
      const raw = shortened(hexDigits(bytes))
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
      const packet = reader.packetOf(view)
      if (typeof packet !== 'number') {
        const nearest = packet.nearest === null ? '' : `; “${packet.nearest}” has ${packet.wanted}`
        return [{ raw, words: `${bytes.length} bytes that fit no packet${nearest}`, sound: false }]
      }
      const told: string[] = []
      let left = 0
      reader.read(
        view,
        packet,
        () => true,
        (slot, value) => {
          if (told.length < MOST_NAMED) told.push(`${reader.variables[slot]?.name} ${valueWords(value)}`)
          else left++
        },
      )
      const more = left > 0 ? ` … and ${left} more` : ''
      return [{ raw, words: `${reader.nameOf(packet)} · ${told.join(', ')}${more}`, sound: true }]
    },
  }
}
