import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { goldenFrames } from './golden-frames'
import { slotHash } from './state-digest'

interface Golden {
  readonly to: string
  readonly message: { readonly say: string }
  readonly bytes: string
}
const file = JSON.parse(
  readFileSync(new URL('../../docs/board-link-frames.json', import.meta.url), 'utf8'),
) as Golden[]
const bytesOf = (g: Golden): number[] => g.bytes.split(' ').map((b) => Number.parseInt(b, 16))

/** Unstuffs and checks a frame by the words of the document alone, bit by bit. */
const readByTheBook = (bytes: readonly number[]): number[] => {
  const body: number[] = []
  let at = 0
  while (bytes[at] !== 0) {
    const code = bytes[at++] as number
    for (let i = 1; i < code; i++) body.push(bytes[at++] as number)
    if (code < 255 && bytes[at] !== 0) body.push(0)
  }
  let crc = 0xffff
  for (const byte of body.slice(0, -2))
    for (let bit = 7; bit >= 0; bit--) {
      const top = (crc >> 15) ^ ((byte >> bit) & 1)
      crc = ((crc << 1) & 0xffff) ^ (top ? 0x1021 : 0)
    }
  expect(body.at(-2)).toBe(crc & 255)
  expect(body.at(-1)).toBe(crc >> 8)
  return body.slice(0, -2)
}

describe('the frames in the documents', () => {
  it('are what is spoken', () => {
    expect(file).toEqual(goldenFrames())
  })
  it('are read by the words of the document alone', () => {
    const of = (say: string) => readByTheBook(bytesOf(file.find((g) => g.message.say === say) as Golden))
    expect(of('start')).toEqual([2, 0x02, 1])
    expect(of('outputs')).toEqual([2, 0x03, 2, 1, 0, 255, 0, 0x2c, 1, 0x80, 0x0c])
    expect(of('load begin').slice(3)).toEqual([7, 0, 0x01, 0x23, 0x45, 0x67, 0x89, 0xab, 0xcd, 0xef])
    expect(of('again').slice(1)).toEqual([0x0a, 9, 255, 255])
    expect(of('probed').slice(3)).toEqual([
      ...[0x80, 0x84, 0x1e, 0, 0xff, 0xff, 0, 3, 1, 63, 3, 0, 0xfa, 1, 0xc8, 1, 0xff, 7],
    ])
    const heartbeat = readByTheBook(bytesOf(file.filter((g) => g.to === 'computer')[5] as Golden))
    expect(heartbeat.slice(3)).toEqual([255, 255, 255, 255, 3, 0, 1, 2, 200, 1, 0, 0, 0, 4, 3, 2, 1])
  })
  it('hold every kind of message', () => {
    expect(new Set(file.map((g) => `${g.to} ${g.message.say}`)).size).toBe(11 + 7)
  })
})

describe('the hash of a state', () => {
  it('is FNV-1a over slot, row and state, worked out by hand', () => {
    const byHand = (bytes: readonly number[]) =>
      Number(bytes.reduce((h, b) => ((h ^ BigInt(b)) * 16777619n) & 0xffffffffn, 2166136261n))
    expect(slotHash(300, 0, 0x0c80)).toBe(byHand([0x2c, 1, 0, 0x80, 0x0c]))
    expect(slotHash(4, 2, 'AB')).toBe(byHand([4, 0, 2, 65, 66]))
  })
})
