import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { MemoryShelf } from '../../tests/memory-shelf'
import { control, lamp, smallRig } from '../../tests/rigs'
import { changeRow, type Diff } from '../core/rig/edit'
import type { Rig } from '../core/rig/rig'
import { Doing } from './doing'
import { Hub } from './hub'
import { soundRows } from './kept-rig'
import { MemoryFile } from './memory'

let dataDir: string
beforeEach(() => {
  dataDir = mkdtempSync(join(tmpdir(), 'clavik-doing-'))
})
afterEach(() => rmSync(dataDir, { recursive: true, force: true }))

const rig = smallRig({ lever: control(), lamp: lamp() })
const binding = Object.values(rig.binding).find((b) => b.partId === 'lamp')
if (!binding) throw new Error('the lamp has no binding')
const diff: Diff = [changeRow('binding', binding, { ...binding, on: false })].filter((c) => c !== null)

/** The process ends in the middle of its work, as far as anything is left of it. */
const endsWithin = (doing: Doing, work: () => void = () => {}): void => {
  try {
    doing.during('Wrote a formula', diff, () => {
      work()
      throw new Error('killed')
    })
  } catch {
    // Nothing after this is run by a process that is gone.
  }
}

describe('what the hub was doing when it ended', () => {
  it('is taken once more, and set aside when it ends again', () => {
    const first = new Doing(dataDir)
    expect(first.setAside).toBeNull()
    endsWithin(first)
    const second = new Doing(dataDir)
    // Once may be chance; it hangs again while the whole is taken in, and so never says that it has started.
    expect(second.setAside).toBeNull()
    const third = new Doing(dataDir)
    expect([...(third.setAside?.ids ?? [])]).toEqual([binding.id])
    expect(third.setAside?.message).toContain('Wrote a formula')
    third.started()
    // It stays aside, whatever else is done, until it is touched itself.
    third.during(
      'Moved a part',
      [{ op: 'change', table: 'part', id: 'lever', before: {}, after: {} }],
      () => {},
    )
    expect(new Doing(dataDir).setAside).not.toBeNull()
  })

  it('is forgotten when it went well the second time', () => {
    endsWithin(new Doing(dataDir))
    new Doing(dataDir).started()
    expect(new Doing(dataDir).setAside).toBeNull()
    new Doing(dataDir).started()
    expect(new Doing(dataDir).setAside).toBeNull()
  })

  it('leaves the rest running, says so on Bench, and is tried again when it is changed', () => {
    endsWithin(new Doing(dataDir))
    new Doing(dataDir)
    const doing = new Doing(dataDir)
    const hub = new Hub(
      { hand: 1, secret: '', look: async () => [], shelf: new MemoryShelf() },
      new MemoryFile(dataDir),
      doing,
    )
    hub.takeLoaded({ id: 'rig', rig, revision: 4, setAside: [] })
    expect(hub.engine.rig.binding[binding.id]).toBeUndefined()
    expect(Object.keys(hub.engine.rig.binding)).toHaveLength(Object.keys(rig.binding).length - 1)
    hub.takeEdit({
      ...{ editId: 'e', who: 'test', sentence: 'Turned it off', diff, revision: 5, at: '', kind: 'edit' },
      ofRevision: null,
    })
    expect(hub.engine.rig.binding[binding.id]?.on).toBe(false)
    hub.close()
  })
})

describe('the hub’s own file', () => {
  const begin = (rig: unknown): Hub => {
    const memory = {
      armed: true,
      proven: {},
      catalogue: null,
      rig: { id: 'r', revision: 1, setAside: [], rig },
    }
    writeFileSync(join(dataDir, 'hub.json'), JSON.stringify(memory))
    return new Hub(
      { hand: 1, secret: '', look: async () => [], shelf: new MemoryShelf() },
      new MemoryFile(dataDir),
      new Doing(dataDir),
    )
  }

  it.each<[string, unknown]>([
    ['rows that are none', { ...rig, binding: { a: 7, b: null, c: { id: 'c' } } }],
    ['tables that are none', { part: 'many', lead: 3 }],
    ['nothing', null],
    ['names of another kind', { constructor: {}, part: { constructor: { id: 'constructor' } } }],
    [
      'a formula that no Clavik would keep',
      {
        ...rig,
        binding: { [binding.id]: { ...binding, settings: { ...binding.settings, show: '-'.repeat(4000) } } },
      },
    ],
  ])('is never a reason not to start: %s', (_, kept) => {
    const hub = begin(kept)
    hub.takeLoaded({ id: 'rig', rig, revision: 4, setAside: [] })
    expect(Object.keys(hub.engine.rig.part)).toHaveLength(Object.keys(rig.part).length)
    hub.close()
  })

  it('gives what is sound, and a sentence for what is not', () => {
    const kept = { ...rig, part: { ...rig.part, odd: { id: 'odd' } } } as unknown as Rig
    const { rig: sound, left } = soundRows(kept)
    expect(sound).toEqual(rig)
    expect(left).toEqual([expect.stringContaining('part odd')])
  })
})
