import { describe, expect, it } from 'vitest'
import { control, lamp, onPorts, smallRig } from '../../../tests/rigs'
import { apply, changeRow, removeRow } from '../rig/edit'
import { bindingsOf, emptyRig, type Rig, rowsOf } from '../rig/rig'
import { type BenchNow, firstLight, firstSteps } from './first-light'

const all: BenchNow = { holds: () => true, proven: () => true }
const none: BenchNow = { holds: () => false, proven: () => false }
const missing = (rig: Rig, now: BenchNow) => {
  const { done } = firstLight(rig, now)
  return firstSteps.filter((s) => !done.has(s))
}
const without = (rig: Rig, table: 'lead' | 'binding', partId: string): Rig =>
  apply(
    rig,
    rowsOf(rig, table)
      .filter((r) => r.partId === partId)
      .map((r) => removeRow(table, r as never)),
  )

describe('the way to the first light', () => {
  const rig = onPorts(smallRig({ lever: control(), lamp: lamp() }), 1, [])

  it('begins with nothing, whatever the bench says', () => {
    expect(missing(emptyRig(), all)).toEqual(firstSteps)
  })

  it('is done when a control and a lamp are wired, loaded, bound and proven', () => {
    expect(missing(rig, all)).toEqual([])
    expect(firstLight(rig, all)).toMatchObject({ control: { id: 'lever' }, lamp: { id: 'lamp' } })
  })

  it('waits for the board to hold what is drawn, and for both to be seen to work', () => {
    expect(missing(rig, none)).toEqual(['loaded', 'seen'])
    const [shown] = bindingsOf(rig, 'lamp')
    expect(missing(rig, { ...all, proven: (id) => id !== shown?.id })).toEqual(['seen'])
  })

  it('wants a wire for both: what one lacks is not loaded either', () => {
    expect(missing(without(rig, 'lead', 'lamp'), all)).toEqual(['wires', 'loaded'])
    expect(missing(without(rig, 'lead', 'lever'), all)).toEqual(['wires', 'loaded'])
  })

  it('wants something to speak with that is on', () => {
    const off = rowsOf(rig, 'connection').map((c) => changeRow('connection', c, { ...c, on: false }))
    expect(
      missing(
        apply(
          rig,
          off.filter((c) => c !== null),
        ),
        all,
      ),
    ).toEqual(['source'])
  })

  it('does not take for bound what is bound to nothing, or off', () => {
    expect(missing(without(rig, 'binding', 'lever'), all)).toEqual(['act', 'seen'])
    const [shown] = bindingsOf(rig, 'lamp')
    if (!shown) throw new Error('no binding')
    const off = changeRow('binding', shown, { ...shown, on: false })
    expect(missing(apply(rig, off ? [off] : []), all)).toEqual(['show', 'seen'])
  })
})
