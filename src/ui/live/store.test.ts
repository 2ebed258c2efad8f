import { describe, expect, it, vi } from 'vitest'
import { changeRow, type Diff } from '@/core/rig/edit'
import { demoRig } from '../../../tests/rigs'
import { KeyedValues } from './keyed-values'
import { type PendingEdit, withPending } from './store'

const base = demoRig()
const pending = (field: 'name' | 'xMm', value: string | number, id = 'horn-off'): PendingEdit => {
  const row = base.part[id]
  if (!row) throw new Error('the demo has changed')
  return {
    editId: `${field} ${value}`,
    rigId: null,
    sentence: 's',
    revision: null,
    diff: [changeRow('part', row, { ...row, [field]: value }) as Diff[number]],
  }
}

describe('the rig a page shows', () => {
  it('is the hub’s rig with the page’s own edits on top, in order', () => {
    const rig = withPending(base, [pending('name', 'Hush'), pending('xMm', 77)])
    expect(rig.part['horn-off']).toMatchObject({ name: 'Hush', xMm: 77 })
    expect(base.part['horn-off']?.name).toBe('Horn off')
  })
  it('leaves out an edit that no longer fits what others did meanwhile', () => {
    const theirs = withPending(base, [pending('name', 'Theirs')])
    const rig = withPending(theirs, [pending('name', 'Mine'), pending('xMm', 77)])
    expect(rig.part['horn-off']).toMatchObject({ name: 'Theirs', xMm: 77 })
  })
  it('is the very same object while nothing is pending', () => {
    expect(withPending(base, [])).toBe(base)
  })
})

describe('values under keys', () => {
  it('tell each reader of its own key only, and of nothing after it has left', () => {
    const values = new KeyedValues<number>()
    const a = vi.fn()
    const b = vi.fn()
    const leave = values.subscribe('a', a)
    values.subscribe('b', b)
    values.set('a', 1)
    expect(a).toHaveBeenCalledTimes(1)
    expect(b).not.toHaveBeenCalled()
    leave()
    values.set('a', 2)
    expect(a).toHaveBeenCalledTimes(1)
    expect(values.get('a')).toBe(2)
  })
  it('tell every reader when all is cleared', () => {
    const values = new KeyedValues<number>()
    const reader = vi.fn()
    values.set('a', 1)
    values.subscribe('a', reader)
    values.clear()
    expect(reader).toHaveBeenCalled()
    expect(values.get('a')).toBeUndefined()
  })
})
