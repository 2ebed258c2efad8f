import { describe, expect, it } from 'vitest'
import { control, demoRig, lamp, smallRig } from '../../../tests/rigs'
import { addRow, apply, changeRow, type Diff, removeRow } from '../rig/edit'
import { type Rig, rowsOf } from '../rig/rig'
import { partsTouched } from './parts-touched'

const touched = (rig: Rig, ...diff: Diff): string[] | null => {
  const parts = partsTouched(rig, apply(rig, diff), diff)
  return parts && [...parts].sort()
}

describe('an edit concerns', () => {
  const rig = demoRig()
  const onExpanders = (boardId: string) =>
    [
      ...new Set(
        rowsOf(rig, 'lead').flatMap((l) =>
          l.partId && l.expanderId && rig.expander[l.expanderId]?.boardId === boardId ? [l.partId] : [],
        ),
      ),
    ].sort()
  const [first] = rowsOf(rig, 'expander')
  if (!first) throw new Error('the demo has expanders')

  it('whatever hangs on the chips of a board, when there is one more of them or one less: they are counted through', () => {
    const parts = onExpanders(first.boardId)
    expect(parts.length).toBeGreaterThan(5)
    expect(touched(rig, addRow('expander', { ...first, id: 'one-more' }))).toEqual(parts)
    expect(touched(rig, removeRow('expander', first))).toEqual(parts)
  })

  it('what hangs on a board, when that becomes another', () => {
    const board = rig.board[first.boardId]
    if (!board) throw new Error('it has one')
    const change = changeRow('board', board, { ...board, model: 'rp2040' })
    const there = rowsOf(rig, 'lead').flatMap((l) => (l.partId && l.boardId === board.id ? [l.partId] : []))
    const parts = [...new Set([...there, ...onExpanders(board.id)])].sort()
    expect(change && touched(rig, change)).toEqual(parts)
  })

  it('the part of a binding, before and after it', () => {
    const small = smallRig({ lamp: lamp(), lever: control() })
    const binding = small.binding['lamp-1']
    if (!binding) throw new Error('it has one')
    const change = changeRow('binding', binding, { ...binding, on: false })
    expect(change && touched(small, change)).toEqual(['lamp'])
    expect(touched(small, removeRow('binding', binding))).toEqual(['lamp'])
  })
})
