import { describe, expect, it } from 'vitest'
import { control, smallRig, Workbench } from '../../tests/rigs'
import type { Nature } from '../core/aspects/nature'
import { pinsOf } from '../core/harness/slot'
import { isWired } from '../core/harness/wiring'
import type { FromHub } from '../core/live/feed'
import type { PartSettings } from '../core/rig/part-settings'
import type { SlotNoted } from '../links/notes'
import type { BoardClient } from './board-client'
import type { Probe } from './board-talk'
import { Drift } from './drift'
import { Probes } from './probes'
import { Tab } from './tab'

const then = { at: '2026-01-01T12:00:00.000Z', kind: 'x', place: 'Test board D2' }
const press = control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] })
const move = control({ when: 'move', value: 'input', actions: [] })

/** A board that is told what to note, and tabs that measure. */
const bench = (settings: Record<string, PartSettings> = {}, program = 3) => {
  const { engine } = new Workbench(smallRig({ button: press, slide: move }, { settings })).live()
  const probed: Probe[] = []
  const attended: boolean[] = []
  // As a board with the link says it of its program.
  const noteObjection = program < 3 ? 'is too old to tell how its inputs move: number 3 is needed' : null
  const client = {
    noteObjection,
    identity: 'x',
    probe: (p: Probe) => probed.push(p),
  } as unknown as BoardClient
  let isThere = true
  let likeness: { at: number; natures: { places: number[]; nature: Nature }[] } | undefined
  const drift = new Drift(engine)
  const probes = new Probes(
    engine,
    {
      client: () => (isThere ? client : undefined),
      attend: (_, on) => attended.push(on),
      likeness: () => likeness,
    },
    drift,
  )
  const slotOf = (part: string) => engine.units.get(part)?.controls[0]?.slot as number
  const tab = () => {
    const told: FromHub[] = []
    const made = new Tab({ send: (text) => told.push(JSON.parse(text)), isFull: () => false })
    return { tab: made, told, last: () => told.at(-1) as Extract<FromHub, { say: 'probed' }> }
  }
  const lose = () => {
    isThere = false
    probes.match()
  }
  const become = (at: number, part: string, nature: Nature | null) => {
    const wiring = engine.units.get(part)?.controls[0]?.wiring
    const places = wiring && isWired(wiring) ? [...pinsOf(wiring.slot)] : []
    likeness = { at, natures: nature ? [{ places, nature }] : [] }
  }
  return { engine, probes, drift, probed, attended, slotOf, tab, lose, become }
}
const of = (partId: string) => ({ partId, aspectId: partId === 'slide' ? 'travel' : 'press' })
const note = (slot: number, ms: number, value: number): SlotNoted => ({ slot, at: ms * 1000, value })

describe('what a tab measures', () => {
  it('is noted by its board, told to that tab alone, and let go with it', () => {
    const b = bench()
    const [mine, other] = [b.tab(), b.tab()]
    b.probes.watch(mine.tab, of('slide'))
    expect(b.probed.at(-1)).toBe(b.slotOf('slide'))
    expect(b.attended).toEqual([true])
    b.probes.take('board', [note(b.slotOf('slide'), 1, 500), note(b.slotOf('button'), 1, 1)], 3)
    b.probes.tell()
    expect(mine.last()).toMatchObject({ notes: [[1, 500]], left: 3, problem: null, twin: null })
    expect(other.told).toEqual([])
    b.probes.leave(mine.tab)
    expect(b.probed.at(-1)).toBeNull()
    expect(b.attended).toEqual([true, false])
  })

  it('goes before what another tab measures on the same board, which is told so', () => {
    const b = bench()
    const [first, second] = [b.tab(), b.tab()]
    b.probes.watch(first.tab, of('slide'))
    b.probes.watch(second.tab, of('button'))
    expect(b.probed.at(-1)).toBe(b.slotOf('button'))
    b.probes.tell()
    expect(first.last().problem).toContain('another window measures')
    b.probes.leave(second.tab)
    b.probes.tell()
    expect(first.last().problem).toBeNull()
    expect(b.probed.at(-1)).toBe(b.slotOf('slide'))
  })

  it('says why nothing comes: a board that is away, a program that is too old', () => {
    const b = bench()
    const mine = b.tab()
    b.probes.watch(mine.tab, of('slide'))
    b.lose()
    b.probes.tell()
    expect(mine.last().problem).toBe('Test board is away')
    const old = bench({}, 2)
    const theirs = old.tab()
    old.probes.watch(theirs.tab, of('slide'))
    old.probes.tell()
    expect(theirs.last().problem).toContain('too old')
    expect(old.probed).toEqual([])
  })

  it('has the lever that is moved along with it told beside it', () => {
    const b = bench()
    const mine = b.tab()
    b.probes.watchTwin(mine.tab, of('slide'))
    b.probes.watch(mine.tab, of('button'))
    b.engine.step({ is: 'report', boardId: 'board', slot: b.slotOf('slide'), value: 321 }, 10_000)
    b.probes.take('board', [note(b.slotOf('button'), 1, 1)], 0)
    b.probes.tell()
    expect(mine.last().twin).toBe(321)
  })
})

describe('a simulated control that becomes another', () => {
  const bent: Nature = { kind: 'travel', bend: 0.5 }
  const notes = (b: ReturnType<typeof bench>, ...at: number[]) => {
    b.probes.take(
      'board',
      at.map((ms) => note(b.slotOf('slide'), ms, ms)),
      0,
    )
    b.probes.tell()
  }

  it('is told as what it is, without what was noted before, however late that comes', () => {
    const b = bench()
    const mine = b.tab()
    b.probes.watch(mine.tab, of('slide'))
    notes(b, 10)
    expect(mine.last()).toMatchObject({ nature: null, notes: [[10, 10]] })
    b.become(20_000, 'slide', bent)
    notes(b, 18, 19)
    expect(mine.last()).toMatchObject({ nature: bent, notes: [] })
    notes(b, 20, 21, 22)
    expect(mine.last()).toMatchObject({
      nature: bent,
      notes: [
        [21, 21],
        [22, 22],
      ],
    })
    b.become(30_000, 'slide', null)
    notes(b, 31)
    expect(mine.last()).toMatchObject({ nature: null, notes: [[31, 31]] })
  })

  it('is compared round the end of the microseconds of its board, and no more once something later has come', () => {
    const b = bench()
    const mine = b.tab()
    const round = 2 ** 32 / 1000
    b.probes.watch(mine.tab, of('slide'))
    notes(b, 1)
    // Its own time is 2 ms further than the 32 bits that it tells.
    b.become(2 ** 32 + 2000, 'slide', bent)
    notes(b, round - 5, round + 1, round + 3)
    expect(mine.last().notes).toEqual([[round + 3, round + 3]])
    notes(b, 2 * round - 5, 2 * round + 1)
    expect(mine.last().notes).toHaveLength(2)
  })

  it('is no other for another part on its board, for a tab that comes later, nor for stand-ins that have yet to say', () => {
    const b = bench()
    const mine = b.tab()
    b.become(20_000, 'button', { kind: 'positions', bounceUs: 5000 })
    b.probes.watch(mine.tab, of('slide'))
    notes(b, 5)
    expect(mine.last()).toMatchObject({ nature: null, notes: [[5, 5]] })
    b.become(50_000, 'slide', bent)
    const late = b.tab()
    b.probes.watch(late.tab, of('slide'))
    notes(b, 49)
    expect(late.last()).toMatchObject({ nature: bent, notes: [[49, 49]] })
  })
})

const measured = (longestUs: number): Record<string, PartSettings> => ({
  button: {
    aspects: {
      press: { kind: 'positions', measured: { ...then, movements: 20, usualUs: longestUs, longestUs } },
    },
  },
  slide: {
    aspects: { travel: { kind: 'travel', measured: { ...then, sigma: 1, peak: 3, low: 0, high: 1023 } } },
  },
})

/** Presses that bounce for so long. */
const presses = (slot: number, count: number, bounceMs: number, from = 0): SlotNoted[] => {
  const notes: SlotNoted[] = []
  for (let i = 0; i < count; i++) {
    const at = from + i * 200
    const to = (i + 1) % 2
    notes.push(note(slot, at, to), note(slot, at + bounceMs / 2, 1 - to), note(slot, at + bounceMs, to))
  }
  return notes
}

describe('what was measured', () => {
  it('is watched while nobody measures, and told once it has drifted; then no more once it is measured anew', () => {
    const b = bench(measured(2000))
    b.drift.match()
    b.probes.match()
    expect(b.probed.at(-1)).toBe('all contacts')
    const slot = b.slotOf('button')
    b.probes.take('board', presses(slot, 90, 2), 0)
    expect(b.drift.news()).toBeNull()
    b.probes.take('board', presses(slot, 130, 9, 60_000), 0)
    expect(b.drift.news()).toMatchObject([
      { partId: 'button', aspectId: 'press', drifted: { is: 'bounces longer', was: 2000 } },
    ])
    // Told once.
    expect(b.drift.news()).toBeNull()
    const part = b.engine.rig.part.button
    if (!part) throw new Error('the rig has changed')
    const put = (row: typeof part, now: number) => {
      const all = { ...b.engine.rig.part, button: structuredClone(row) }
      b.engine.step({ is: 'rig', rig: { ...b.engine.rig, part: all }, diff: null }, now)
      b.drift.match()
    }
    // Moved and renamed it is what it was.
    put({ ...part, name: 'Moved', xMm: 5 }, 70_000)
    expect(b.drift.news()).toBeNull()
    const { aspects } = measured(9000).button as PartSettings
    const press = aspects?.press
    if (press?.kind !== 'positions' || !press.measured) throw new Error('the rig has changed')
    const anew = { ...press, measured: { ...press.measured, at: '2026-02-01T12:00:00.000Z' } }
    put({ ...part, settings: { aspects: { press: anew } } }, 80_000)
    expect(b.drift.news()).toEqual([])
  })

  it('has its levers listened to for a moment, one after the other', () => {
    const b = bench(measured(2000))
    b.drift.match()
    expect(b.drift.pass(0)).toBe(true)
    b.probes.match()
    expect(b.probed.at(-1)).toBe(b.slotOf('slide'))
    expect(b.drift.pass(600)).toBe(false)
    expect(b.drift.pass(1300)).toBe(true)
    b.probes.match()
    expect(b.probed.at(-1)).toBe('all contacts')
    expect(b.drift.pass(2000)).toBe(false)
  })
})
