import { crc16 } from '../core/crc16'

export { crc16 }

/** The version of the board link spoken here; it is the first byte of every frame. */
export const BOARD_LINK_VERSION = 2

/** The longest frame body (version, type, sequence, payload); longer ones are noise. */
export const MOST_BODY_BYTES = 512
const HEADER_BYTES = 3
const CRC_BYTES = 2

export interface Frame {
  readonly version: number
  readonly type: number
  readonly sequence: number
  readonly payload: Uint8Array
}

/** Consistent overhead byte stuffing (Cheshire & Baker 1999): no zero inside, and the zero that ends a frame behind it. */
export const cobsEncode = (bytes: Uint8Array): Uint8Array => {
  // One code byte at the start, and at most one more for each 254 bytes.
  const out = new Uint8Array(bytes.length + 3 + Math.floor(bytes.length / 254))
  let codeAt = 0
  let at = 1
  let run = 1
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i] as number
    if (byte !== 0) {
      out[at++] = byte
      run++
    }
    if (byte === 0 || run === 255) {
      out[codeAt] = run
      codeAt = at++
      run = 1
    }
  }
  out[codeAt] = run
  return out.subarray(0, at + 1)
}

/**
 * Unstuffs the first `length` bytes in place: what comes out is never longer than what went in. The number of bytes
 * that were stuffed, or −1 when this is no stuffing.
 */
export const cobsDecode = (bytes: Uint8Array, length = bytes.length): number => {
  let out = 0
  let at = 0
  while (at < length) {
    const code = bytes[at++] as number
    if (code === 0 || at + code - 1 > length) return -1
    for (let i = 1; i < code; i++) {
      const byte = bytes[at++] as number
      if (byte === 0) return -1
      bytes[out++] = byte
    }
    if (code < 255 && at < length) bytes[out++] = 0
  }
  return out
}

/** A frame as it travels: stuffed body and checksum, then one zero. */
export const encodeFrame = (type: number, sequence: number, payload: ArrayLike<number>): Uint8Array => {
  const end = HEADER_BYTES + payload.length
  const body = new Uint8Array(end + CRC_BYTES)
  body[0] = BOARD_LINK_VERSION
  body[1] = type
  body[2] = sequence
  body.set(payload, HEADER_BYTES)
  const crc = crc16(body, end)
  body[end] = crc & 255
  body[end + 1] = crc >> 8
  return cobsEncode(body)
}

/** The frame that was stuffed into these bytes, or null; the bytes are used up. */
const decodeFrame = (stuffed: Uint8Array, stuffedLength: number): Frame | null => {
  const length = cobsDecode(stuffed, stuffedLength)
  if (length < HEADER_BYTES + CRC_BYTES) return null
  const end = length - CRC_BYTES
  const crc = (stuffed[end] as number) | ((stuffed[end + 1] as number) << 8)
  if (crc16(stuffed, end) !== crc) return null
  return {
    version: stuffed[0] as number,
    type: stuffed[1] as number,
    sequence: stuffed[2] as number,
    payload: stuffed.slice(HEADER_BYTES, end),
  }
}

/**
 * Finds frames in a stream of bytes that may be split, joined or damaged anywhere. Bad frames are counted and
 * dropped; the zero that ends each frame is where it finds its feet again.
 */
export class FrameReader {
  /** Frames dropped so far because they were damaged or far too long. */
  bad = 0
  private readonly held = new Uint8Array(MOST_BODY_BYTES + 8)
  private length = 0
  private overlong = false

  push(bytes: Uint8Array): Frame[] {
    const frames: Frame[] = []
    for (let i = 0; i < bytes.length; i++) {
      const byte = bytes[i] as number
      if (byte !== 0) {
        if (this.length < this.held.length) this.held[this.length++] = byte
        else this.overlong = true
        continue
      }
      const frame = this.overlong ? null : decodeFrame(this.held, this.length)
      const empty = this.length === 0
      this.length = 0
      this.overlong = false
      if (frame) frames.push(frame)
      else if (!empty) this.bad++
    }
    return frames
  }
}
