import { describe, expect, it } from 'vitest'
import { control, digits, doneBy, lamp, outputsOf, smallRig, Workbench } from '../../../tests/rigs'
import type { ColourSettings, DigitsSettings, NeedleBindingSettings, TextSettings } from '../rig/binding'
import { readColours } from '../signal/colours'
import { EXERCISE_MS } from './indicators'
import { trace } from './trace'

const page = (lines: TextSettings['lines'], more: Partial<TextSettings> = {}): TextSettings => ({
  kind: 'text',
  variable: null,
  lines,
  onlyWhile: null,
  rest: 'out',
  ...more,
})
const needle: NeedleBindingSettings = {
  kind: 'needle',
  variable: 'speed',
  show: 'input',
  onlyWhile: null,
  rest: 'out',
}
const dial = {
  gauge: {
    aspects: {
      needle: {
        kind: 'needle' as const,
        points: [
          { value: 0, deg: -100 },
          { value: 100, deg: 100 },
        ],
        mostDeg: 90,
        homeDeg: -110,
      },
    },
  },
}
const colours = (more: Partial<ColourSettings> = {}): ColourSettings => ({
  kind: 'colour',
  variable: 'speed',
  show: 'input',
  stops: [
    { at: 0, colour: '#00ff00' },
    { at: 100, colour: '#ff0000' },
  ],
  blend: false,
  fill: 'start',
  onlyWhile: null,
  rest: 'out',
  ...more,
})
/** The dial's angle in tenths from the motor's zero, which stands 157.5 degrees left of straight up. */
const tenths = (deg: number) => Math.round((deg + 157.5) * 10)
const stop = (bench: Workbench, part: string) => trace(bench.engine, part)[0]?.stop

describe('a digit window', () => {
  const window = (settings: DigitsSettings) => new Workbench(smallRig({ window: settings })).live()
  it('shows its variable, converted by name, rounded and brightened', () => {
    const bench = window(
      digits({ show: 'to(input, "m")', decimals: 1, brightness: 'number(pump.switch) / 2' }),
    )
    bench.frame({ height: 100, pump: 1 })
    expect(bench.shown('window')).toBe('8  30.5')
  })
  it('is sent nothing while the figures it shows do not change', () => {
    const bench = window(digits({ show: 'round(input, 100)' }))
    bench.frame({ height: 1010 })
    expect(doneBy(bench.frame({ height: 1020 }))).toEqual([])
  })
  it('shows absent as dashes, too large as bars, and is blank without power', () => {
    const bench = window(digits({ powered: 'bus.volts > 20' }))
    bench.frame({ height: null })
    expect(bench.shown('window')).toBe('f-----')
    bench.frame({ height: 123456 })
    expect(bench.shown('window')).toBe('f¯¯¯¯¯')
    expect(trace(bench.engine, 'window')[0]?.notice).toBe('the value does not fit 5 digits')
    bench.frame({ height: 5, volts: 3 })
    expect(bench.shown('window')).toBe('0     ')
  })
  it.each([
    ['out', '0     '],
    ['dashes', 'f-----'],
    ['keep', 'f   90'],
  ] as const)('rests %s when the simulator goes', (rest, shown) => {
    const bench = window(digits({ rest }))
    bench.frame({ height: 90 })
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(bench.shown('window')).toBe(shown)
  })
  it('says that its decimals leave no room', () => {
    expect(stop(window(digits({ decimals: 6 })), 'window')?.reason).toBe(
      '6 decimals leave no room in 5 digits.',
    )
  })
})

describe('a text display', () => {
  it('writes fixed text and values, and sends only the line that changed', () => {
    const bench = new Workbench(
      smallRig({
        page: page([
          { show: '"HEIGHT AND SPEED"' },
          { show: 'join("ALT ", zeros(height, 5), " SPD ", fixed(speed, 0, 3))' },
        ]),
      }),
    ).live()
    bench.frame({ height: 1200, speed: 87 })
    expect(String(bench.shown('page')).split('\n')).toEqual([
      'HEIGHT AND SPEED    ',
      'ALT 01200 SPD  87   ',
      ' '.repeat(20),
      ' '.repeat(20),
    ])
    bench.wait(500)
    bench.wait(500)
    expect(outputsOf(bench.frame({ speed: 88 }))).toEqual([
      expect.objectContaining({ row: 1, state: 'ALT 01200 SPD  88   ' }),
    ])
  })
  it('writes dashes for what is absent and goes on with the rest', () => {
    const bench = new Workbench(
      smallRig({ page: page([{ show: 'join("ALT ", zeros(height, 5), " ", advice)' }]) }),
    ).live()
    bench.frame({ height: null, advice: null })
    expect(String(bench.shown('page')).split('\n')[0]).toBe('ALT ----- --        ')
  })
  it('has a page for each layer, and a cursor at the line the control acts on', () => {
    const lines = (name: string) => [
      { show: `"${name}"`, cursor: 'Line A' },
      { show: '"second"', cursor: 'Line B' },
    ]
    const bench = new Workbench(
      smallRig(
        {
          page: [
            page(lines('first page'), { layer: 'Page One' }),
            page([{ show: '"other page"' }], { layer: 'Page Two' }),
          ],
          button: control({
            when: 'press',
            value: null,
            actions: [{ do: 'layer', set: 'Line', to: 'next' }],
          }),
          button2: control({
            when: 'press',
            value: null,
            actions: [{ do: 'layer', set: 'Page', to: 'next' }],
          }),
        },
        { layers: { Line: { layers: ['A', 'B'] }, Page: { layers: ['One', 'Two'] } } },
      ),
    ).live()
    const rows = () =>
      String(bench.shown('page'))
        .split('\n')
        .map((r) => r.trimEnd())
        .slice(0, 2)
    for (const id of ['button', 'button2']) bench.report(id, 0)
    expect(rows()).toEqual(['>first page', ' second'])
    bench.report('button', 1)
    expect(rows()).toEqual([' first page', '>second'])
    bench.report('button2', 1)
    expect(rows()).toEqual(['other page', ''])
  })
  it('says when a fixed text is too long for it, and when a value makes a line too long', () => {
    const long = new Workbench(smallRig({ page: page([{ show: '"THIS LINE IS MUCH TOO LONG"' }]) })).live()
    expect(stop(long, 'page')?.reason).toBe('Line 1: “THIS LINE IS MUCH TOO LONG” has 26 characters; 20 fit.')
    const grows = new Workbench(smallRig({ page: page([{ show: 'join("ADVICE IS: ", advice)' }]) })).live()
    grows.frame({ advice: 'wheels up for water' })
    expect(String(grows.shown('page')).split('\n')[0]).toBe('ADVICE IS: wheels u~')
    expect(trace(grows.engine, 'page')[0]?.notice).toBe('line 1 is longer than 20 characters')
  })
})

describe('a needle', () => {
  const gauge = () => new Workbench(smallRig({ gauge: needle }, { settings: dial })).live()
  it('stands where its points say, and no further than it may', () => {
    const bench = gauge()
    bench.frame({ speed: 50 })
    expect(bench.shown('gauge')).toBe(tenths(0))
    bench.frame({ speed: 100 })
    expect(bench.shown('gauge')).toBe(tenths(90))
    bench.frame({ speed: -400 })
    expect(bench.shown('gauge')).toBe(tenths(-100))
  })
  it('goes home without a value, and when the simulator goes', () => {
    const bench = gauge()
    bench.frame({ speed: null })
    expect(bench.shown('gauge')).toBe(tenths(-110))
    bench.frame({ speed: 50 })
    bench.step({ is: 'source', source: 'craft', up: false })
    expect(bench.shown('gauge')).toBe(tenths(-110))
  })
  it('is sent nothing for less than a tenth of a degree', () => {
    const bench = gauge()
    bench.frame({ speed: 50 })
    expect(doneBy(bench.frame({ speed: 50.01 }))).toEqual([])
  })
  it('without points says that it has none', () => {
    expect(stop(new Workbench(smallRig({ gauge: needle })).live(), 'gauge')).toMatchObject({
      at: 'part',
      reason: 'This needle has no needle points yet.',
    })
  })
})

describe('an RGB strip', () => {
  const strip = (settings: ColourSettings) => new Workbench(smallRig({ strip: settings })).live()
  const lit = (bench: Workbench) =>
    readColours(String(bench.shown('strip'))).lamps.filter((c) => c !== '#000000').length
  it('fills with its variable, and is dark without one', () => {
    const bench = strip(colours())
    bench.frame({ speed: 50 })
    expect(lit(bench)).toBe(4)
    bench.frame({ speed: null })
    expect(lit(bench)).toBe(0)
  })
  it('cannot be filled from a least to a smaller most value, and says so', () => {
    const bench = strip(colours({ least: 10, most: 5 }))
    expect(stop(bench, 'strip')?.reason).toBe('The strip is filled from a least to a larger most value.')
  })
})

describe('exercise', () => {
  const bench = () => {
    const made = new Workbench(
      smallRig(
        { lamp: lamp(), window: digits(), page: page([{ show: 'advice' }]), gauge: needle, strip: colours() },
        { settings: dial },
      ),
    )
    made.board(true)
    return made
  }
  const all = ['lamp', 'window', 'page', 'gauge', 'strip']
  it('lights everything that can be lit, with no simulator, and ends by itself', () => {
    const made = bench()
    made.step({ is: 'exercise', partIds: all, how: { as: 'all' } })
    expect(made.shown('lamp')).toBe(255)
    expect(made.shown('window')).toBe('f8.8.8.8.8.')
    expect(String(made.shown('page')).split('\n')[3]).toBe('#'.repeat(20))
    expect(made.shown('gauge')).toBe(tenths(90))
    expect(readColours(String(made.shown('strip'))).lamps).toEqual(Array(8).fill('#ffffff'))
    made.wait(EXERCISE_MS + 1)
    expect(made.shown('lamp')).toBe(0)
    expect(made.shown('window')).toBe('0     ')
    expect(made.shown('gauge')).toBe(tenths(-110))
  })
  it('shows a typed value as if it came from the simulator', () => {
    const made = bench()
    const type = (partId: string, value: number | string) => {
      made.step({ is: 'exercise', partIds: [partId], how: { as: 'value', value } })
      return made.shown(partId)
    }
    expect(type('window', 472)).toBe('f  472')
    expect(type('gauge', 75)).toBe(tenths(50))
    expect(type('lamp', 0.5)).toBe(packedLamp())
    expect(
      String(type('page', 'HELLO\nTHERE'))
        .split('\n')
        .slice(0, 2)
        .map((r) => r.trim()),
    ).toEqual(['HELLO', 'THERE'])
  })
  it('sweeps through the whole range and back', () => {
    const made = bench()
    made.step({ is: 'exercise', partIds: ['gauge'], how: { as: 'sweep' } })
    const seen = [made.shown('gauge')]
    for (let t = 0; t < EXERCISE_MS; t += 50) {
      made.wait(50)
      seen.push(made.shown('gauge'))
    }
    const angles = seen.map(Number)
    expect(Math.max(...angles)).toBe(tenths(90))
    expect(angles[0]).toBe(tenths(-100))
    expect(angles.at(-1)).toBe(tenths(-110))
    expect(new Set(angles).size).toBeGreaterThan(40)
  })
  it('can be ended early, and is said on the path while it lasts', () => {
    const made = bench()
    made.step({ is: 'exercise', partIds: ['window'], how: { as: 'all' } })
    expect(trace(made.engine, 'window')[0]?.stop).toMatchObject({ reason: expect.any(String) })
    made.step({ is: 'exercise', partIds: ['window'], how: null })
    expect(made.shown('window')).toBe('0     ')
    expect(made.engine.units.get('window')?.indicators[0]?.exercise).toBeNull()
  })
})

/** The lamp of the exercise blinks at half travel, as its binding says of any value between 0 and 1. */
const packedLamp = (): number => 255 + 256 * 25
