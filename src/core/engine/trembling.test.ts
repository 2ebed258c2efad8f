import { describe, expect, it } from 'vitest'
import { control, smallRig, Workbench } from '../../../tests/rigs'
import { randomFrom } from '../../standins/craft/world'
import { Trembling } from './trembling'
import type { ControlUnit } from './units'

const bench = new Workbench(
  smallRig({ slide: control({ when: 'move', value: 'input' }), lever: control(), ladder: control() }),
).live()
const of = (part: string) => bench.engine.units.get(part)?.controls[0] as ControlUnit

/** How often a hand was seen in what a control told, one after the other. */
const seen = (trembling: Trembling, part: string, told: readonly number[]): number =>
  told.slice(1).filter((to, i) => trembling.isOperated(of(part), told[i] as number, to)).length

describe('a lever', () => {
  const random = randomFrom(11)
  const rest = (at: number, noise: number, n: number) =>
    Array.from({ length: n }, () => Math.round(at + (random() - 0.5) * 2 * noise))

  it('that only trembles is operated by nobody, once it is known where it stands', () => {
    const trembling = new Trembling()
    seen(trembling, 'slide', rest(400, 22, 200))
    expect(seen(trembling, 'slide', rest(400, 22, 20_000))).toBe(0)
  })
  it('is operated when it is moved, trembling or not, to wherever it goes', () => {
    for (const noise of [0, 22])
      for (const to of [300, 500, 1000, 0]) {
        const trembling = new Trembling()
        seen(trembling, 'slide', rest(400, noise, 200))
        const way = Array.from({ length: 20 }, (_, i) => 400 + ((to - 400) * i) / 19)
        expect(seen(trembling, 'slide', way), `to ${to}`).toBeGreaterThan(2)
        seen(trembling, 'slide', rest(to, noise, 200))
        expect(seen(trembling, 'slide', rest(to, noise, 2000)), `at ${to}`).toBe(0)
      }
  })
  it('creeps as slowly as a hand may, and is seen all the same', () => {
    const trembling = new Trembling()
    expect(
      seen(
        trembling,
        'slide',
        Array.from({ length: 400 }, (_, i) => 300 + i),
      ),
    ).toBeGreaterThan(300)
  })
})

describe('a switch', () => {
  it('is operated by every change of its contacts', () => {
    expect(seen(new Trembling(), 'lever', [0b01, 0b00, 0b10, 0b10, 0b00, 0b01])).toBe(4)
  })
  it('that is a ladder goes from one position to the next, and trembles at each', () => {
    const trembling = new Trembling()
    expect(seen(trembling, 'ladder', [100, 104, 97, 103, 98, 104, 96])).toBe(0)
    expect(seen(trembling, 'ladder', [96, 260])).toBe(1)
    seen(trembling, 'ladder', [260, 264, 257, 263])
    expect(seen(trembling, 'ladder', [263, 264, 257, 263, 258])).toBe(0)
  })
  it('is operated by nobody when it tells where it stands after nobody knew, and is known from then on', () => {
    const trembling = new Trembling()
    expect(trembling.isOperated(of('lever'), null, 0b10)).toBe(false)
    expect(trembling.isOperated(of('slide'), null, 800)).toBe(false)
    expect(trembling.isOperated(of('slide'), 800, 815)).toBe(false)
    // Learnt otherwise meanwhile: where it stood counts.
    expect(trembling.isOperated(of('slide'), 100, 110)).toBe(false)
    expect(trembling.isOperated(of('lever'), 0b01, 0b10)).toBe(true)
  })
})
