import type { Place } from '../catalogue/place'

/** What a lamp or display does when its board hears nothing any more. */
export type SlotRest = number | 'keep'

/** A slot's first byte holds its kind below and its flags above. */
export const FLAG = 16
/** Flags of rests: as it was, or a state that follows the settings; neither is dark, or the zero of a motor. */
export const KEEPS = 1 * FLAG
const RESTS = 2 * FLAG

/** Seven bits a byte, lowest first; the top bit says that more follow (LEB128). */
export const number = (n: number): number[] => {
  const bytes: number[] = []
  for (; n >= 128; n = Math.floor(n / 128)) bytes.push((n % 128) + 128)
  return [...bytes, n]
}

/** Places, with how many there are where the kind of slot does not say. */
export const places = (list: readonly Place[]): number[] => list.flatMap(number)
export const countedPlaces = (list: readonly Place[]): number[] => [...number(list.length), ...places(list)]

export const restFlag = (r: SlotRest): number => (r === 'keep' ? KEEPS : r === 0 ? 0 : RESTS)
export const restBytes = (r: SlotRest): number[] => (r === 'keep' || r === 0 ? [] : number(r))
export const readRest = (flags: number, b: Bytes): SlotRest =>
  (flags & KEEPS) !== 0 ? 'keep' : (flags & RESTS) !== 0 ? b.number() : 0

/** Bytes of a configuration, read one after the other. Beyond the end there is nothing but −1. */
export class Bytes {
  at = 0
  constructor(private readonly bytes: Uint8Array) {}

  readonly next = (): number => this.bytes[this.at++] ?? -1
  readonly number = (): number => {
    let n = 0
    for (let factor = 1; factor < 2 ** 28; factor *= 128) {
      const byte = this.next()
      n += (byte % 128) * factor
      if (byte < 128) return n
    }
    return n
  }
  readonly numbers = (count: number): number[] => {
    const list: number[] = []
    for (let i = 0; i < count && !this.over; i++) list.push(this.number())
    return list
  }
  get over(): boolean {
    return this.at > this.bytes.length
  }
}
