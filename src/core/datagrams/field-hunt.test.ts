import { describe, expect, it } from 'vitest'
import { FieldHunt } from './field-hunt'
import type { ByteOrder } from './layout'

/** A repeatable noise. */
const noiseFrom = (seed: number) => {
  let a = seed
  return () => {
    a = (Math.imul(a, 1_103_515_245) + 12_345) >>> 0
    return a / 4_294_967_296
  }
}

/** A pedal that is pressed and let go at each of these times, in seconds: 0 to 1 in 0.4 s, held for a while. */
const pedal = (t: number, presses: readonly number[]): number => {
  for (const p of presses) {
    if (t < p || t > p + 1.6) continue
    return t < p + 0.4 ? (t - p) / 0.4 : t < p + 1.2 ? 1 : (p + 1.6 - t) / 0.4
  }
  return 0
}

const PRESSES = [3, 8, 13]

/** Half a minute of a packet: `write` puts the hand’s value among a clock, a restless speed and what never moves. */
const scene = (
  bytes: number,
  order: ByteOrder,
  write: (v: DataView, hand: number, t: number) => void,
  before = 0,
  /** Hands mark a little late. */
  late = 250,
) => {
  const hunt = new FieldHunt(bytes, -before * 1000, order)
  const noise = noiseFrom(bytes)
  const little = order === 'little'
  for (let i = -60 * before; i < 60 * 18; i++) {
    const t = i / 60
    const b = new Uint8Array(bytes)
    const v = new DataView(b.buffer)
    v.setUint32(0, i + 60 * before, little)
    v.setFloat32(4, 30 + 4 * Math.sin(t) + noise(), little)
    v.setFloat32(8, 9000, little)
    write(v, pedal(t, PRESSES), t)
    hunt.take(b, t * 1000)
  }
  for (const p of PRESSES) hunt.mark(p * 1000 + late)
  return hunt.guesses(18_000)
}

describe('what a hand has moved is found among bytes, and how it is to be read', () => {
  const cases: readonly [string, ByteOrder, (v: DataView, hand: number) => void, object][] = [
    [
      'a float',
      'little',
      (v, x) => v.setFloat32(16, x, true),
      { at: 16, as: 'f32', order: 'little', least: 0, most: 1 },
    ],
    [
      'a float, the other way round',
      'big',
      (v, x) => v.setFloat32(16, x, false),
      { at: 16, as: 'f32', order: 'big' },
    ],
    [
      'a float where no float should begin',
      'little',
      (v, x) => v.setFloat32(17, 20 + 70 * x, true),
      { at: 17, as: 'f32' },
    ],
    ['a double', 'little', (v, x) => v.setFloat64(16, -1 + 2 * x, true), { at: 16, as: 'f64', least: -1 }],
    [
      'a byte',
      'little',
      (v, x) => v.setUint8(19, Math.round(255 * x)),
      { at: 19, as: 'u8', least: 0, most: 255 },
    ],
    [
      'a word',
      'little',
      (v, x) => v.setUint16(18, Math.round(65_535 * x), true),
      { at: 18, as: 'u16', most: 65_535 },
    ],
    [
      'a word of an odd place',
      'big',
      (v, x) => v.setUint16(17, Math.round(4000 * x), false),
      { at: 17, as: 'u16', most: 4000 },
    ],
    [
      'a word with a sign',
      'little',
      (v, x) => v.setInt16(18, Math.round(2000 * x - 1000), true),
      { at: 18, as: 'i16', least: -1000, most: 1000 },
    ],
    [
      'a long whole number',
      'little',
      (v, x) => v.setInt32(16, Math.round(90_000 * x), true),
      { at: 16, order: 'little', least: 0, most: 90_000 },
    ],
    [
      'a flag by itself',
      'little',
      (v, x) => v.setUint8(21, x > 0.5 ? 8 : 0),
      { at: 21, as: 'u8', bits: { from: 3, width: 1 } },
    ],
  ]
  it.each(cases)('%s', (_, order, write, expected) => {
    expect(scene(24, order, write)[0]).toMatchObject({ ...expected, hits: 3, marks: 3, otherwise: 0 })
  })

  it('a flag among others that flicker', () => {
    const noise = noiseFrom(7)
    const guesses = scene(24, 'little', (v, x) =>
      v.setUint8(21, (x > 0.5 ? 4 : 0) | (noise() > 0.7 ? 1 : 0) | (noise() > 0.9 ? 64 : 0)),
    )
    expect(guesses[0]).toMatchObject({ at: 21, as: 'u8', bits: { from: 2, width: 1 } })
  })

  it('what follows the hand stands behind what leads it', () => {
    let follows = 0
    const guesses = scene(32, 'little', (v, x, t) => {
      follows += (pedal(t - 0.9, PRESSES) - follows) * 0.05
      v.setFloat32(20, x, true)
      v.setFloat32(28, 1000 + 7000 * (follows < 1e-4 ? 0 : follows), true)
    })
    expect(guesses[0]).toMatchObject({ at: 20, as: 'f32' })
    expect(guesses.some((g) => g.at === 28 && g.as === 'f32')).toBe(true)
  })

  it('what moved by itself before it was let rest is not held against it', () => {
    const noise = noiseFrom(3)
    const guesses = scene(24, 'little', (v, x, t) => v.setFloat32(16, t < -3 ? noise() : x, true), 9)
    expect(guesses[0]).toMatchObject({ at: 16, as: 'f32', most: 1 })
  })

  it('who comes back to it after minutes finds it, too', () => {
    const guesses = scene(24, 'little', (v, x) => v.setFloat32(16, x, true), 420)
    expect(guesses[0]).toMatchObject({ at: 16, as: 'f32', least: 0, most: 1, hits: 3, marks: 3 })
  })

  it('who marks only when the pedal is up again finds it, too', () => {
    const guesses = scene(24, 'little', (v, x) => v.setFloat32(16, x, true), 0, 1800)
    expect(guesses[0]).toMatchObject({ at: 16, as: 'f32', hits: 3 })
  })

  it('nothing is guessed before a mark, nor where nothing moves with the hand', () => {
    expect(new FieldHunt(8, 0, 'little').guesses(1000)).toEqual([])
    expect(scene(24, 'little', () => {})).toEqual([])
  })
})
