import { deflateRawSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Block, decodeBlock, encodeBlock } from './block'

const standing = { armed: true, up: [0], quiet: [], boards: ['b'], controls: [] }

/** A block of frames that each have some variables. */
const blockOf = (
  frames: readonly { readonly at: number; readonly values: ReadonlyMap<number, number> }[],
  first: readonly number[],
): Block => {
  const start = [0]
  const variables: number[] = []
  const values: number[] = []
  for (const f of frames) {
    for (const [v, value] of [...f.values].sort(([a], [b]) => a - b)) {
      variables.push(v)
      values.push(value)
    }
    start.push(variables.length)
  }
  return {
    from: frames[0]?.at ?? 0,
    until: (frames.at(-1)?.at ?? 0) + 1,
    standing,
    first: Float64Array.from(first),
    texts: ['on', 'off'],
    moments: [{ at: 0, frame: 0, is: 'mark', words: 'here', by: 'builder' }],
    frames: {
      at: Float64Array.from(frames, (f) => f.at),
      told: Float64Array.from(frames, (f) => f.at / 1e6),
      source: Uint8Array.from(frames, () => 0),
      start: Uint32Array.from(start),
      variables: Uint32Array.from(variables),
      values: Float64Array.from(values),
    },
  }
}

const SIZE = 6
/** What simulators tell: decimals, whole numbers, 32-bit floats, anything, nothing. */
const value = fc.oneof(
  fc.integer({ min: -1_000_000, max: 1_000_000 }).map((n) => n / 1000),
  fc.integer(),
  fc.float(),
  fc.double(),
  fc.constantFrom(Number.NaN, -0, 0, 1e300, -5e-324, 2 ** 53),
)
const block = fc
  .record({
    first: fc.array(value, { minLength: SIZE, maxLength: SIZE }),
    frames: fc.array(fc.dictionary(fc.integer({ min: 0, max: SIZE - 1 }).map(String), value), {
      maxLength: 40,
    }),
  })
  .map(({ first, frames }) =>
    blockOf(
      frames.map((f, i) => ({
        at: i * 33_333,
        values: new Map(Object.entries(f).map(([v, x]) => [Number(v), x])),
      })),
      first,
    ),
  )

describe('a block', () => {
  it('is read as it was written, to the last bit', () => {
    fc.assert(
      fc.property(block, (b) => {
        expect(decodeBlock(encodeBlock(b))).toEqual(b)
      }),
    )
  })

  it('that was cut off, or is none, is refused with a reason', () => {
    const bytes = encodeBlock(blockOf([{ at: 0, values: new Map([[1, 2.5]]) }], [1, 2, 3]))
    for (let length = 0; length < bytes.length; length++)
      expect(() => decodeBlock(bytes.subarray(0, length)), `${length} bytes`).toThrow()
  })

  const noisy = Array.from({ length: 300 }, (_, i) => ({
    at: i * 33_333,
    values: new Map([
      [0, Math.round(Math.sin(i) * 1000) / 1000],
      [1, i % 2],
      [2, Math.floor(i / 100)],
    ]),
  }))
  // What stands still is told in no frame.
  for (const [i, f] of noisy.entries()) if (i > 0 && i % 100 !== 0) f.values.delete(2)
  const thinning = { isExact: (v: number) => v === 1, span: 200_000, mostHz: 5 }
  const changesOf = (b: Block, v: number) =>
    [...b.frames.variables.keys()].flatMap((i) =>
      b.frames.variables[i] === v
        ? [[b.frames.at[b.frames.start.findLastIndex((s) => s <= i)], b.frames.values[i]] as const]
        : [],
    )

  it('keeps of what always moves the last value of each span, and all of what is shown or seldom changes', () => {
    const whole = blockOf(noisy, [0, 0, 0])
    const thin = decodeBlock(encodeBlock(whole, thinning))
    expect(changesOf(thin, 1)).toEqual(changesOf(whole, 1))
    expect(changesOf(thin, 2)).toEqual(changesOf(whole, 2))
    const kept = changesOf(thin, 0)
    expect(kept.length).toBe(50)
    // Each is one that was told, when it was told, and the last one of all is in.
    expect(changesOf(whole, 0)).toEqual(expect.arrayContaining(kept))
    expect(kept.at(-1)).toEqual(changesOf(whole, 0).at(-1))
  })

  it('takes fewer bytes than what simulators tell has: decimals are steps between whole numbers', () => {
    let [n, seed] = [100, 7]
    const random = () => {
      seed = (Math.imul(seed, 48_271) >>> 0) % 0x7fffffff
      return seed / 0x7fffffff
    }
    const walk = Array.from({ length: 3000 }, (_, i) => {
      n = Math.round((n + random() - 0.5) * 1000) / 1000
      return { at: i * 33_333, values: new Map([[0, n]]) }
    })
    const bytes = deflateRawSync(encodeBlock(blockOf(walk, [100])))
    // Ten bits are told anew with each value.
    expect(bytes.length / walk.length).toBeLessThan(2)
    expect(bytes.length / walk.length).toBeGreaterThan(10 / 8)
  })
})
