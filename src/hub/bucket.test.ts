import { expect, it } from 'vitest'
import { Bucket } from './bucket'

it('lets so much through at once, and so much a second after that', () => {
  const bucket = new Bucket(10, 5)
  const taken = (at: number, times: number) =>
    Array.from({ length: times }, () => bucket.take(at)).filter(Boolean).length
  expect(taken(1000, 20)).toBe(10)
  expect(taken(1100, 5)).toBe(0)
  expect(taken(1300, 5)).toBe(1)
  expect(taken(2300, 20)).toBe(5)
  expect(taken(60_000, 50)).toBe(10)
})
