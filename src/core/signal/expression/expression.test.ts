import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue, craft, V } from '../../../../tests/rigs'
import { evaluate } from '../../engine/evaluate'
import { scopeFor } from '../../engine/scope'
import { Variables } from '../../engine/variables'
import { addRow, apply } from '../../rig/edit'
import { emptyRig } from '../../rig/rig'
import { lampWords } from '../lamp-state'
import { compile, mistakeIn, type Wanted } from './compile'
import { ExpressionError } from './expression-error'
import { functionForms } from './function-forms'
import { functions } from './functions'
import { writtenName } from './names'
import { boolean, plainNumber, text, type ValueType } from './value-type'

const variables = () => {
  const v = new Variables()
  v.describe([craft(catalogue)])
  return v
}

const rig = apply(emptyRig(), [
  addRow('curve', {
    id: 'c',
    name: 'dimming',
    points: [
      { from: 0, to: 0 },
      { from: 100, to: 1 },
    ],
  }),
])

const run = (
  source: string,
  set: Partial<Record<keyof typeof V, number | string | null>> = {},
  wanted: Wanted = { as: 'any' },
  input: { type: ValueType; value: number | string } | null = null,
) => {
  const v = variables()
  for (const [name, value] of Object.entries(set)) v.write(V[name as keyof typeof V], value)
  const scope = scopeFor(rig, v.index, input?.type)
  const result = evaluate(compile(source, scope, v, wanted, true), input?.value ?? null)
  // Where no code may be made, every result is the same.
  expect(evaluate(compile(source, scope, v, wanted, false), input?.value ?? null)).toBe(result)
  return result
}

const mistake = (source: string, wanted: Wanted = { as: 'any' }, input?: ValueType) =>
  mistakeIn(source, scopeFor(rig, variables().index, input), wanted)

describe('an expression', () => {
  it.each([
    ['1 + 2 * 3', 7],
    ['(1 + 2) * 3', 9],
    ['7 % 4', 3],
    ['2 > 1 && !(3 < 2)', 1],
    ['2 > 1 ? 10 : 20', 10],
    ['min(3, 1, 2) + max(3, 1, 2)', 4],
    ['clamp(15, 0, 10)', 10],
    ['round(17, 5)', 15],
    ['wrap(370, 0, 360)', 10],
    ['wrap(-10, 0, 360)', 350],
    ['abs(-4) + sign(-9)', 3],
    ['match("b", "a", 1, "b", 2, 3)', 2],
    ['match("z", "a", 1, 3)', 3],
    ['curve("dimming", 25)', 0.25],
    ['number(3 > 2)', 1],
  ])('%s gives %s', (source, value) => {
    expect(run(source)).toBe(value)
  })

  it('agrees with JavaScript on plain arithmetic', () => {
    const leaf = fc.integer({ min: -99, max: 99 }).map((n) => (n < 0 ? `(${n})` : `${n}`))
    const { tree } = fc.letrec<{ tree: string }>((tie) => ({
      tree: fc.oneof(
        { depthSize: 'small' },
        leaf,
        fc
          .tuple(tie('tree'), fc.constantFrom('+', '-', '*'), tie('tree'))
          .map(([a, op, b]) => `(${a} ${op} ${b})`),
        fc.tuple(tie('tree'), tie('tree'), tie('tree')).map(([a, b, c]) => `(${a} > ${b} ? ${b} : ${c})`),
      ),
    }))
    fc.assert(
      fc.property(tree, (source) => {
        const reference = new Function(`return ${source}`)() as number
        expect(run(source)).toBe(Number.isFinite(reference) ? reference : null)
      }),
    )
  })

  it('reads variables by their dotted names', () => {
    expect(run('bus.volts * 2', { volts: 14 })).toBe(28)
    expect(run('advice == "wheels up"', { advice: 'wheels up' })).toBe(1)
  })

  describe('with units', () => {
    it('takes a bare number in the unit of what it meets', () => {
      expect(run('height + 10', { height: 100 })).toBe(110)
      expect(run('height > 50', { height: 100 })).toBe(1)
    })
    it('converts what measures the same', () => {
      expect(run('height + way', { height: 0, way: 304.8 })).toBeCloseTo(1000)
      expect(run('to(height, "m")', { height: 1000 })).toBeCloseTo(304.8)
      expect(run('height > unit(300, "m")', { height: 1000 })).toBe(1)
      expect(run('to(unit(20, "°C"), "°F")')).toBeCloseTo(68)
    })
    it('converts to what it is used for', () => {
      const feet: Wanted = {
        as: 'type',
        type: {
          is: 'number',
          unit: { symbol: 'ft', name: 'foot', dimension: 'length', factor: 0.3048, offset: 0 },
        },
      }
      expect(run('way', { way: 304.8 }, feet)).toBeCloseTo(1000)
    })
    it('refuses to mix what does not measure the same, and points at the place', () => {
      const found = mistake('height + speed')
      expect(found?.message).toBe('kt (speed) and ft (length) do not measure the same.')
      expect(found?.span).toEqual({ start: 9, end: 14 })
    })
    it('divides like by like to a plain number, and refuses to multiply units', () => {
      expect(run('height / height', { height: 5 })).toBe(1)
      expect(mistake('height * speed')?.message).toContain('bare')
      expect(run('bare(height) * bare(speed)', { height: 2, speed: 3 })).toBe(6)
    })
    it('converts the cases of a match to one unit', () => {
      expect(run('match(1, 1, way, 2, height)', { way: 10, height: 1 })).toBe(10)
      expect(run('match(2, 1, way, 2, height)', { way: 10, height: 100 })).toBeCloseTo(30.48)
    })
  })

  describe('for a lamp', () => {
    const words = (source: string, value: number) =>
      lampWords(run(source, {}, { as: 'lamp' }, { type: plainNumber, value }) as number)
    it('takes yes and no, brightness and blinking', () => {
      const show = 'input >= 1 ? on : input > 0 ? blink(2) : off'
      expect([0, 0.5, 1].map((x) => words(show, x))).toEqual(['out', 'blink 2 Hz', 'lit'])
      expect(words('input', 0.5)).toBe('lit 50 %')
      expect(words('match(input, 1, on, 2, blink(4, 0.5), off)', 2)).toBe('blink 3.8 Hz 50 %')
      expect(words('match(input, 1, on, 2, blink(4), off)', 1)).toBe('lit')
    })
    it('refuses a number with a unit', () => {
      expect(mistake('height', { as: 'lamp' })?.message).toContain('Compare it with a limit')
    })
  })

  describe('with something absent', () => {
    it('has no value: absent is never zero', () => {
      expect(run('height + 1')).toBeNull()
      expect(run('height > 5')).toBeNull()
      expect(run('height > 5 ? 1 : 2')).toBeNull()
    })
    it('can say what to use then', () => {
      expect(run('otherwise(height, 7)')).toBe(7)
      expect(run('otherwise(height, 7)', { height: 3 })).toBe(3)
      expect(run('known(height)')).toBe(0)
      expect(run('known(advice)', { advice: 'x' })).toBe(1)
    })
    it('has no value when it divides by zero', () => {
      expect(run('1 / 0')).toBeNull()
      expect(run('0 / 0')).toBeNull()
    })
  })

  describe('with a mistake', () => {
    it.each([
      ['', 'empty'],
      ['1 +', 'Expected expression'],
      ['(1', 'Unclosed'],
      ['gear.positon', 'Did you mean “gear.position”?'],
      ['height 5', 'Something is missing between'],
      ['frobnicate(1)', 'no function “frobnicate”'],
      ['height = 5', 'Unexpected'],
      ['height && 1', 'yes or no is needed'],
      ['"a" + 1', 'A number is needed'],
      ['advice == 5', 'do not go together'],
      ['to(height, "furlong")', 'no unit “furlong”'],
      ['curve("none", 1)', 'no curve'],
      ['input + 1', '“input” has no meaning here'],
      ['clamp(1)', 'clamp(value, least, most)'],
      ['[1, 2]', 'Only values, operators'],
    ])('%j is told: %s', (source, words) => {
      const found = mistake(source)
      expect(found?.message).toContain(words)
      expect(found?.span.start).toBeLessThanOrEqual(Math.max(0, source.length))
    })

    it.each([
      'this',
      'constructor.constructor("return 1")()',
      'height["x"]',
      'globalThis',
      'a => a',
      '`x`',
      'height.constructor',
      '__proto__',
      'toString()',
    ])('reaches nothing else: %s', (source) => {
      expect(mistake(source)).not.toBeNull()
    })

    it('never crashes, whatever is typed', () => {
      fc.assert(
        fc.property(fc.string({ maxLength: 40 }), (source) => {
          const found = mistake(source, { as: 'any' }, boolean)
          if (found) expect(found.message.length).toBeGreaterThan(5)
        }),
        { numRuns: 2000 },
      )
    })
  })

  it('says of which kind a value is needed', () => {
    expect(mistake('input == "up"', { as: 'type', type: plainNumber }, text)?.message).toBe(
      'This gives a yes or no; a number is needed.',
    )
    expect(run('1', {}, { as: 'type', type: boolean })).toBe(1)
  })
})

describe('text', () => {
  const words = (source: string, values: Parameters<typeof run>[1] = {}) => run(source, values)
  it.each([
    ['join("HDG ", zeros(7, 3))', 'HDG 007'],
    ['join("A", 1.5, " ", 2 > 1)', 'A1.50 on'],
    ['fixed(121.5, 3)', '121.500'],
    ['fixed(-0.001, 1)', '0.0'],
    ['fixed(7, 0, 4)', '   7'],
    ['zeros(-7, 3)', '-007'],
    ['pad("AB", 4)', 'AB  '],
    ['pad("AB", -4)', '  AB'],
  ])('%s is “%s”', (source, text) => {
    expect(words(source)).toBe(text)
  })
  it('is dashes where something is absent, and goes on', () => {
    expect(words('join(fixed(height, 0), " ft ", advice)', { height: null, advice: null })).toBe('-- ft --')
    expect(words('zeros(height, 5)', { height: null })).toBe('-----')
  })
  it('takes only whole numbers where a width is meant, and points at the one that is not', () => {
    expect(() => words('fixed(1, 2.5)')).toThrow('A whole number from 0 to 9 is needed here.')
    expect(() => words('pad("A", 99)')).toThrow('A whole number from -40 to 40 is needed here.')
  })
})

describe('every function', () => {
  it('is listed with how it is written, for those who look for one', () => {
    expect(Object.keys(functionForms).sort()).toEqual(Object.keys(functions).sort())
    for (const [name, { form }] of Object.entries(functionForms))
      expect(form.startsWith(`${name}(`)).toBe(true)
  })
})

/** The value with a height of 1000, and no way. */
const at = (source: string) => run(source, { height: 1000 })

describe('what one expression may cost', () => {
  const nested = (depth: number) => `${'otherwise('.repeat(depth)}height${', 0)'.repeat(depth)}`
  it('is no more than its text: code does not double at each level', () => {
    const begin = performance.now()
    expect(at(nested(40))).toBe(1000)
    expect(performance.now() - begin).toBeLessThan(1000)
  })
  it.each([nested(140), `${'-'.repeat(1990)}1`, `1${'+1'.repeat(700)}`])(
    'is bounded, and told where it is written',
    (text) => {
      expect(() => at(text)).toThrow(ExpressionError)
    },
  )
  it('is refused where it would throw while it runs', () => {
    for (const text of ['fixed(1, -1)', 'zeros(1, -3)', 'fixed(1, 2, -4)', 'fixed(1, 12)'])
      expect(() => at(text)).toThrow('A whole number from')
  })
})

describe('a comparison of something absent', () => {
  it.each([
    ['otherwise(way > 3, on)', 1],
    ['otherwise(way == 3, on)', 1],
    ['otherwise(!(way > 3), on)', 1],
    ['otherwise(way > 3 && height > 1, on)', 1],
    ['known(way > 3)', 0],
    ['known(way > 3 ? 1 : 2)', 0],
    ['known(match(way, 1, 5, 6))', 0],
    ['known(height > 3)', 1],
  ])('%s is %d', (text, expected) => {
    expect(at(text)).toBe(expected)
  })
})

describe('a name that is no word', () => {
  it('is written as variable("…")', () => {
    expect(writtenName('gear.left')).toBe('gear.left')
    expect(writtenName('GEAR:LEFT 1')).toBe('variable("GEAR:LEFT 1")')
    expect(writtenName('on')).toBe('variable("on")')
    expect(at('variable("height") + 1')).toBe(1001)
    expect(() => at('variable("nothing here")')).toThrow('There is no variable')
  })
})
