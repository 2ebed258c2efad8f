import { describe, expect, it } from 'vitest'
import { control, smallRig, Workbench } from '../../../tests/rigs'
import { isIndicator } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { packLamp } from '../signal/lamp-state'
import type { ControlUnit } from './units'
import { pinWords, shownWords, standsWords } from './words'

/** What a board is told of colours: a character for the blinking, three for each lamp. */
const colours = (lamps: readonly string[], blinkTenths: number): string =>
  String.fromCharCode(
    blinkTenths,
    ...lamps.flatMap((c) => [1, 3, 5].map((i) => Number.parseInt(c.slice(i, i + 2), 16))),
  )

/** What an indicator of a kind shows in a state, in words. */
const shows = (kind: string, state: number | string, settings = {}): string => {
  const aspect = partKind(kind)?.aspects.find(isIndicator)
  if (!aspect) throw new Error(`${kind} shows nothing`)
  return shownWords(aspect, settings, state)
}

describe('what an indicator shows, in words', () => {
  it('is out, lit or blinking for a lamp', () => {
    expect(shows('lamp-8-green', packLamp(0, 0))).toBe('out')
    expect(shows('lamp-8-green', packLamp(1, 0))).toBe('lit')
    expect(shows('lamp-8-green', packLamp(1, 2))).toMatch(/blink/)
    // Before anything is known it is out, not less than that.
    expect(shows('lamp-8-green', -1)).toBe('out')
  })

  it('is an angle on the dial for a needle, from where the builder has its zero', () => {
    expect(shows('gauge-50', 1575)).toBe('0°')
    expect(shows('gauge-50', 0)).toBe('−157°')
    const settings = { aspects: { needle: { kind: 'needle', zeroDeg: -90 } } }
    expect(shows('gauge-50', 450, settings)).toBe('−45°')
  })

  it('is what stands there for digits and texts, without what is blank', () => {
    expect(shows('digits-5-max7219', 'F 29.92')).toBe('29.92')
    expect(shows('digits-5-max7219', 'F     ')).toBe('blank')
    expect(shows('text-20x4', `${' '.repeat(20)}\n  HELLO  `)).toBe('“HELLO”')
    expect(shows('text-20x4', ' \n ')).toBe('blank')
  })

  it('is a colour for one lamp, and a count for a row of them', () => {
    expect(shows('colour-lamp-8', colours(['#ff0000'], 0))).toBe('#ff0000')
    expect(shows('colour-lamp-8', colours(['#ff0000'], 20))).toBe('#ff0000 blinking')
    expect(shows('colour-lamp-8', colours(['#000000'], 20))).toBe('out')
    const row = Array.from({ length: 8 }, (_, i) => (i < 3 ? '#00ff00' : '#000000'))
    expect(shows('strip-8', colours(row, 0))).toBe('3 of 8 lit')
  })
})

describe('where a control stands, in words', () => {
  const of = (id: string, aspect?: string) => {
    const bench = new Workbench(
      smallRig({
        lever: control(),
        slide: control({ when: 'move', value: 'input', actions: [{ do: 'set', variable: 'way' }] }),
        knob: control({ when: 'turn', value: null, aspect: 'outer', actions: [] }),
      }),
    ).live()
    const unit = (): ControlUnit => {
      const all = bench.engine.units.get(id)?.controls ?? []
      const found = aspect === undefined ? all[0] : all.find((c) => c.aspect.id === aspect)
      if (!found) throw new Error(`no ${id}`)
      return found
    }
    return { bench, unit }
  }

  it('is not heard yet, then its position, then a contradiction', () => {
    const { bench, unit } = of('lever')
    expect(standsWords(unit())).toBe('not heard yet')
    expect(pinWords(unit(), ['D22', 'D24'])).toBe('')
    bench.report('lever', 1)
    expect(standsWords(unit())).toBe('up')
    expect(pinWords(unit(), ['D22', 'D24'])).toBe('D22 low')
    bench.report('lever', 0)
    expect(pinWords(unit(), ['D22', 'D24'])).toBe('all high')
    bench.report('lever', 3)
    expect(standsWords(unit())).toBe('contradiction')
    expect(pinWords(unit(), ['D22', 'D24'])).toBe('D22 D24 low')
  })

  it('is low or high where there is one pin', () => {
    const { bench, unit } = of('lever')
    bench.report('lever', 1)
    expect(pinWords(unit(), ['D22'])).toBe('low')
  })

  it('is how far a slide is pushed, and what its pin measures', () => {
    const { bench, unit } = of('slide')
    expect(standsWords(unit())).toBe('not heard yet')
    bench.report('slide', 512)
    expect(Number(standsWords(unit()).replace('%', ''))).toBeCloseTo(0.5, 1)
    expect(pinWords(unit(), ['A1'])).toBe('512 of 1023')
  })

  it('is the clicks of a knob, and the changes that its pins counted', () => {
    const { bench, unit } = of('knob', 'outer')
    expect(standsWords(unit())).toBe('not heard yet')
    bench.report('knob', 0, 'outer')
    bench.report('knob', 8, 'outer')
    expect(standsWords(unit())).toMatch(/^\d+ clicks$/)
    expect(pinWords(unit(), ['D2', 'D3'])).toBe('8 changes')
  })
})
