import { crc16 } from '../crc16'
import type { DeviceDescription } from './description'

/**
 * What two ends have to have in common to understand each other, as four hexadecimal digits: CRC-16 over form, marks, check,
 * and names with how they are kept, in their order. Rate and values do not count: nobody misreads anything when they change.
 */
export const fingerprintOf = (d: DeviceDescription): string => {
  const values = d.send.map((s) =>
    d.form === 'packet'
      ? `${s.name}:${s.as}:${s.as === 'text' ? (s.bytes ?? 1) : ''}`
      : `${s.name}:${s.unit ?? ''}`,
  )
  const text = JSON.stringify([d.form, d.begins, d.separator, d.named, d.check, values])
  return crc16(new TextEncoder().encode(text)).toString(16).toUpperCase().padStart(4, '0')
}
