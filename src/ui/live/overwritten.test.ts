import { describe, expect, it } from 'vitest'
import type { Diff } from '@/core/rig/edit'
import { OthersEdits } from './overwritten'

const change = (before: Record<string, unknown>, after: Record<string, unknown>): Diff => [
  { op: 'change', table: 'part', id: 'p', before, after },
]

describe('an edit beside another page', () => {
  const others = () => {
    const known = new OthersEdits()
    known.heard(
      'theirs',
      'Set 470 Ω',
      change(
        { settings: { seriesOhms: 330, atStart: 'panel' } },
        { settings: { seriesOhms: 470, atStart: 'panel' } },
      ),
      0,
    )
    return known
  }
  it('is told nothing of what this page has undone itself', () => {
    const known = others()
    known.takesStep('step')
    const back = change({ settings: { seriesOhms: 470 } }, { settings: { seriesOhms: 330 } })
    known.heard('step', 'Undid: Set 470 Ω', back, 10)
    const mine = change({ settings: { seriesOhms: 330 } }, { settings: { seriesOhms: 220 } })
    expect(known.overwrittenBy(mine, 1000)).toEqual([])
    // The same step is not taken twice: what comes under that name later is somebody else's.
    known.heard(
      'step',
      'Set 100 Ω',
      change({ settings: { seriesOhms: 220 } }, { settings: { seriesOhms: 100 } }),
      20,
    )
    expect(known.overwrittenBy(mine, 1000)).toEqual(['Set 100 Ω'])
  })
  it('is told what of theirs it overwrites, field by field', () => {
    const mine = change(
      { settings: { seriesOhms: 470, atStart: 'panel' } },
      { settings: { seriesOhms: 220, atStart: 'panel' } },
    )
    expect(others().overwrittenBy(mine, 1000)).toEqual(['Set 470 Ω'])
    const beside = change(
      { settings: { seriesOhms: 470, atStart: 'panel' } },
      { settings: { seriesOhms: 470, atStart: 'simulator' } },
    )
    expect(others().overwrittenBy(beside, 1000)).toEqual([])
  })
  it('is not, long after, nor twice, nor where both mean the same', () => {
    const mine = change({ settings: { seriesOhms: 470 } }, { settings: { seriesOhms: 220 } })
    expect(others().overwrittenBy(mine, 100_000)).toEqual([])
    const known = others()
    known.overwrittenBy(mine, 1)
    expect(known.overwrittenBy(mine, 2)).toEqual([])
    expect(others().overwrittenBy(change({ settings: {} }, { settings: { seriesOhms: 470 } }), 1)).toEqual([])
  })
})
