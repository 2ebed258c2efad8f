import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { until } from '../../tests/app'
import { catalogue, control, lamp, smallRig } from '../../tests/rigs'
import { apply, changeRow } from '../core/rig/edit'
import { rowsOf } from '../core/rig/rig'
import type { ToStandins } from '../links/hand-link'
import type { BoardClient } from './board-client'
import { DrawnBoards } from './drawn-boards'
import { HandClient } from './hand-client'
import { MemoryFile } from './memory'
import { Proofs } from './proofs'

const dirs: string[] = []
const newDir = (): string => {
  const dir = mkdtempSync(join(tmpdir(), 'clavik-hub-'))
  dirs.push(dir)
  return dir
}
afterEach(() => {
  vi.useRealTimers()
  for (const dir of dirs.splice(0)) rmSync(dir, { recursive: true, force: true })
})

const rig = smallRig({ lever: control(), lamp: lamp() })

describe('the hub’s small file', () => {
  it('brings everything back as it was', () => {
    const dir = newDir()
    const first = new MemoryFile(dir)
    expect(first.memory).toEqual({
      armed: true,
      craftChoice: 'by craft',
      proven: {},
      rig: null,
      catalogues: {},
      identities: {},
      words: {},
    })
    first.memory.armed = false
    first.memory.proven['lever-1'] = 'basis'
    first.memory.rig = { id: 'rig', rig, revision: 7, setAside: ['A row.'] }
    first.memory.catalogues = { craft: catalogue }
    first.write()
    expect(new MemoryFile(dir).memory).toEqual(first.memory)
    expect(existsSync(join(dir, 'hub.json.new'))).toBe(false)
  })

  it('begins anew where the file is broken, and two files share nothing', () => {
    const dir = newDir()
    writeFileSync(join(dir, 'hub.json'), '{"armed": fal')
    const broken = new MemoryFile(dir)
    expect(broken.memory.armed).toBe(true)
    broken.memory.proven.x = 'y'
    expect(new MemoryFile(newDir()).memory.proven).toEqual({})
  })

  it('fills in what an older one did not have: tables of the rig, fields of its own', () => {
    const dir = newDir()
    const { layerSet, expander, ...older } = rig
    writeFileSync(
      join(dir, 'hub.json'),
      JSON.stringify({ rig: { id: 'rig', rig: older, revision: 1, setAside: [] } }),
    )
    const { memory } = new MemoryFile(dir)
    expect(memory.rig?.rig.layerSet).toEqual(layerSet)
    expect(memory.rig?.rig.expander).toEqual(expander)
    expect(memory.armed).toBe(true)
  })

  it('is written once for many changes, a moment later, in slices that come out as one', async () => {
    const dir = newDir()
    const file = new MemoryFile(dir)
    file.memory.rig = { id: 'rig', rig, revision: 7, setAside: ['A “row”.'] }
    file.memory.catalogues = { craft: catalogue }
    file.memory.proven['lever-1'] = 'basis'
    file.keep()
    file.memory.armed = false
    file.keep()
    expect(existsSync(join(dir, 'hub.json'))).toBe(false)
    await until('it is written', () => existsSync(join(dir, 'hub.json')))
    expect(new MemoryFile(dir).memory).toEqual(file.memory)
  })

  it('does not stop a flight when it cannot be written', () => {
    const said = vi.spyOn(process.stderr, 'write').mockReturnValue(true)
    const file = new MemoryFile(join(newDir(), 'nowhere'))
    file.write()
    expect(said.mock.calls.join()).toContain('cannot keep its state')
    said.mockRestore()
  })
})

describe('proofs', () => {
  const proofs = () => {
    const file = new MemoryFile(newDir())
    return new Proofs(file)
  }

  it('are news once, and stand until what they rest on changes', () => {
    const of = proofs()
    expect(of.of(rig)).toEqual({ 'lever-1': 'not yet', 'lamp-1': 'not yet' })
    expect(of.note(rig, 'lever-1')).toBe(true)
    expect(of.note(rig, 'lever-1')).toBe(false)
    expect(of.of(rig)['lever-1']).toBe('proven')
    const lead = rowsOf(rig, 'lead').find((l) => l.partId === 'lever')
    const moved = apply(rig, lead ? [changeRow('lead', lead, { ...lead, pin: 'D50' }) as never] : [])
    expect(of.of(moved)['lever-1']).toBe('changed since')
    expect(of.note(moved, 'lever-1')).toBe(true)
    expect(of.of(moved)['lever-1']).toBe('proven')
    // Back on its old pin it has to be seen again.
    expect(of.of(rig)['lever-1']).toBe('changed since')
  })

  it('do not mind another name or place', () => {
    const of = proofs()
    of.note(rig, 'lever-1')
    const part = rig.part.lever
    const renamed = part && changeRow('part', part, { ...part, name: 'Gear', xMm: 50 })
    expect(of.of(apply(rig, renamed ? [renamed] : []))['lever-1']).toBe('proven')
  })

  it('are told of the parts that are asked for, and there is none of a binding that is gone', () => {
    const of = proofs()
    expect(of.of(rig, new Set(['lamp']))).toEqual({ 'lamp-1': 'not yet' })
    expect(of.note(rig, 'gone')).toBe(false)
  })
})

describe('drawn boards', () => {
  const identity = '00112233445566aa'
  const client = (own: string, isSimulated = false) =>
    ({ identity: own, up: true, isSimulated }) as unknown as BoardClient
  class Hands extends HandClient {
    readonly told: ToStandins[] = []
    constructor() {
      super(1, '')
      this.up = true
      this.boardPorts.set(identity, 1)
    }
    override send(message: ToStandins): void {
      this.told.push(message)
    }
  }
  const shift = {
    ...{ id: 'u1', boardId: 'board', name: 'U1', kind: '74hc165', chips: 2, jumpers: 0, position: 1 },
  }
  const wired = apply(rig, [
    { op: 'add', table: 'expander', id: 'u1', row: shift },
    ...['data', 'clock', 'load', 'plus', 'ground'].map((terminal, i) => ({
      ...{ op: 'add' as const, table: 'lead' as const, id: `u1-${terminal}` },
      row: {
        ...rowsOf(rig, 'lead')[0],
        ...{ id: `u1-${terminal}`, partId: null, fromExpanderId: 'u1', terminal, number: 50 + i },
        ...{ pin: ['D50', 'D51', 'D52', '5V', 'D53'][i], shared: false },
      },
    })),
  ])

  it('are found by what their real ones tell, and only while these are there', () => {
    const there = client(identity)
    const stranger = client('ffffffffffffffff')
    const boards = new DrawnBoards(() => [stranger, there], new Hands())
    expect(boards.client('board')).toBeUndefined()
    boards.match(rig)
    expect(boards.drawn(there)).toBe('board')
    expect(boards.client('board')).toBe(there)
    expect(boards.drawn(stranger)).toBeNull()
    ;(there as { up: boolean }).up = false
    expect(boards.client('board')).toBeUndefined()
  })

  it('are stood for by one of several with the same identity: a real one before a simulated one, then whoever was first', () => {
    const simulated = client(identity, true)
    const first = client(identity)
    const second = client(identity)
    const all = [simulated]
    const boards = new DrawnBoards(() => all, new Hands())
    boards.match(rig)
    expect(boards.client('board')).toBe(simulated)
    all.push(first)
    boards.match(rig)
    expect(boards.client('board')).toBe(first)
    expect(boards.drawn(simulated)).toBeNull()
    expect(boards.doubleOf(simulated)).toBe(first)
    // One that comes later, and is listed before, changes nothing.
    all.unshift(second)
    boards.match(rig)
    expect(boards.client('board')).toBe(first)
    expect(boards.doubleOf(second)).toBe(first)
    expect(boards.doubleOf(first)).toBeNull()
    ;(first as { up: boolean }).up = false
    boards.match(rig)
    expect(boards.client('board')).toBe(second)
  })

  it('have their chips soldered on once, again when these change, and all anew for new simulated boards', () => {
    const hands = new Hands()
    const boards = new DrawnBoards(() => [], hands)
    const lamp = { kind: 'lamp', pin: 26, sinks: false, rest: 0 }
    const bare = { say: 'solder', identity, chips: [], slots: [lamp], natures: [] }
    const chips = [{ kind: '74hc165', pins: [50, 51, 52], chips: 2, address: 0 }]
    boards.solder(rig)
    expect(hands.told).toEqual([bare])
    boards.solder(wired)
    expect(hands.told).toEqual([bare, { ...bare, chips }])
    boards.solder(wired)
    expect(hands.told).toHaveLength(2)
    boards.solder(rig)
    expect(hands.told.at(-1)).toEqual(bare)
    boards.solder(wired)
    boards.solderAnew(wired)
    expect(hands.told).toHaveLength(5)
  })

  it('wait until there are simulated boards', () => {
    const hands = new Hands()
    hands.boardPorts.clear()
    new DrawnBoards(() => [], hands).solder(wired)
    expect(hands.told).toEqual([])
  })
})
