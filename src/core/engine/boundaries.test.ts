import { describe, expect, it } from 'vitest'
import { control, doneBy, lamp, outputsOf, smallRig, V, Workbench } from '../../../tests/rigs'
import { addRow, apply, changeRow, type Diff, removeRow } from '../rig/edit'
import { bindingsOf, leadsOf } from '../rig/rig'
import { agreement } from './agreement'
import { trace } from './trace'

const throwing = () => {
  throw new Error('bad luck')
}

describe('one bad binding', () => {
  it('of a lamp is that lamp’s own trouble, told on its path, and asked no more', () => {
    const bench = new Workbench(
      smallRig({ lamp: lamp(), lamp2: lamp({ show: 'input >= 1 ? on : off' }) }),
    ).live()
    const program = bench.engine.units.get('lamp')?.indicators[0]?.first as unknown as { packs: () => number }
    program.packs = throwing
    bench.frame({ gear: 1 })
    expect(bench.shown('lamp2')).toBe(255)
    expect(bench.shown('lamp')).toBe(0)
    expect(trace(bench.engine, 'lamp')[0]?.stop).toMatchObject({
      at: 'shaping',
      reason: 'it failed: bad luck',
    })
    program.packs = () => 255
    bench.frame({ gear: 0.5 })
    expect(bench.shown('lamp')).toBe(0)
  })
  it('of a control costs the others nothing', () => {
    const bench = new Workbench(
      smallRig({ button: [control({ when: 'press', value: '1' }), control({ when: 'press', value: '2' })] }),
    ).live()
    const [first] = bench.engine.units.get('button')?.controls[0]?.bindings ?? []
    ;(first?.program as unknown as { value: unknown }).value = {
      evaluate: throwing,
      reads: [],
      needs: [],
    }
    bench.report('button', 0)
    bench.report('button', 1)
    expect(trace(bench.engine, 'button')[0]?.stop?.reason).toContain('bad luck')
  })
})

describe('a frame', () => {
  it('that tells values beyond the catalogue leaves the rig’s own values alone', () => {
    const bench = new Workbench(
      smallRig({
        toggle: null,
        lamp: lamp({ variable: null, show: 'part("Toggle") == "up"', onlyWhile: null }),
      }),
    ).live()
    bench.report('toggle', 1)
    const before = bench.shown('lamp')
    const beyond = Array.from({ length: 40 }, (_, i) => i + 9)
    expect(
      doneBy(bench.step({ is: 'frame', source: 'craft', indexes: beyond, values: beyond.map(() => 'x') })),
    ).toEqual([])
    bench.frame({ gear: 1 })
    expect(bench.shown('lamp')).toBe(before)
  })
})

describe('parts that come and go', () => {
  it('leave their places to those that come after them', () => {
    const bench = new Workbench(smallRig({ lamp: lamp() })).live()
    const donor = smallRig({ button: null })
    const row = donor.part.button
    if (!row) throw new Error('no button')
    for (let round = 0; round < 4; round++) {
      const rows = Array.from({ length: 30 }, (_, i) => ({ ...row, id: `b${i}`, name: `Button ${i}` }))
      bench.edit(rows.map((r) => addRow('part', r)))
      bench.edit(rows.map((r) => removeRow('part', r)))
    }
    bench.edit([
      addRow('part', { ...row, id: 'fresh', name: 'Fresh' }),
      ...leadsOf(donor, 'button').map((l) =>
        addRow('lead', { ...l, id: 'fresh-lead', number: 99, partId: 'fresh' }),
      ),
    ])
    const binding = bindingsOf(bench.rig, 'lamp')[0]
    if (!binding) throw new Error('no binding')
    const settings = lamp({ variable: null, show: 'part("Fresh")', onlyWhile: null })
    bench.edit([changeRow('binding', binding, { ...binding, settings }) as Diff[number]])
    const loaded = new Workbench(bench.rig).live()
    loaded.report('fresh', 0)
    loaded.report('fresh', 1)
    expect(loaded.shown('lamp')).toBe(255)
    const own = bench.engine.units.get('fresh')?.controls[0]?.ownSlot ?? Number.POSITIVE_INFINITY
    expect(own).toBeLessThan(bench.engine.variables.numbers.length)
  })
})

describe('bands that are edited', () => {
  it('change what others read of the lever at once', () => {
    const bands = (to: number) => ({
      kind: 'travel' as const,
      bands: [{ from: 0, to: 1, gives: [0, to] as [number, number] }],
    })
    const rig = smallRig(
      { slide: null, lamp: lamp({ variable: null, show: 'part("Slide") > 50', onlyWhile: null }) },
      { settings: { slide: { aspects: { travel: bands(10) } } } },
    )
    const bench = new Workbench(apply(rig, [])).live()
    bench.report('slide', 1023)
    expect(bench.shown('lamp')).toBe(0)
    bench.changeAspect('slide', 'travel', bands(100))
    expect(bench.shown('lamp')).toBe(255)
  })
})

describe('what a board does not show', () => {
  it('is told again: all that it has not confirmed, or everything', () => {
    const bench = new Workbench(
      smallRig({ lamp: lamp(), lamp2: lamp({ show: 'input >= 1 ? on : off' }) }),
    ).live()
    const queue = bench.engine.units.get('lamp')?.indicators[0]?.board?.queue
    if (!queue) throw new Error('no board')
    bench.wait(100)
    bench.step({ is: 'shown', boardId: 'board', shown: { is: 'confirmed', batch: queue.batch } })
    expect(queue.isUnconfirmed).toBe(false)
    bench.frame({ gear: 1 })
    bench.now += 100
    const again = (all: boolean) =>
      outputsOf(bench.step({ is: 'shown', boardId: 'board', shown: { is: 'differs', all } })).map(
        (o) => o.state,
      )
    expect(again(false)).toEqual([255, 255])
    bench.step({ is: 'shown', boardId: 'board', shown: { is: 'confirmed', batch: queue.batch } })
    bench.now += 100
    expect(again(false)).toEqual([])
    expect(again(true)).toHaveLength(2)
  })
})

describe('a number that a simulator keeps as a 32-bit float', () => {
  it('agrees with what the control means', () => {
    const bench = new Workbench(
      smallRig({
        lever: control({
          value: 'match(input, "up", 118.025, "off", 0.1, "down", 2)',
          actions: [{ do: 'set', variable: 'radio.frequency' }],
        }),
      }),
    ).live()
    bench.report('lever', 1)
    bench.step({ is: 'frame', source: 'craft', indexes: [V.radio], values: [Math.fround(118.025)] })
    const unit = bench.engine.units.get('lever')
    expect(unit && agreement(bench.engine, unit).agrees).toBe(true)
    bench.step({ is: 'frame', source: 'craft', indexes: [V.radio], values: [118.03] })
    expect(unit && agreement(bench.engine, unit).agrees).toBe(false)
  })
})
