import { beforeEach, describe, expect, it, vi } from 'vitest'
import { apply, type Diff } from '@/core/rig/edit'
import { bindingsOf, type Rig } from '@/core/rig/rig'
import { catalogue, control, smallRig } from '../../../tests/rigs'
import { makePath } from './make-path'

const edited: { sentence: string; diff: Diff }[] = []
vi.mock('../live/edits', () => ({
  edit: (sentence: string, diff: Diff) => void edited.push({ sentence, diff }),
}))
beforeEach(() => void edited.splice(0))

const info = catalogue.variables.find((v) => v.name === 'pump.switch') ?? expect.fail()
const made = (rig: Rig) => {
  const part = rig.part.button ?? expect.fail()
  expect(makePath(rig, part, info, null, [])).not.toHaveProperty('problem')
  return bindingsOf(apply(rig, edited[0]?.diff ?? []), 'button')
}

describe('a path that a hunt ends in', () => {
  it('is the binding that waits for its target, with its condition and the craft that it is for', () => {
    const waits = {
      ...control({ when: 'press', value: null, actions: [], onlyWhile: 'bus.volts > 5' }),
      craftSet: 'torsk',
    }
    const other = control({ when: 'press', value: null, actions: [{ do: 'set', variable: 'way' }] })
    const bindings = made(smallRig({ button: [other, waits] }))
    expect(bindings.map((b) => b.id)).toEqual(['button-1', 'button-2'])
    expect(bindings[0]?.settings).toEqual(other)
    expect(bindings[1]?.settings).toMatchObject({
      actions: [{ do: 'toggle', variable: 'pump.switch' }],
      onlyWhile: 'bus.volts > 5',
      craftSet: 'torsk',
    })
  })

  it('is a further one where none waits', () => {
    const other = control({ when: 'press', value: null, actions: [{ do: 'set', variable: 'way' }] })
    const bindings = made(smallRig({ button: other }))
    expect(bindings).toHaveLength(2)
    expect(bindings[1]?.settings).toMatchObject({ actions: [{ do: 'toggle', variable: 'pump.switch' }] })
    expect(bindings[1]?.settings.craftSet).toBeUndefined()
  })
})
