import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { Chip as ChipSettings } from '../src/core/harness/chip'
import type { Slot } from '../src/core/harness/slot'
import { hc165 } from '../src/standins/boards/soldered/hc165'
import { hc595 } from '../src/standins/boards/soldered/hc595'
import { mux16 } from '../src/standins/boards/soldered/mux-16'
import type { SolderedChip } from '../src/standins/boards/soldered/soldered'
import { on } from './board-under-test'
import { loaded } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

const at = (chip: number, channel: number): number => 256 * (chip + 1) + channel

/** What hangs on the channels of a soldered chip, in the hands of a test. */
const channels = () => {
  const closed = new Set<number>()
  const levels = new Map<number, number>()
  return {
    closed,
    levels,
    isClosed: (channel: number) => closed.has(channel),
    level: (channel: number) => levels.get(channel) ?? 0,
  }
}

describe.each(on('atmega328p'))('chips beside %s', { timeout: LONG_MS }, (board) => {
  it('a chain of 74HC165: each contact is where it is drawn, however many close at once', () => {
    const settings: ChipSettings = { kind: '74hc165', pins: [5, 6, 7], chips: 3, address: 0 }
    const hangs = channels()
    const soldered = hc165(settings, hangs)
    const slots: Slot[] = Array.from({ length: 24 }, (_, i) => ({
      kind: 'contacts',
      pins: [at(0, i)],
      debounceMs: 5,
    }))
    const host = loaded({ chips: [settings], slots }, [[settings, soldered]], board)
    for (const channel of [0, 7, 8, 15, 16, 23]) {
      hangs.closed.add(channel)
      host.chip.run(30)
      expect(host.reports(channel)).toEqual([1])
    }
    hangs.closed.clear()
    host.chip.run(60)
    for (let i = 0; i < 24; i++) expect(host.reports(i).at(-1) ?? 0).toBe(0)
    for (let i = 0; i < 24; i++) hangs.closed.add(i)
    host.chip.run(80)
    for (let i = 0; i < 24; i++) expect(host.reports(i).at(-1)).toBe(1)
  })

  it('a chain of 74HC595: each lamp shines where it is drawn', () => {
    const settings: ChipSettings = { kind: '74hc595', pins: [8, 9, 10], chips: 2, address: 0 }
    const soldered: SolderedChip = hc595(settings, channels())
    const slots: Slot[] = Array.from({ length: 16 }, (_, i) => ({
      kind: 'lamp',
      pin: at(0, i),
      sinks: i === 3,
      rest: 0,
    }))
    const host = loaded({ chips: [settings], slots }, [[settings, soldered]], board)
    const lit = () => (soldered.lights?.() ?? []).flatMap((l, i) => (l > 0 ? [i] : []))
    host.chip.run(10)
    // One that takes current in is dark while its output is high.
    expect(lit()).toEqual([3])
    host.say({ say: 'outputs', outputs: [0, 3, 8, 15].map((slot) => ({ slot, state: 255 })) })
    host.chip.run(30)
    expect(lit()).toEqual([0, 8, 15])
    host.say({ say: 'outputs', outputs: [0, 15].map((slot) => ({ slot, state: 0 })) })
    host.chip.run(30)
    expect(lit()).toEqual([8])
  })

  it('a 74HC4067: sixteen contacts on one pin, and a wiper among them on an analog one', () => {
    const settings: ChipSettings = { kind: 'mux-16', pins: [14, 2, 3, 4, 5], chips: 1, address: 0 }
    const hangs = channels()
    const slots: Slot[] = [
      { kind: 'contacts', pins: [at(0, 2), at(0, 9)], debounceMs: 5 },
      { kind: 'encoder', pins: [at(0, 12), at(0, 13)] },
      { kind: 'analog', pin: at(0, 15), smoothing: 1 },
    ]
    const host = loaded({ chips: [settings], slots }, [[settings, mux16(settings, hangs)]], board)
    hangs.closed.add(9)
    host.chip.run(30)
    expect(host.reports(0)).toEqual([2])
    for (const [a, b] of [
      [false, true],
      [true, true],
      [true, false],
      [false, false],
    ] as const) {
      if (a) hangs.closed.add(12)
      else hangs.closed.delete(12)
      if (b) hangs.closed.add(13)
      else hangs.closed.delete(13)
      host.chip.run(5)
    }
    host.chip.run(20)
    const steps = host.reports(1).at(-1) ?? 0
    expect(Math.min(steps, 0x10000 - steps)).toBe(4)
    hangs.levels.set(15, 0.75)
    host.chip.run(120)
    expect(host.reports(2).at(-1)).toBeGreaterThan(760)
    expect(host.reports(2).at(-1)).toBeLessThan(775)
  })
})

describe('the program on the host', { timeout: LONG_MS }, () => {
  it('takes ten million damaged bytes without a slip of memory or arithmetic', () => {
    const folder = mkdtempSync(join(tmpdir(), 'clavik-fuzz-'))
    const program = join(folder, 'fuzz')
    const sources = ['fuzz.cpp', 'hardware.cpp'].map((f) => `firmware/chips/host/${f}`)
    const guards = ['-fsanitize=address,undefined', '-fno-sanitize-recover=all']
    execFileSync('g++', ['-std=c++14', '-O2', ...guards, '-Ifirmware/chips/host', '-o', program, ...sources])
    const said = execFileSync(program, ['10000000', String(1 + (process.pid % 1000))]).toString()
    expect(said).toMatch(/^1\d{7} bytes in \d{3,} starts, \d{6,} said/)
    rmSync(folder, { recursive: true })
  })
})
