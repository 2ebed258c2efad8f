import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoRig } from '../../../tests/rigs'
import {
  addRow,
  apply,
  changeRow,
  conflicts,
  type Diff,
  inOrder,
  invalidRows,
  invert,
  removeRow,
  squash,
} from './edit'
import type { Rig } from './rig'
import type { PartRow } from './rows'

const start = demoRig()
const ids = Object.keys(start.part)

const freshPart = (id: string, name: string): PartRow => ({
  ...(start.part['horn-off'] as PartRow),
  id,
  name,
})

/** Some edits a builder might make, each valid for the rig before it. */
const steps = fc.array(
  fc.oneof(
    fc.record({
      is: fc.constant('move' as const),
      id: fc.constantFrom(...ids),
      xMm: fc.integer({ min: 0, max: 100 }),
    }),
    fc.record({
      is: fc.constant('rename' as const),
      id: fc.constantFrom(...ids),
      name: fc.stringMatching(/^[a-z]{1,8}$/),
    }),
    fc.record({ is: fc.constant('add' as const), id: fc.constantFrom('new-1', 'new-2', 'new-3') }),
    fc.record({ is: fc.constant('remove' as const), id: fc.constantFrom('new-1', 'new-2', 'new-3') }),
  ),
  { maxLength: 25 },
)

type Step =
  | { is: 'move'; id: string; xMm: number }
  | { is: 'rename'; id: string; name: string }
  | { is: 'add'; id: string }
  | { is: 'remove'; id: string }

const diffOf = (rig: Rig, step: Step): Diff => {
  const row = rig.part[step.id]
  if (step.is === 'add') return row ? [] : [addRow('part', freshPart(step.id, step.id))]
  if (!row) return []
  if (step.is === 'remove') return [removeRow('part', row)]
  const change = changeRow(
    'part',
    row,
    step.is === 'move' ? { ...row, xMm: step.xMm } : { ...row, name: step.name },
  )
  return change ? [change] : []
}

const playThrough = (list: readonly Step[]): { rigs: Rig[]; diffs: Diff[] } => {
  const rigs = [start]
  const diffs: Diff[] = []
  for (const step of list) {
    const rig = rigs.at(-1) as Rig
    const diff = diffOf(rig, step)
    expect(conflicts(rig, diff)).toEqual([])
    diffs.push(diff)
    rigs.push(apply(rig, diff))
  }
  return { rigs, diffs }
}

describe('an edit', () => {
  it('has an exact inverse, one after the other, all the way back', () => {
    fc.assert(
      fc.property(steps, (list) => {
        const { rigs, diffs } = playThrough(list)
        let rig = rigs.at(-1) as Rig
        for (let i = diffs.length - 1; i >= 0; i--) {
          const back = invert(diffs[i] as Diff)
          expect(conflicts(rig, back)).toEqual([])
          rig = apply(rig, back)
          expect(rig).toEqual(rigs[i])
        }
      }),
    )
  })

  it('squashes with others to one of the same effect, that goes back in one', () => {
    fc.assert(
      fc.property(steps, (list) => {
        const { rigs, diffs } = playThrough(list)
        const one = squash(diffs)
        expect(apply(start, one)).toEqual(rigs.at(-1))
        expect(apply(rigs.at(-1) as Rig, invert(one))).toEqual(start)
      }),
    )
  })

  it('vanishes when it is squashed with its inverse', () => {
    fc.assert(
      fc.property(steps, (list) => {
        const { diffs } = playThrough(list)
        expect(squash([...diffs, ...diffs.map(invert).reverse()])).toEqual([])
      }),
    )
  })

  it('leaves the rows it does not speak of as the very same objects', () => {
    const row = start.part['horn-off'] as PartRow
    const after = apply(start, [changeRow('part', row, { ...row, xMm: 1 }) as Diff[number]])
    expect(after.binding).toBe(start.binding)
    expect(after.part['wheel-lever']).toBe(start.part['wheel-lever'])
    expect(after.part['horn-off']).not.toBe(row)
  })

  it('conflicts by the field, not by the row: two hands may change different things of one part', () => {
    const row = start.part['horn-off'] as PartRow
    const moved = apply(start, [changeRow('part', row, { ...row, xMm: 1 }) as Diff[number]])
    const rename = [changeRow('part', row, { ...row, name: 'Hush' }) as Diff[number]]
    const moveToo = [changeRow('part', row, { ...row, xMm: 2 }) as Diff[number]]
    expect(conflicts(moved, rename)).toEqual([])
    expect(conflicts(moved, moveToo)[0]?.message).toBe('The part “Horn off” was changed meanwhile (xMm).')
  })

  it('tells what was removed or added meanwhile', () => {
    const row = start.part['horn-off'] as PartRow
    const without = apply(start, [removeRow('part', row)])
    expect(conflicts(without, [removeRow('part', row)])[0]?.message).toContain('was removed meanwhile')
    expect(conflicts(start, [addRow('part', row)])[0]?.message).toContain('is already there')
  })

  it('is put in an order that never breaks a reference', () => {
    const panel = start.panel['wheels-floats']
    const part = start.part['horn-off']
    if (!panel || !part) throw new Error('the demo has changed')
    const order = inOrder([addRow('part', part), addRow('panel', panel)]).map((c) => c.table)
    expect(order).toEqual(['panel', 'part'])
    expect(inOrder([removeRow('panel', panel), removeRow('part', part)]).map((c) => c.table)).toEqual([
      'part',
      'panel',
    ])
  })

  it('is refused with a sentence when a row would not be valid', () => {
    const row = start.part['horn-off'] as PartRow
    const diff = [
      {
        op: 'change' as const,
        table: 'part' as const,
        id: row.id,
        before: { name: row.name },
        after: { name: ' ' },
      },
    ]
    expect(invalidRows(apply(start, diff), diff)[0]?.message).toContain('name: a name is needed')
  })
})
