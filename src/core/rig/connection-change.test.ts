import { describe, expect, it } from 'vitest'
import { smallRig } from '../../../tests/rigs'
import { newConnection, simulating, simulationOf, withoutStrangers } from './connection-change'
import { addRow, apply } from './edit'
import type { BoardRow } from './rows'

const rig = smallRig({})
const board = rig.board.board as BoardRow
const fresh = { identity: '00000000000000ff', connection: 'new' }

describe('a simulated board', () => {
  it('is added for a drawn one under its identity, or under a new one where it has none', () => {
    const once = apply(rig, simulating(rig, board, fresh))
    expect(simulationOf(once, board.identity ?? '')).toMatchObject({
      id: 'new',
      on: true,
      name: 'Simulated Test board',
    })
    const nameless = { ...board, identity: null }
    const other = apply(rig, [])
    const diff = simulating({ ...other, board: { board: nameless } }, nameless, fresh)
    expect(diff.map((c) => c.table)).toEqual(['board', 'connection'])
  })

  it('that is there is switched on again, and nothing is done where it is on', () => {
    const once = apply(rig, simulating(rig, board, fresh))
    expect(simulating(once, board, fresh)).toEqual([])
    const row = simulationOf(once, board.identity ?? '')
    if (!row) throw new Error('it is not there')
    const off = { ...once, connection: { ...once.connection, [row.id]: { ...row, on: false } } }
    expect(simulating(off, board, fresh)).toMatchObject([{ op: 'change', after: { on: true } }])
  })
})

it('a connection is added under a name that is free, behind the others', () => {
  const settings = { kind: 'board tcp', host: 'a', port: 1 } as const
  const first = newConnection(rig, 'a', 'Trim', settings)
  const second = newConnection(apply(rig, [addRow('connection', first)]), 'b', 'Trim', settings)
  expect([first.name, second.name]).toEqual(['Trim', 'Trim 2'])
  expect(second.position).toBe(first.position + 1)
})

it.each([
  ['127.0.0.1', true],
  ['localhost', true],
  ['::1', true],
  ['192.168.1.5', false],
  ['127.evil.example', false],
  ['example.com', false],
])('a file that speaks with %s comes in with that on: %s', (host, on) => {
  const settings = { kind: 'simulator tcp' as const, host, port: 80, prefix: '' }
  const [change] = withoutStrangers([addRow('connection', newConnection(rig, 'c', 'C', settings))])
  expect(change).toMatchObject({ op: 'add', row: { on } })
})

it('of a file everything else stays as it is', () => {
  const rows = [
    addRow('board', board),
    addRow('connection', newConnection(rig, 'c', 'C', { kind: 'simulated craft', seed: 1, prefix: '' })),
  ]
  expect(withoutStrangers(rows)).toEqual(rows)
})
