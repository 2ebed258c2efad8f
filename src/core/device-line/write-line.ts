import { crc16 } from '../crc16'
import { fieldTypes, nearest } from '../datagrams/field-type'
import type { DeviceDescription, SentValue } from './description'
import { fingerprintOf } from './fingerprint'

type Value = number | string | null

/** The byte with which every packet begins; nothing else marks it, so its length and its check decide. */
export const PACKET_BEGINS = 0xa5

const encoder = new TextEncoder()
const hex = (n: number, digits: number): string => n.toString(16).toUpperCase().padStart(digits, '0')

/** What stands behind the * of a line: over all characters before it. */
export const checkOf = (text: string, check: DeviceDescription['check']): string => {
  const bytes = encoder.encode(text)
  switch (check) {
    case 'none':
      return ''
    case 'xor':
      return hex(
        bytes.reduce((x, b) => x ^ b, 0),
        2,
      )
    case 'sum':
      return hex(bytes.reduce((x, b) => x + b, 0) & 255, 2)
    case 'crc-16':
      return hex(crc16(bytes), 4)
  }
}

/** A text without what would end its value, or its line. */
const plainText = (text: string, d: DeviceDescription): string => {
  let plain = text.replace(/[\r\n\0*]/g, ' ')
  for (const stop of [d.separator, d.begins]) if (stop !== '') plain = plain.replaceAll(stop, ' ')
  return plain
}

/** A number with so many decimals, filled with zeros up to its width; the sign counts. */
const numberText = (value: number, s: SentValue): string => {
  // Beyond this `toFixed` would write an exponent, which no small reader knows.
  const bounded = Math.min(1e15, Math.max(-1e15, value))
  const text = bounded.toFixed(s.decimals)
  // Not minus nothing.
  const bare = Number(text) === 0 ? text.replace('-', '') : text
  const width = s.width ?? 0
  return bare.startsWith('-') ? `-${bare.slice(1).padStart(width - 1, '0')}` : bare.padStart(width, '0')
}

const valueText = (value: Value, s: SentValue, d: DeviceDescription): string =>
  value === null ? '' : typeof value === 'string' ? plainText(value, d) : numberText(value, s)

/** One line with these values, in the order of the description. What is absent is empty. */
export const writeLine = (d: DeviceDescription, values: readonly Value[]): string => {
  const texts = d.send.map((s, i) => {
    const text = valueText(values[i] ?? null, s, d)
    return d.named ? `${s.name}=${text}` : text
  })
  const body = d.begins + [...(d.marked ? [fingerprintOf(d)] : []), ...texts].join(d.separator)
  return `${body}${d.check === 'none' ? '' : `*${checkOf(body, d.check)}`}${d.ends}`
}

/** How many bytes a value of a packet takes. */
export const bytesOfSent = (s: SentValue): number =>
  s.as === 'text' ? (s.bytes ?? 1) : fieldTypes[s.as].bytes

/** Bytes between the head of a packet and its check. */
export const packetBytes = (d: DeviceDescription): number => d.send.reduce((n, s) => n + bytesOfSent(s), 0)

/**
 * One packet: a byte 0xA5, the length of what follows up to the check, the fingerprint (two bytes, high first, where it goes
 * along), the values with their low bytes first, the check over all of that (one byte, or two with the low first). An absent
 * float is no number, any other absent value 0.
 */
export const writePacket = (d: DeviceDescription, values: readonly Value[]): Uint8Array => {
  const size = packetBytes(d) + (d.marked ? 2 : 0)
  const tail = d.check === 'none' ? 0 : d.check === 'crc-16' ? 2 : 1
  const bytes = new Uint8Array(2 + size + tail)
  const view = new DataView(bytes.buffer)
  bytes[0] = PACKET_BEGINS
  bytes[1] = size & 255
  let at = 2
  if (d.marked) {
    view.setUint16(at, Number.parseInt(fingerprintOf(d), 16))
    at += 2
  }
  for (const [i, s] of d.send.entries()) {
    const value = values[i] ?? null
    if (s.as === 'text') {
      const room = bytesOfSent(s)
      if (value !== null) bytes.set(encoder.encode(String(value)).subarray(0, room), at)
    } else {
      const type = fieldTypes[s.as]
      if (typeof value === 'number') type.write(view, at, nearest(type, value), true)
      else if (!type.isWhole) type.write(view, at, Number.NaN, true)
    }
    at += bytesOfSent(s)
  }
  const covered = bytes.subarray(0, at)
  if (d.check === 'xor') bytes[at] = covered.reduce((x, b) => x ^ b, 0)
  else if (d.check === 'sum') bytes[at] = covered.reduce((x, b) => x + b, 0) & 255
  else if (d.check === 'crc-16') view.setUint16(at, crc16(covered), true)
  return bytes
}
