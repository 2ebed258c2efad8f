import { describe, expect, it } from 'vitest'
import { smallRig, Workbench } from '../../tests/rigs'
import type { NeedleSettings } from '../core/aspects/needle'
import { Drift } from './drift'

const dial: NeedleSettings = {
  kind: 'needle',
  zeroDeg: 0,
  points: [
    { value: 0, deg: 0 },
    { value: 10_000, deg: 3600 },
  ],
}

/** A rig with one gauge whose motor has a sensor of its zero. */
const rig = () =>
  smallRig(
    { turns: { kind: 'needle', variable: 'height', show: 'bare(input)', onlyWhile: null, rest: 'out' } },
    { settings: { turns: { aspects: { needle: dial } } } },
  )

describe('a needle with a sensor', () => {
  it('hangs on five pins, of which the last is heard as a contact, too', () => {
    const bench = new Workbench(rig()).live()
    const unit = bench.engine.units.get('turns')
    expect(unit?.indicators[0]?.slot).toBeGreaterThanOrEqual(0)
    expect(unit?.controls[0]?.slot).toBeGreaterThanOrEqual(0)
    expect(unit?.indicators[0]?.wiring).toMatchObject({ slot: { pins: [48, 49, 50, 51, 52] } })
    expect(unit?.controls[0]?.wiring).toMatchObject({ slot: { pins: [52] } })
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
    bench.report('turns', 1, 'home')
    pass(200)
    expect(drift.all).toEqual([])
    bench.frame({ height: 5500 })
    bench.report('turns', 0, 'home')
    pass(60)
    bench.frame({ height: 0 })
    pass(150)
    expect(drift.all).toEqual([
      {
        partId: 'turns',
        aspectId: 'needle',
        drifted: { is: 'zero lost', seen: false, times: expect.any(Number) },
      },
    ])
    expect(drift.news()).toHaveLength(1)
    bench.report('turns', 1, 'home')
    pass(40)
    expect(drift.all).toEqual([])
  })

  it('that its board has just started is given the time that it takes to look for it', () => {
    const bench = new Workbench(rig()).live()
    const drift = new Drift(bench.engine)
    drift.match()
    bench.frame({ height: 0 })
    bench.report('turns', 0, 'home')
    for (let i = 0; i < 50 * 5; i++) {
      bench.wait(200)
      drift.pass(bench.now)
    }
    expect(drift.all).toEqual([])
  })

  it('that may turn but slowly is not looked at before it is there', () => {
    const bench = new Workbench(rig()).live()
    bench.changeAspect('turns', 'needle', { ...dial, degPerS: 20 })
    const drift = new Drift(bench.engine)
    drift.match()
    const pass = (seconds: number) => {
      for (let i = 0; i < seconds * 2; i++) {
        bench.wait(500)
        drift.pass(bench.now)
      }
    }
    bench.frame({ height: 0 })
    bench.report('turns', 1, 'home')
    pass(400)
    // Nine turns and three quarters away, at 20 degrees a second: it takes some three minutes, and passes its sensor on the way.
    bench.frame({ height: 9750 })
    pass(150)
    expect(drift.all).toEqual([])
    bench.report('turns', 0, 'home')
    pass(200)
    expect(drift.all).toEqual([])
  })
})
