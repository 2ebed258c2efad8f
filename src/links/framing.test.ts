import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cobsDecode, cobsEncode, crc16, encodeFrame, type Frame, FrameReader } from './framing'

const payload = fc.uint8Array({ maxLength: 300 })
const frames = fc.array(fc.record({ type: fc.integer({ min: 0, max: 255 }), payload }), {
  minLength: 1,
  maxLength: 12,
})

const encodeAll = (list: readonly { type: number; payload: Uint8Array }[]) =>
  list.map((f, i) => encodeFrame(f.type, i, f.payload))
const joined = (pieces: readonly Uint8Array[]) => Uint8Array.from(pieces.flatMap((p) => [...p]))

/** Cuts bytes at the given places, in any order. */
const split = (bytes: Uint8Array, cuts: readonly number[]): Uint8Array[] => {
  const at = [0, ...cuts.map((c) => c % (bytes.length + 1)).sort((a, b) => a - b), bytes.length]
  return at.slice(1).map((end, i) => bytes.subarray(at[i], end))
}

const readAll = (pieces: readonly Uint8Array[]): Frame[] => {
  const reader = new FrameReader()
  return pieces.flatMap((p) => reader.push(p))
}

describe('byte stuffing', () => {
  it('leaves no zero inside, and comes undone', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 700 }), (bytes) => {
        const stuffed = cobsEncode(bytes)
        expect(stuffed.subarray(0, -1).includes(0)).toBe(false)
        expect(stuffed.at(-1)).toBe(0)
        const length = cobsDecode(stuffed, stuffed.length - 1)
        expect(stuffed.subarray(0, length)).toEqual(bytes)
      }),
    )
  })
  it('matches the published examples', () => {
    expect([...cobsEncode(Uint8Array.from([0]))]).toEqual([1, 1, 0])
    expect([...cobsEncode(Uint8Array.from([0x11, 0x22, 0, 0x33]))]).toEqual([3, 0x11, 0x22, 2, 0x33, 0])
  })
})

describe('the checksum', () => {
  it('matches the published check value', () => {
    expect(crc16(new TextEncoder().encode('123456789'))).toBe(0x29b1)
  })
})

describe('frames in a stream', () => {
  it('all arrive, however the bytes are split and joined', () => {
    fc.assert(
      fc.property(frames, fc.array(fc.nat(5000), { maxLength: 30 }), (list, cuts) => {
        const got = readAll(split(joined(encodeAll(list)), cuts))
        expect(got.map((f) => [f.type, [...f.payload]])).toEqual(list.map((f) => [f.type, [...f.payload]]))
      }),
    )
  })

  it('are never delivered wrong when a byte is damaged, and the next good one arrives', () => {
    fc.assert(
      fc.property(frames, fc.nat(), fc.integer({ min: 1, max: 255 }), (list, place, flip) => {
        const bytes = joined(encodeAll(list))
        const at = place % bytes.length
        bytes[at] = (bytes[at] as number) ^ flip
        const last = encodeFrame(7, 200, Uint8Array.from([1, 2, 3]))
        // The zero ends whatever the damage has run together.
        const got = readAll([bytes, Uint8Array.from([0]), last])
        const sent = list.map((f) => `${f.type} ${[...f.payload]}`)
        expect(`${got.at(-1)?.type} ${[...(got.at(-1)?.payload ?? [])]}`).toBe('7 1,2,3')
        for (const f of got.slice(0, -1)) expect(sent).toContain(`${f.type} ${[...f.payload]}`)
      }),
    )
  })

  it('come through noise before, between and after', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 2000 }), fc.uint8Array({ maxLength: 50 }), (before, after) => {
        const good = encodeFrame(9, 77, Uint8Array.from([4, 0, 4]))
        const got = readAll([before, Uint8Array.from([0]), good, after])
        expect(got.some((f) => f.type === 9 && [...f.payload].join() === '4,0,4')).toBe(true)
      }),
    )
  })

  it('are counted when they are dropped', () => {
    const reader = new FrameReader()
    const bytes = encodeFrame(1, 1, Uint8Array.from([5, 6, 7]))
    // A data byte, changed to another that is not zero.
    bytes[bytes.length - 3] = 200
    expect(reader.push(bytes)).toEqual([])
    expect(reader.bad).toBe(1)
    expect(reader.push(new Uint8Array(5000).fill(3))).toEqual([])
    expect(reader.push(Uint8Array.from([0]))).toEqual([])
    expect(reader.bad).toBe(2)
  })
})
