import { describe, expect, it } from 'vitest'
import { control, lamp, smallRig, Workbench } from '../../../tests/rigs'
import { emptyConfiguration } from '../harness/slot'
import { removeRow } from '../rig/edit'
import type { LeadRow } from '../rig/rows'
import { trace } from './trace'

const stopOf = (bench: Workbench, partId: string) => trace(bench.engine, partId)[0]?.stop
const station = (bench: Workbench, partId: string, at: string) =>
  trace(bench.engine, partId)[0]?.stations.find((s) => s.at === at)

describe('the path of a lamp', () => {
  it('tells the value at each stage, from variable to lamp', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 0.62, volts: 27.9 })
    const [row] = trace(bench.engine, 'lamp')
    expect(row?.stop).toBeNull()
    expect(row?.stations.map((s) => [s.at, s.what, s.value])).toEqual([
      ['part', 'Lamp, 8 mm, green', 'blink 2 Hz'],
      ['pin', 'D26', ''],
      ['board', 'Test board', 'loaded'],
      ['onlyWhile', 'bus.volts > 20', '27.9 V'],
      ['shaping', 'input >= 1 ? on : input > 0 ? blink(2) : off', '0.62 → blink 2 Hz'],
      ['simulator', 'gear.position', '0.62'],
    ])
  })

  const cases: [string, (bench: Workbench) => void, string, string][] = [
    ['it is held', (b) => b.step({ is: 'arm', armed: false }), 'board', 'held, so the indicator rests'],
    ['its binding is off', (b) => b.changeBinding('lamp-1', lamp(), false), 'shaping', 'binding is off'],
    [
      'its condition is not met',
      (b) => b.frame({ volts: 3.2 }),
      'onlyWhile',
      'only while bus.volts > 20: it is 3.20 V',
    ],
    ['its condition cannot be told', (b) => b.frame({ volts: null }), 'onlyWhile', 'bus.volts is absent'],
    ['its board is away', (b) => b.board(false), 'board', 'Test board is away'],
    ['its variable is absent', (b) => b.frame({ gear: null }), 'simulator', 'variable absent on this craft'],
    [
      'the simulator is away',
      (b) => b.step({ is: 'source', source: 'craft', up: false }),
      'simulator',
      'the simulator is away; the value is old',
    ],
    [
      'there is no such variable',
      (b) => b.changeBinding('lamp-1', lamp({ variable: 'gear.positoin' })),
      'simulator',
      'This craft has no variable “gear.positoin”. Did you mean “gear.position”?',
    ],
    [
      'its shaping mixes units',
      (b) => b.changeBinding('lamp-1', lamp({ show: 'height > speed' })),
      'shaping',
      'kt (speed) and ft (length) do not measure the same.',
    ],
    [
      'its shaping divides by zero',
      (b) => b.changeBinding('lamp-1', lamp({ show: '1 / bare(speed - speed)' })),
      'shaping',
      'no value comes out: it divides by zero, or no case fits',
    ],
    [
      'it is exercised',
      (b) => b.step({ is: 'exercise', partIds: ['lamp'], how: { as: 'all' } }),
      'board',
      'being exercised by hand',
    ],
  ]
  it.each(cases)('says so where it stops when %s', (_, happen, at, reason) => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.frame({ gear: 0.5 })
    happen(bench)
    expect(stopOf(bench, 'lamp')).toMatchObject({ at, reason })
  })

  it('says when its board does not hold it yet', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() }), emptyConfiguration).live()
    expect(stopOf(bench, 'lamp')).toMatchObject({
      at: 'board',
      reason: 'board not loaded: it does not hold this part yet',
    })
  })

  it('says which terminal has no pin', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    bench.edit([removeRow('lead', bench.rig.lead['lead-1'] as LeadRow)])
    expect(stopOf(bench, 'lamp')).toMatchObject({
      at: 'pin',
      reason: 'terminal “plus” has no pin',
    })
  })

  it('says that another binding overrides it', () => {
    const bench = new Workbench(smallRig({ lamp: [lamp({ show: 'on' }), lamp()] })).live()
    bench.frame({ gear: 0.5 })
    const [first, second] = trace(bench.engine, 'lamp')
    expect(first?.stop).toBeNull()
    expect(second?.stop).toMatchObject({ at: 'board', reason: 'overridden by the binding above' })
  })

  it('stops at the variable while none is chosen', () => {
    const bench = new Workbench(smallRig({ lamp: null })).live()
    expect(stopOf(bench, 'lamp')).toMatchObject({ at: 'simulator', reason: 'nothing bound yet' })
  })
})

describe('the path of a control', () => {
  it('tells the value at each stage, from contact to variable', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b10)
    bench.frame({ lever: 0 })
    const [row] = trace(bench.engine, 'lever')
    expect(row?.stop).toBeNull()
    expect(row?.stations.map((s) => s.value)).toEqual(['down', 'D24 low', 'loaded', 'down → down', '', 'up'])
  })

  const cases: [string, (bench: Workbench) => void, string, string][] = [
    ['it is held', (b) => b.step({ is: 'arm', armed: false }), 'simulator', 'held, so actions do not flow'],
    [
      'the simulator is away',
      (b) => b.step({ is: 'source', source: 'craft', up: false }),
      'simulator',
      'the simulator is away',
    ],
    [
      'its contacts contradict each other',
      (b) => b.report('lever', 0b11),
      'pin',
      'these contacts cannot be closed together: look at the wiring',
    ],
    [
      'its variable can only be read',
      (b) => b.changeBinding('lever-1', control({ actions: [{ do: 'set', variable: 'bus.volts' }] })),
      'simulator',
      '“bus.volts” can be read but not set. Choose an event or another variable.',
    ],
    [
      'its value is beyond limits',
      (b) => b.changeBinding('lever-1', control({ value: 'match(input, "down", 9, 0)' })),
      'simulator',
      'value beyond limits: 9 is outside 0 to 2 of gear.lever',
    ],
    [
      'there is no such event',
      (b) =>
        b.changeBinding(
          'lever-1',
          control({ value: null, actions: [{ do: 'event', event: 'horn.cancle' }] }),
        ),
      'simulator',
      'This craft has no event “horn.cancle”. Did you mean “horn.cancel”?',
    ],
  ]
  it.each(cases)('says so where it stops when %s', (_, happen, at, reason) => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b10)
    happen(bench)
    expect(stopOf(bench, 'lever')).toMatchObject({ at, reason })
  })

  it('says what the simulator objected to', () => {
    const bench = new Workbench(smallRig({ lever: control() })).live()
    bench.report('lever', 0b01)
    const [set] = bench.report('lever', 0b10)
    if (set?.is !== 'set') throw new Error('nothing was sent')
    bench.step({ is: 'answer', request: set.request, problem: 'lever is jammed' })
    expect(stopOf(bench, 'lever')?.reason).toBe('the simulator refused it: lever is jammed')
  })

  it('tells when something last passed from end to end, and nothing while it stops', () => {
    const bench = new Workbench(smallRig({ lever: control(), lamp: lamp() })).live()
    const passed = (part: string) => trace(bench.engine, part)[0]?.passedAt
    bench.report('lever', 0b01)
    expect(passed('lever')).toBeNull()
    bench.wait(500)
    bench.report('lever', 0b10)
    expect(passed('lever')).toBe(bench.now)
    bench.wait(300)
    expect(passed('lever')).toBe(bench.now - 300)
    bench.frame({ gear: 1, volts: 28 })
    expect(passed('lamp')).toBe(bench.now)
    bench.step({ is: 'arm', armed: false })
    expect([passed('lever'), passed('lamp')]).toEqual([null, null])
  })

  it('shows a button that reads low while it is pressed', () => {
    const bench = new Workbench(
      smallRig({
        button: control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] }),
      }),
    ).live()
    bench.report('button', 0)
    expect(station(bench, 'button', 'pin')?.value).toBe('high')
    bench.report('button', 1)
    expect(station(bench, 'button', 'pin')?.value).toBe('low')
  })
})
