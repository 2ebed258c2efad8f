import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { expressionOf, type ShapingStep, shapingOf } from './shaping'

const number = fc.integer({ min: -5000, max: 5000 }).map((n) => n / 8)
const result = fc.constantFrom('0', '12.5', 'on', 'off', '"UP"', 'blink(2)', 'elec.bus.volts', '-3')
const text = fc.constantFrom('', 'HDG ', ' kt', 'a, b', '"x"')
const step: fc.Arbitrary<ShapingStep> = fc.oneof(
  fc.constantFrom<ShapingStep>({ step: 'unit', unit: 'kt' }, { step: 'curve', name: 'flap scale' }),
  fc.record({ step: fc.constant('scale' as const), by: number }),
  fc.record({ step: fc.constant('offset' as const), by: number }),
  fc.record({ step: fc.constant('round' as const), to: fc.constantFrom(1, 5, 0.025) }),
  fc.record({ step: fc.constant('clamp' as const), least: number, most: number }),
  fc.record({
    step: fc.constant('compare' as const),
    with: fc.constantFrom('<' as const, '>=' as const, '==' as const),
    limit: result,
  }),
  fc.record({
    step: fc.constant('ranges' as const),
    below: fc
      .uniqueArray(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 4 })
      .chain((limits) =>
        fc.tuple(
          ...limits
            .sort((a, b) => a - b)
            .map((limit) => fc.record({ limit: fc.constant(limit), gives: result })),
        ),
      ),
    otherwise: result,
  }),
  fc.record({
    step: fc.constant('cases' as const),
    cases: fc.array(fc.record({ is: result, gives: result }), { minLength: 1, maxLength: 4 }),
    otherwise: fc.option(result),
  }),
  fc.record({
    step: fc.constant('fixed' as const),
    decimals: fc.integer({ min: 0, max: 5 }),
    width: fc.option(fc.integer({ min: 1, max: 20 })),
  }),
  fc.record({ step: fc.constant('join' as const), before: text, after: text }),
)
const minusZeroAside = (s: ShapingStep): ShapingStep =>
  JSON.parse(JSON.stringify(s, (_, v) => (Object.is(v, -0) ? 0 : v)))

describe('shaping by simple steps', () => {
  it('comes back out of its expression as it was set', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 5 }), (list) => {
        const shaping = { base: 'input', steps: list.map(minusZeroAside) }
        const source = expressionOf(shaping)
        // A result inside another choice can be read as either; the expression it makes is what counts.
        const back = shapingOf(source)
        expect(back === null ? null : expressionOf(back)).toBe(source)
      }),
    )
  })
  it.each([
    ['input', []],
    [
      'input * 2 + 3',
      [
        { step: 'scale', by: 2 },
        { step: 'offset', by: 3 },
      ],
    ],
    [
      '(input + 3) * 2',
      [
        { step: 'offset', by: 3 },
        { step: 'scale', by: 2 },
      ],
    ],
    [
      'round(to(input, "ft"), 100)',
      [
        { step: 'unit', unit: 'ft' },
        { step: 'round', to: 100 },
      ],
    ],
    ['input > 20', [{ step: 'compare', with: '>', limit: '20' }]],
    [
      'match(input, "up", 0, "down", 2)',
      [
        {
          step: 'cases',
          cases: [
            { is: '"up"', gives: '0' },
            { is: '"down"', gives: '2' },
          ],
          otherwise: null,
        },
      ],
    ],
    [
      'input < 1 ? off : input < 5 ? blink(2) : on',
      [
        {
          step: 'ranges',
          below: [
            { limit: 1, gives: 'off' },
            { limit: 5, gives: 'blink(2)' },
          ],
          otherwise: 'on',
        },
      ],
    ],
    [
      'elec.on ? input * 2 : 0',
      [
        { step: 'scale', by: 2 },
        { step: 'choose', when: 'elec.on', otherwise: '0' },
      ],
    ],
    [
      'join("HDG ", fixed(input, 0, 3), "")',
      [
        { step: 'fixed', decimals: 0, width: 3 },
        { step: 'join', before: 'HDG ', after: '' },
      ],
    ],
  ])('reads %s', (source, steps) => {
    expect(shapingOf(source)).toEqual({ base: 'input', steps })
  })
  it.each(['input * other', 'min(input, 3)', '3 - input', 'input ** 2', '!input', 'input &&'])(
    'leaves %s to those who like to write',
    (source) => {
      expect(shapingOf(source)).toBeNull()
    },
  )
  it('may begin with a variable instead', () => {
    expect(shapingOf('fixed(radio.1.active, 3)')).toBeNull()
    expect(shapingOf('fixed(beacon.frequency, 0)')).toEqual({
      base: 'beacon.frequency',
      steps: [{ step: 'fixed', decimals: 0, width: null }],
    })
  })
})
