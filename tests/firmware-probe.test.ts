import { describe, expect, it } from 'vitest'
import { bouncesOf } from '../src/core/calibration/bounce'
import { measureEncoder } from '../src/core/calibration/encoder-measure'
import { changesOf } from '../src/core/calibration/quadrature'
import type { Configuration } from '../src/core/harness/slot'
import type { ToBoard } from '../src/links/board-link'
import { NoteReader } from '../src/links/notes'
import { randomFrom } from '../src/standins/craft/world'
import { on } from './board-under-test'
import { everyday, type Host, loaded } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

/** All that was noted of a slot, and how many notes found no room. */
const notesOf = (host: Host, slot: number) => {
  const reader = new NoteReader()
  const notes = host.heard.flatMap(({ m }) => (m.say === 'probed' ? reader.take(m) : []))
  return { notes: notes.filter((n) => n.slot === slot), left: reader.left }
}
const probe = (host: Host, what: (ToBoard & { say: 'probe' })['what']) => {
  host.say({ say: 'probe', what })
  host.chip.run(20)
}

describe.each(on('atmega328p'))('what is probed on %s', { timeout: LONG_MS }, (board) => {
  it('is every change of a contact as it came, while it is debounced as ever', () => {
    const host = loaded(everyday, [], board)
    probe(host, 0)
    const hand = randomFrom(3)
    const made: number[] = []
    for (let press = 0; press < 4; press++) {
      let closed = press % 2 === 0
      for (let i = 0; i < 5; i++) {
        host.chip.contact(2, closed)
        made.push(host.chip.now)
        host.chip.run(1 + hand() * 2)
        closed = !closed
      }
      host.chip.run(60)
    }
    const { notes, left } = notesOf(host, 0)
    expect(left).toBe(0)
    expect(notes[0]?.value).toBe(0)
    const seen = notes.slice(1)
    expect(seen.map((n) => n.value)).toEqual(made.map((_, i) => (i + 1) % 2))
    // As far apart as they were made, but for a turn of the program before each.
    for (let i = 1; i < made.length; i++)
      expect((seen[i]?.at as number) - (seen[0]?.at as number)).toBeCloseTo(
        ((made[i] as number) - (made[0] as number)) * 1000,
        -3.3,
      )
    expect(bouncesOf(notes).map((b) => b.changes)).toEqual([5, 5, 5, 5])
    expect(host.reports(0)).toEqual([1, 0, 1, 0])
  })

  it('is the level of a pot a thousand times a second, not smoothed, while it is told as ever', () => {
    const host = loaded(everyday, [], board)
    host.chip.wiper(14, 0.25)
    host.chip.run(200)
    const told = host.reports(2).length
    probe(host, 2)
    const random = randomFrom(5)
    for (let i = 0; i < 500; i++) {
      host.chip.wiper(14, 0.25 + (random() - 0.5) * 0.004)
      host.chip.run(1)
    }
    const { notes, left } = notesOf(host, 2)
    expect(left).toBe(0)
    expect(notes.length).toBeGreaterThan(500)
    expect(notes.length).toBeLessThan(525)
    const levels = notes.map((n) => n.value)
    expect(Math.max(...levels) - Math.min(...levels)).toBeGreaterThanOrEqual(4)
    for (let i = 1; i < notes.length; i++)
      expect((notes[i]?.at as number) - (notes[i - 1]?.at as number)).toBeLessThan(2100)
    expect(host.reports(2).length).toBe(told)
  })

  it('tells a knob of another kind than its maker says', () => {
    const host = loaded(everyday, [], board)
    probe(host, 'all contacts')
    const states = [0, 1, 3, 2]
    const turn = (changes: number, from: number) => {
      for (let i = 1; i <= Math.abs(changes); i++) {
        const state = states[(from + i * Math.sign(changes)) & 3] as number
        host.chip.contact(4, (state & 1) === 1)
        host.chip.contact(7, (state & 2) === 2)
        host.chip.run(3)
      }
    }
    turn(20, 0)
    host.chip.run(100)
    const { notes: there } = notesOf(host, 1)
    turn(-20, 20)
    host.chip.run(100)
    const all = [{ slot: 1, at: 0, value: 0 }, ...notesOf(host, 1).notes]
    const first = changesOf(all.slice(0, there.length + 1))
    expect(measureEncoder(first, changesOf(all.slice(there.length)), 10)).toMatchObject({
      ...{ changesPerClick: 2, there: 20, back: 20, lost: 0, jumps: 0 },
    })
  })

  it('is nothing any more after a start, at rest, and once it is said', () => {
    const host = loaded(everyday, [], board)
    const goesOn = () => {
      const before = host.heard.length
      host.chip.run(30)
      return host.heard.slice(before).some(({ m }) => m.say === 'probed')
    }
    probe(host, 2)
    expect(goesOn()).toBe(true)
    probe(host, null)
    expect(goesOn()).toBe(false)
    probe(host, 2)
    host.begin()
    host.chip.run(20)
    expect(goesOn()).toBe(false)
    probe(host, 2)
    host.quiet(true)
    host.chip.run(1700)
    expect(goesOn()).toBe(false)
  })

  it('leaves out what finds no room, and says how much that was', () => {
    const many: Configuration = {
      chips: [],
      slots: [2, 3, 4, 5, 6, 7, 8, 9].map((pin) => ({ kind: 'contacts', pins: [pin], debounceMs: 200 })),
    }
    const host = loaded(many, [], board)
    probe(host, 'all contacts')
    let made = 0
    for (let i = 0; i < 200; i++) {
      for (let pin = 2; pin < 10; pin++) {
        host.chip.contact(pin, i % 2 === 0)
        made++
      }
      host.chip.run(1)
    }
    host.chip.run(100)
    const reader = new NoteReader()
    const noted = host.heard.flatMap(({ m }) => (m.say === 'probed' ? reader.take(m) : []))
    expect(noted.length + reader.left).toBeGreaterThan(0.9 * made)
    expect(host.heard.filter(({ m }) => m.say === 'heartbeat').length).toBeGreaterThan(0)
  })
})
