/** The version of the board link spoken here; it is the first byte of every frame. */
export const BOARD_LINK_VERSION = 1

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

/** What each byte does to the checksum. */
const crcTable = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8
  for (let i = 0; i < 8; i++) crc = crc & 0x8000 ? ((crc << 1) ^ 0x1021) & 0xffff : (crc << 1) & 0xffff
  return crc
})

/** CRC-16/IBM-3740 (polynomial 0x1021, start 0xFFFF), as in ITU-T V.41 without reflection. */
export const crc16 = (bytes: Uint8Array): number => {
  let crc = 0xffff
  for (let i = 0; i < bytes.length; i++) {
    crc = ((crc << 8) & 0xffff) ^ (crcTable[(crc >> 8) ^ (bytes[i] as number)] as number)
  }
  return crc
}

/** Consistent overhead byte stuffing (Cheshire & Baker 1999): no zero inside, so that zero can end a frame. */
export const cobsEncode = (bytes: Uint8Array): Uint8Array => {
  // One code byte at the start, and at most one more for each 254 bytes.
  const out = new Uint8Array(bytes.length + 2 + Math.floor(bytes.length / 254))
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
  return out.subarray(0, at)
}

/** The bytes that were stuffed, or null when this is no stuffing. */
export const cobsDecode = (bytes: Uint8Array): Uint8Array | null => {
  const out: number[] = []
  let at = 0
  while (at < bytes.length) {
    const code = bytes[at++] as number
    if (code === 0 || at + code - 1 > bytes.length) return null
    for (let i = 1; i < code; i++) {
      const byte = bytes[at++] as number
      if (byte === 0) return null
      out.push(byte)
    }
    if (code < 255 && at < bytes.length) out.push(0)
  }
  return Uint8Array.from(out)
}

/** A frame as it travels: stuffed body and checksum, then one zero. */
export const encodeFrame = (type: number, sequence: number, payload: Uint8Array): Uint8Array => {
  const body = new Uint8Array(HEADER_BYTES + payload.length + CRC_BYTES)
  body.set([BOARD_LINK_VERSION, type, sequence & 255])
  body.set(payload, HEADER_BYTES)
  const crc = crc16(body.subarray(0, HEADER_BYTES + payload.length))
  body[body.length - 2] = crc & 255
  body[body.length - 1] = crc >> 8
  const stuffed = cobsEncode(body)
  const out = new Uint8Array(stuffed.length + 1)
  out.set(stuffed)
  return out
}

const decodeFrame = (stuffed: Uint8Array): Frame | null => {
  const body = cobsDecode(stuffed)
  if (!body || body.length < HEADER_BYTES + CRC_BYTES) return null
  const end = body.length - CRC_BYTES
  const crc = (body[end] as number) | ((body[end + 1] as number) << 8)
  if (crc16(body.subarray(0, end)) !== crc) return null
  return {
    version: body[0] as number,
    type: body[1] as number,
    sequence: body[2] as number,
    payload: body.slice(HEADER_BYTES, end),
  }
}

/**
 * Finds frames in a stream of bytes that may be split, joined, damaged or repeated anywhere. Bad frames are
 * counted and dropped; the zero that ends each frame is where it finds its feet again.
 */
export class FrameReader {
  /** Frames dropped so far because they were damaged or far too long. */
  bad = 0
  private held: number[] = []
  private overlong = false
  private lastSequence: number | null = null

  push(bytes: Uint8Array): Frame[] {
    const frames: Frame[] = []
    for (const byte of bytes) {
      if (byte !== 0) {
        if (this.held.length < MOST_BODY_BYTES + 8) this.held.push(byte)
        else this.overlong = true
        continue
      }
      const frame = this.overlong ? null : decodeFrame(Uint8Array.from(this.held))
      const empty = this.held.length === 0
      this.held = []
      this.overlong = false
      if (!frame) {
        if (!empty) this.bad++
      } else if (frame.sequence !== this.lastSequence) {
        this.lastSequence = frame.sequence
        frames.push(frame)
      }
    }
    return frames
  }
}
