import { describe, expect, it } from 'vitest'
import { emptySeat } from '../../core/connections/seat'
import { type FieldGuess, FieldHunt } from '../../core/datagrams/field-hunt'
import { randomFrom } from '../craft/world'
import { motion } from './telemetry'
import { Truck } from './truck'

/** Datagrams a second. */
const HZ = 30

/**
 * A throttle that is found among the bytes of a truck that otherwise drives itself. `slow` is how slow the hand and the line
 * are: at 1 a pedal takes up to four seconds each way, the mark comes up to a second and a half after it, and each step of the
 * pedal reaches the truck up to 0.8 s late.
 */
const hunted = (seed: number, slow: number, marks: number): FieldGuess[] => {
  const random = randomFrom(seed)
  const truck = new Truck(seed)
  for (let i = 0; i < HZ * (5 + 40 * random()); i++) truck.step(1 / HZ)
  const pedal: [number, number][] = []
  const pressed: number[] = []
  let t = 2 + random()
  // A foot rests on the pedal for a while.
  pedal.push([t, 0])
  t += 6
  const go = (from: number, to: number) => {
    const takes = 0.25 + 0.3 * random() + 4 * slow * random()
    for (let i = 0; i <= 10; i++) pedal.push([t + (takes * i) / 10, from + ((to - from) * i) / 10])
    t += takes
  }
  for (let m = 0; m < marks; m++) {
    go(0, 1)
    t += 0.1 + 0.2 * random() + 1.5 * slow * random()
    pressed.push(t)
    t += 0.1 + slow * random()
    go(1, 0)
    t += 3.5
  }
  const hunt = new FieldHunt(128, 0, 'little')
  for (const at of pressed) hunt.mark(at * 1000)
  const underWay: [number, number][] = []
  let throttle: number | null = null
  for (let i = 0; i < t * HZ; i++) {
    const now = i / HZ
    while (pedal[0] && pedal[0][0] <= now) {
      const [, to] = pedal.shift() as [number, number]
      underWay.push([now + 0.03 + 0.8 * slow * random(), to])
    }
    // In their order, so that one that is late makes the next ones late.
    while (underWay[0] && underWay[0][0] <= now) throttle = (underWay.shift() as [number, number])[1]
    truck.seat = { ...emptySeat, gear: now > 1 ? 0 : null, throttle }
    truck.step(1 / HZ)
    hunt.take(new Uint8Array(motion(truck, i)), now * 1000)
  }
  return hunt.guesses(t * 1000)
}

/** Its place among the guesses; what moves exactly as it does may stand before it. */
const placeOfThrottle = (guesses: readonly FieldGuess[]): number =>
  guesses.findIndex((g) => g.at === 28 && g.as === 'f32' && g.order === 'little')

describe('a pedal among the bytes of a truck', () => {
  it.each([
    ['a quick hand', 0],
    ['a calm one', 0.4],
    ['a very slow one over a line that stutters', 1],
  ])('is found by %s, and more marks never make it worse', (_, slow) => {
    const seeds = Array.from({ length: 6 }, (_, i) => 7919 * (i + 1))
    for (const marks of [3, 7]) {
      const places = seeds.map((seed) => placeOfThrottle(hunted(seed, slow, marks)))
      const among = places.filter((p) => p === 0 || p === 1).length
      expect(`${among} of 6 among the first two after ${marks} marks: ${places}`).toMatch(/^[56] of 6/)
    }
  })
})
