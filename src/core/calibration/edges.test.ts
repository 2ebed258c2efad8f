import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Band, travel } from '../aspects/travel'
import { alongBands } from '../signal/bands'
import { edgesOfBands, moveEdge } from './edges'

const bands: Band[] = [
  { from: 0, to: 0.2, gives: [-1, 0] },
  { from: 0.2, to: 0.3, gives: [0, 0] },
  { from: 0.5, to: 1, gives: [0, 1] },
]

describe('edges of bands', () => {
  it('are one where bands meet, and two at a gate', () => {
    expect(edgesOfBands(bands)).toEqual([
      { at: 0, ends: null, begins: 0 },
      { at: 0.2, ends: 0, begins: 1 },
      { at: 0.3, ends: 1, begins: null },
      { at: 0.5, ends: null, begins: 2 },
      { at: 1, ends: 2, begins: null },
    ])
  })

  it('move both bands that meet there, and no further than their neighbours', () => {
    expect(moveEdge(bands, 1, 0.25).map((b) => [b.from, b.to])).toEqual([
      [0, 0.25],
      [0.25, 0.3],
      [0.5, 1],
    ])
    expect(moveEdge(bands, 1, 0.9)[1]).toMatchObject({ from: 0.299, to: 0.3 })
  })

  it('give bands that their part takes, and that cover the travel, wherever they are moved', () => {
    const moves = fc.array(fc.tuple(fc.nat(4), fc.double({ min: -1, max: 2, noNaN: true })), {
      maxLength: 30,
    })
    fc.assert(
      fc.property(moves, fc.double({ min: 0, max: 1, noNaN: true }), (list, place) => {
        const moved = list.reduce((b, [i, to]) => moveEdge(b, i, to), bands)
        expect(travel.own.safeParse({ kind: 'travel', bands: moved }).success).toBe(true)
        const gives = alongBands(moved, place)
        expect(gives).toBeGreaterThanOrEqual(-1)
        expect(gives).toBeLessThanOrEqual(1)
      }),
    )
  })
})
