import type { BusMessage, BusSignal } from './database'

/**
 * The places of a signal’s bits in eight bytes, from its lowest: byte times 8 plus bit. With the low byte first they rise from
 * its start. With the high byte first they begin at the highest and go down through each byte, then on to the next one.
 */
export const placesOf = (s: Pick<BusSignal, 'start' | 'length' | 'order'>): number[] => {
  if (s.order === 'little') return Array.from({ length: s.length }, (_, i) => s.start + i)
  const down: number[] = []
  let at = s.start
  for (let i = 0; i < s.length; i++) {
    down.push(at)
    at = at % 8 === 0 ? at + 15 : at - 1
  }
  return down.reverse()
}

/** Whether all bits of a signal lie within its message. */
export const fitsIn = (
  m: Pick<BusMessage, 'bytes'>,
  s: Pick<BusSignal, 'start' | 'length' | 'order'>,
): boolean => placesOf(s).every((p) => p >= 0 && p < m.bytes * 8)

const scratch = new DataView(new ArrayBuffer(8))

/** The whole number in these bits. */
const raw = (data: Uint8Array, places: readonly number[]): bigint => {
  let value = 0n
  for (let i = places.length - 1; i >= 0; i--) {
    const p = places[i] as number
    value = (value << 1n) | BigInt(((data[p >> 3] as number) >> (p & 7)) & 1)
  }
  return value
}

/** What a number was before it was bits, of up to 52 of them: no big numbers are needed. */
const small = (data: Uint8Array, places: readonly number[]): number => {
  let value = 0
  for (let i = places.length - 1; i >= 0; i--) {
    const p = places[i] as number
    value = value * 2 + (((data[p >> 3] as number) >> (p & 7)) & 1)
  }
  return value
}

/** How a signal is read: what is shown, or null where it is no number. The data must be long enough. */
export const readerOf = (s: BusSignal): ((data: Uint8Array) => number | null) => {
  const places = placesOf(s)
  const { scale, add, length } = s
  if (s.as === 'float' || s.as === 'double') {
    if (length !== (s.as === 'float' ? 32 : 64)) return () => null
    return (data) => {
      scratch.setBigUint64(0, raw(data, places))
      const value = (s.as === 'float' ? scratch.getFloat32(4) : scratch.getFloat64(0)) * scale + add
      return Number.isFinite(value) ? value : null
    }
  }
  if (length <= 52) {
    const half = 2 ** (length - 1)
    return s.as === 'signed'
      ? (data) => {
          const value = small(data, places)
          return (value >= half ? value - 2 * half : value) * scale + add
        }
      : (data) => small(data, places) * scale + add
  }
  return (data) => {
    const value = raw(data, places)
    return Number(s.as === 'signed' ? BigInt.asIntN(length, value) : value) * scale + add
  }
}

/** The whole number that stands for a value: the nearest that the signal can hold. */
const rawOf = (s: BusSignal, value: number): bigint => {
  const bare = (value - s.add) / s.scale
  if (s.as === 'float' || s.as === 'double') {
    if (s.as === 'float') {
      scratch.setUint32(0, 0)
      scratch.setFloat32(4, bare)
    } else scratch.setFloat64(0, bare)
    return scratch.getBigUint64(0)
  }
  if (!Number.isFinite(bare)) return 0n
  const most = s.as === 'signed' ? (1n << BigInt(s.length - 1)) - 1n : (1n << BigInt(s.length)) - 1n
  const least = s.as === 'signed' ? -(1n << BigInt(s.length - 1)) : 0n
  const whole = BigInt(Math.round(bare))
  const held = whole < least ? least : whole > most ? most : whole
  return BigInt.asUintN(s.length, held)
}

/** Puts a value into its bits and leaves all others as they are. */
export const writeSignal = (data: Uint8Array, s: BusSignal, value: number): void => {
  let bits = rawOf(s, value)
  for (const p of placesOf(s)) {
    const byte = data[p >> 3]
    if (byte === undefined) continue
    data[p >> 3] = (bits & 1n) === 1n ? byte | (1 << (p & 7)) : byte & ~(1 << (p & 7))
    bits >>= 1n
  }
}
