import { describe, expect, it } from 'vitest'
import { Workbench } from '../../tests/rigs'
import type { NeedleSettings } from '../core/aspects/needle'
import { addRow, apply } from '../core/rig/edit'
import { emptyRig } from '../core/rig/rig'
import { Drift } from './drift'

const line = { fromExpanderId: null, colour: 'white', expanderId: null, channel: null, supplyId: null }
const plain = { ...line, ground: false, shared: false, locked: false, ribbon: null }

/** A rig with one gauge whose motor has a sensor of its zero. */
const rig = () =>
  apply(emptyRig(), [
    addRow('rig', { id: 'rig', name: 'Test', format: 2 }),
    addRow('panel', {
      ...{
        id: 'panel',
        name: 'Panel',
        position: 1,
        widthMm: 100,
        heightMm: 100,
        cornerMm: 2,
        thicknessMm: 3,
      },
      settings: { holes: [] },
    }),
    addRow('board', {
      ...{ id: 'board', name: 'Board', model: 'atmega2560', identity: '00112233445566aa', position: 1 },
      ...{ supplyId: null, own: null },
    }),
    addRow('part', {
      ...{
        id: 'gauge',
        panelId: 'panel',
        name: 'Height',
        kind: 'gauge-turns-50',
        xMm: 40,
        yMm: 40,
        rotationDeg: 0,
      },
      settings: {
        aspects: {
          needle: {
            kind: 'needle',
            zeroDeg: 0,
            points: [
              { value: 0, deg: 0 },
              { value: 10_000, deg: 3600 },
            ],
          },
        },
      },
    }),
    ...(['coil-1', 'coil-2', 'coil-3', 'coil-4', 'sensor'] as const).map((terminal, i) =>
      addRow('lead', {
        ...plain,
        ...{ id: terminal, partId: 'gauge', terminal, number: i + 1, boardId: 'board', pin: `D${i + 22}` },
      }),
    ),
    addRow('binding', {
      ...{ id: 'b', partId: 'gauge', position: 1, on: true },
      settings: { kind: 'needle', variable: 'height', show: 'bare(input)', onlyWhile: null, rest: 'out' },
    }),
  ])

describe('a needle with a sensor', () => {
  it('hangs on five pins, of which the last is heard as a contact, too', () => {
    const bench = new Workbench(rig()).live()
    const unit = bench.engine.units.get('gauge')
    expect(unit?.indicators[0]?.slot).toBeGreaterThanOrEqual(0)
    expect(unit?.controls[0]?.slot).toBeGreaterThanOrEqual(0)
    expect(unit?.indicators[0]?.wiring).toMatchObject({ slot: { pins: [22, 23, 24, 25, 26] } })
    expect(unit?.controls[0]?.wiring).toMatchObject({ slot: { pins: [26] } })
  })

  it('that is not seen at its zero is told of, and no more when it is again', () => {
    const bench = new Workbench(rig()).live()
    const drift = new Drift(bench.engine)
    drift.match()
    const pass = (seconds: number) => {
      for (let i = 0; i < seconds * 5; i++) {
        bench.wait(200)
        drift.pass(bench.now)
      }
    }
    bench.frame({ height: 0 })
    bench.report('gauge', 1, 'home')
    pass(200)
    expect(drift.all).toEqual([])
    bench.frame({ height: 5500 })
    bench.report('gauge', 0, 'home')
    pass(60)
    bench.frame({ height: 0 })
    pass(150)
    expect(drift.all).toEqual([
      {
        partId: 'gauge',
        aspectId: 'needle',
        drifted: { is: 'zero lost', seen: false, times: expect.any(Number) },
      },
    ])
    expect(drift.news()).toHaveLength(1)
    bench.report('gauge', 1, 'home')
    pass(40)
    expect(drift.all).toEqual([])
  })

  it('that its board has just started is given the time that it takes to look for it', () => {
    const bench = new Workbench(rig()).live()
    const drift = new Drift(bench.engine)
    drift.match()
    bench.frame({ height: 0 })
    bench.report('gauge', 0, 'home')
    for (let i = 0; i < 50 * 5; i++) {
      bench.wait(200)
      drift.pass(bench.now)
    }
    expect(drift.all).toEqual([])
  })

  it('that may turn but slowly is not looked at before it is there', () => {
    const bench = new Workbench(rig()).live()
    const needle = bench.rig.part.gauge?.settings.aspects?.needle as NeedleSettings
    bench.changeAspect('gauge', 'needle', { ...needle, degPerS: 20 })
    const drift = new Drift(bench.engine)
    drift.match()
    const pass = (seconds: number) => {
      for (let i = 0; i < seconds * 2; i++) {
        bench.wait(500)
        drift.pass(bench.now)
      }
    }
    bench.frame({ height: 0 })
    bench.report('gauge', 1, 'home')
    pass(400)
    // Nine turns and three quarters away, at 20 degrees a second: it takes some three minutes, and passes its sensor on the way.
    bench.frame({ height: 9750 })
    pass(150)
    expect(drift.all).toEqual([])
    bench.report('gauge', 0, 'home')
    pass(200)
    expect(drift.all).toEqual([])
  })
})
