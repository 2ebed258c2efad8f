import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { atmega328p } from '../src/core/catalogue/boards/atmega328p'
import {
  type Configuration,
  encodeConfiguration,
  fingerprint,
  type Slot,
  workingBytes,
} from '../src/core/harness/slot'
import { abilityTable, fontTable } from '../tools/firmware-tables'
import { Chip, programOf } from './chip'
import { everyday, Host, loaded } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

const { slots } = everyday
const bytes = encodeConfiguration(everyday)
const loadedChip = () => loaded(everyday)

describe('the images', { timeout: LONG_MS }, () => {
  it('are what the sources give', () => {
    const folder = mkdtempSync(join(tmpdir(), 'clavik-firmware-'))
    execFileSync('bash', ['bin/firmware', folder])
    const images = readdirSync('firmware/images')
    expect(images.length).toBeGreaterThan(0)
    for (const name of images)
      expect(readFileSync(join(folder, name)).equals(readFileSync(join('firmware/images', name))), name).toBe(
        true,
      )
    // What the interface has as records is what the program was built with.
    expect(readFileSync('firmware/core/font.hpp', 'utf8')).toBe(fontTable())
    expect(readFileSync('firmware/chips/avr/abilities.hpp', 'utf8')).toBe(abilityTable())
    rmSync(folder, { recursive: true })
  })

  it('leave room for the bootloader that boards come with', () => {
    // Data sheets: the largest boot section of the ATmega328P and the ATmega32U4, 4 KB and 2 KB in use; 8 KB of the ATmega2560.
    const room = { atmega328p: 32_768 - 2048, atmega2560: 262_144 - 8192, atmega32u4: 32_768 - 4096 }
    for (const [chip, bytes] of Object.entries(room)) {
      const program = programOf(readFileSync(`firmware/images/${chip}.hex`, 'utf8'), 262_144)
      const used = program.findLastIndex((b) => b !== 0xff) + 1
      expect(used, chip).toBeGreaterThan(20_000)
      expect(used, chip).toBeLessThanOrEqual(bytes)
    }
  })
})

describe('the memory of an emulated ATmega328P', { timeout: LONG_MS }, () => {
  it('holds what it held, or what is new, whenever power goes in the middle of a load', () => {
    const host = loadedChip()
    const next = encodeConfiguration({ chips: [], slots: [...slots].reverse() })
    const kept = host.chip.memory.slice()
    const prints = new Set<string>()
    // Power goes later each time, until the load is through; a millisecond is less than one byte takes to be written.
    for (let ms = 9; ms < 400; ms += 26) {
      const chip = new Chip('atmega328p', kept)
      const other = new Host(chip)
      chip.run(30)
      const print = fingerprint(next)
      other.say({ say: 'load begin', length: next.length, fingerprint: print })
      other.say({ say: 'load piece', offset: 0, bytes: next })
      const end = chip.now + ms
      other.until(
        'answer',
        ms,
        (a) => a.problem === null && other.heard.filter(({ m }) => m.say === 'answer').length > 1,
      )
      other.say({ say: 'load commit', fingerprint: print })
      while (chip.now < end) chip.run(0.5)
      chip.cutPower()
      chip.run(60)
      const hello = other.ask({ say: 'hello' }, 'hello', 1500)
      expect([fingerprint(bytes), print]).toContain(hello?.fingerprint)
      prints.add(hello?.fingerprint ?? '')
    }
    // Both were seen, so the cuts did fall before and after.
    expect(prints.size).toBe(2)
  })

  it('says why it cannot hold a configuration, and keeps the one it has', () => {
    const host = loadedChip()
    const refused = (c: Configuration) => host.load(encodeConfiguration(c))
    expect(refused({ chips: [], slots: Array.from({ length: 101 }, () => slots[3] as Slot) })).toBe(
      'more slots than this board can hold',
    )
    const text: Slot = {
      ...{ kind: 'text', pins: [18, 19], columns: 40, rows: 4, address: 0x27, keep: false },
    }
    expect(refused({ chips: [], slots: Array.from({ length: 5 }, () => text) })).toBe(
      'more displays, motors and chips than this board has memory for',
    )
    const lamps = (steps: number) => ({
      chips: [{ kind: 'tlc5940', chips: 1, address: 0, pins: [2, 3, 4, 7, steps] }],
      slots: [],
    })
    // Timer 0 counts the board's own time.
    expect(refused(lamps(5))).toBe('the brightness clock needs a pin with a timer of its own')
    expect(refused({ chips: [{ kind: 'mcp23017', chips: 1, address: 32, pins: [2, 3] }], slots: [] })).toBe(
      'its two-wire bus is on other pins',
    )
    expect(refused({ chips: [], slots: [{ ...text, columns: 16, rows: 2, pins: [2, 3] } as Slot] })).toBe(
      'its two-wire bus is on other pins',
    )
    const servo: Slot = {
      ...{ kind: 'needle', pins: [4], drive: 'servo', travelDeg: 180, degPerS: 400, rest: 0 },
    }
    expect(refused({ ...lamps(9), slots: [servo] })).toBe(
      'a servo needs a timer that something else has taken',
    )
    const bad = encodeConfiguration({ chips: [], slots: [{ ...slots[3], pin: 22 } as Slot] })
    expect(host.load(bad)).toBe('a pin that this board has not')
    expect(host.ask({ say: 'hello' }, 'hello')?.fingerprint).toBe(fingerprint(bytes))
  })

  it('works with as much as the interface reckons that it can, and no more', () => {
    const { works } = atmega328p
    const fits = (c: Configuration) => workingBytes(c) <= (works?.bytes ?? 0)
    const things: readonly [Slot, Configuration['chips']][] = [
      [{ kind: 'digits', pins: [2, 3, 4], driver: 'MAX7219', digits: 8, keep: false }, []],
      [{ kind: 'text', pins: [7, 8, 9, 10, 11, 12], columns: 20, rows: 4, address: 0, keep: false }, []],
      [
        { kind: 'colour', pin: 6, lamps: 77, keep: false },
        [{ kind: '74hc165', chips: 3, address: 0, pins: [2, 3, 4] }],
      ],
      [
        { kind: 'digits', pins: [5, 6], driver: 'TM1637', digits: 6, keep: true },
        [
          { kind: 'mcp23017', chips: 1, address: 0x21, pins: [18, 19] },
          { kind: 'pca9685', chips: 1, address: 0x40, pins: [18, 19] },
          { kind: 'mux-16', chips: 1, address: 0, pins: [14, 2, 3, 4, 7] },
          { kind: '74hc595', chips: 2, address: 0, pins: [8, 9, 10] },
        ],
      ],
      // So many motors keep the chip too busy for another load after them.
      [
        { kind: 'needle', pins: [4, 5, 6, 7], drive: 'four-wire', travelDeg: 60, degPerS: 200, rest: 150 },
        [{ kind: 'tlc5940', chips: 2, address: 0, pins: [11, 12, 13, 8, 3] }],
      ],
    ]
    const host = new Host(new Chip('atmega328p'))
    host.chip.run(300)
    for (const [thing, chips] of things) {
      let held: Configuration = { chips, slots: [] }
      const more = (slot: Slot) => ({ chips, slots: [...held.slots, slot] })
      while (fits(more(thing))) held = more(thing)
      const lamp: Slot = { kind: 'lamp', pin: 9, sinks: false, rest: 0 }
      while (fits(more(lamp))) held = more(lamp)
      expect(held.slots.length).toBeLessThan(works?.slots ?? 0)
      expect([thing.kind, host.load(encodeConfiguration(more(lamp)))]).toEqual([
        thing.kind,
        'more displays, motors and chips than this board has memory for',
      ])
      expect([thing.kind, host.load(encodeConfiguration(held))]).toEqual([thing.kind, ''])
    }
  })

  it('leaves memory for its own stack, with as many slots as it has', () => {
    const full: Configuration = { chips: [], slots: Array.from({ length: 100 }, () => slots[3] as Slot) }
    const host = new Host(new Chip('atmega328p'))
    host.chip.run(300)
    expect(host.load(encodeConfiguration(full))).toBe('')
    host.begin()
    host.say({ say: 'outputs', outputs: Array.from({ length: 20 }, (_, slot) => ({ slot, state: 255 })) })
    host.chip.run(3000)
    // Bytes between what is laid out and the deepest that the stack has been.
    expect(host.chip.spare).toBeGreaterThan(100)
  })
})

describe('the program on an emulated ATmega2560', { timeout: LONG_MS }, () => {
  const many: Configuration = {
    chips: [],
    slots: [
      { kind: 'contacts', pins: [22, 37, 49, 53], debounceMs: 5 },
      { kind: 'encoder', pins: [18, 19] },
      { kind: 'analog', pin: 56, smoothing: 1 },
      { kind: 'analog', pin: 69, smoothing: 1 },
      ...[2, 10, 13, 30, 41, 42, 50, 62].map((pin): Slot => ({ kind: 'lamp', pin, sinks: false, rest: 0 })),
    ],
  }

  it('has its pins where its boards have them, on every port', () => {
    const host = loaded(many, [], 'atmega2560')
    const { chip } = host
    for (const [bit, pin] of [22, 37, 49, 53].entries()) {
      chip.contact(pin, true)
      chip.run(30)
      expect(host.reports(0).at(-1)).toBe(2 ** (bit + 1) - 1)
    }
    chip.wiper(56, 0.25)
    chip.wiper(69, 0.75)
    chip.run(150)
    expect(Math.abs((host.reports(2).at(-1) ?? 0) - 256)).toBeLessThan(5)
    expect(Math.abs((host.reports(3).at(-1) ?? 0) - 768)).toBeLessThan(5)
    for (const [i, pin] of [2, 10, 13, 30, 41, 42, 50, 62].entries()) {
      host.say({ say: 'outputs', outputs: [{ slot: 4 + i, state: 255 }] })
      chip.run(10)
      expect([pin, chip.isHigh(pin)]).toEqual([pin, true])
    }
    // A timer of its own gives a pin its brightness.
    host.say({ say: 'outputs', outputs: [{ slot: 5, state: 64 }] })
    chip.run(10)
    expect(chip.brightness(10)).toBeCloseTo(64 / 255, 1)
  })
})
