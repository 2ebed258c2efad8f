import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { checkBoard } from '../src/check/board'
import { Findings } from '../src/check/findings'
import { type Configuration, encodeConfiguration, fingerprint, type Slot } from '../src/core/harness/slot'
import { BoardTalk } from '../src/hub/board-talk'
import { randomFrom } from '../src/standins/craft/world'
import { abilityTable, fontTable } from '../tools/firmware-tables'
import { Chip } from './chip'
import { Host, loaded } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

const slots: readonly Slot[] = [
  { kind: 'contacts', pins: [2, 3], debounceMs: 8 },
  { kind: 'encoder', pins: [4, 7] },
  { kind: 'analog', pin: 14, smoothing: 2 },
  { kind: 'lamp', pin: 8, sinks: false, rest: 0 },
  { kind: 'lamp', pin: 9, sinks: false, rest: 255 },
  { kind: 'lamp', pin: 12, sinks: true, rest: 'keep' },
]
const configuration: Configuration = { chips: [], slots }
const bytes = encodeConfiguration(configuration)

const loadedChip = () => loaded(configuration)

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
})

describe('the program on an emulated ATmega328P', { timeout: LONG_MS }, () => {
  it('says and hears everything as the link has it, with something loaded', async () => {
    const same = new Chip('atmega328p', loadedChip().chip.kept.memory)
    const held = new Findings()
    await checkBoard(same.open, held, same.clock)
    expect(held.list.filter((f) => f.verdict !== 'right')).toEqual([])
  })

  it('tells a press once, however its contact bounces, and when it was still for its time', () => {
    const host = loadedChip()
    const random = randomFrom(7)
    for (let i = 0; i < 12; i++) {
      host.chip.contact(2, i % 2 === 0)
      host.chip.run(random() * 1.5)
    }
    const before = host.chip.now
    host.chip.contact(2, true)
    host.until('inputs', 100)
    host.chip.run(40)
    expect(host.reports(0)).toEqual([1])
    const told = host.heard.find(({ m }) => m.say === 'inputs')?.at ?? 0
    // Debounced for 8 ms; then a frame of 15 bytes on a line of 11.5 bytes a millisecond.
    expect(told - before).toBeGreaterThan(7)
    expect(told - before).toBeLessThan(12)
  })

  it('loses none of ten thousand encoder steps, a thousand a second', () => {
    const host = loadedChip()
    const states = [
      [false, false],
      [false, true],
      [true, true],
      [true, false],
    ] as const
    for (let i = 1; i <= 10_000; i++) {
      const [a, b] = states[i & 3] as readonly [boolean, boolean]
      host.chip.contact(4, a)
      host.chip.contact(7, b)
      host.chip.run(1)
    }
    host.chip.run(50)
    const last = host.reports(1).at(-1) as number
    expect(Math.min(last, 0x10000 - last)).toBe(10_000)
  })

  it('tells where a wiper is, without telling its noise', () => {
    const host = loadedChip()
    host.chip.wiper(14, 0.5)
    host.chip.run(200)
    const told = host.reports(2)
    expect(told.at(-1)).toBeGreaterThan(508)
    expect(told.at(-1)).toBeLessThan(516)
    const random = randomFrom(3)
    for (let i = 0; i < 300; i++) {
      host.chip.wiper(14, 0.5 + (random() - 0.5) * 0.003)
      host.chip.run(1)
    }
    expect(host.reports(2)).toHaveLength(told.length)
    host.chip.wiper(14, 0.9995)
    host.chip.run(200)
    expect(host.reports(2).at(-1)).toBe(1023)
  })

  it('lights lamps: on and off, by shares of the time, blinking, and where the pin takes current in', () => {
    const host = loadedChip()
    const show = (slot: number, state: number) => {
      host.say({ say: 'outputs', outputs: [{ slot, state }] })
      host.chip.run(8)
    }
    show(3, 255)
    expect(host.chip.isHigh(8)).toBe(true)
    show(3, 0)
    expect(host.chip.isHigh(8)).toBe(false)
    show(4, 64)
    expect(host.chip.brightness(9)).toBeCloseTo(64 / 255, 1)
    show(5, 255)
    expect(host.chip.isHigh(12)).toBe(false)
    // Twenty units of 20 ms: lit for 200 ms, dark for 200 ms.
    show(3, 255 + 256 * 20)
    const lit = Array.from({ length: 80 }, () => {
      host.chip.run(10)
      return host.chip.isHigh(8)
    })
    expect(lit.filter(Boolean).length).toBeGreaterThan(36)
    expect(lit.filter(Boolean).length).toBeLessThan(44)
    expect(lit.filter((on, i) => i > 0 && on !== lit[i - 1]).length).toBeLessThan(6)
  })

  it('goes to rest when it hears nothing: dark, lit, or as it was, and says so', () => {
    const host = loadedChip()
    host.say({
      say: 'outputs',
      outputs: [
        { slot: 3, state: 255 },
        { slot: 4, state: 0 },
        { slot: 5, state: 255 },
      ],
    })
    host.chip.run(20)
    host.quiet(true)
    expect(host.until('heartbeat', 2500, (b) => b.resting && b.rests === 1 && b.digest === 0)).not.toBeNull()
    expect([8, 9, 12].map((pin) => host.chip.isHigh(pin))).toEqual([false, true, false])
  })

  it('keeps who it is and what it holds without power, and counts its starts', () => {
    const host = loadedChip()
    const hello = () => host.ask({ say: 'hello' }, 'hello', 1500)
    const before = hello()
    host.chip.cutPower()
    host.chip.run(50)
    const after = hello()
    expect(after).toMatchObject({ identity: before?.identity, fingerprint: fingerprint(bytes) })
    expect(after?.boot).toBe((before?.boot ?? 0) + 1)
    // Another chip has another.
    const other = new Host(new Chip('atmega328p'))
    other.chip.wiper(15, 0.31)
    other.chip.run(300)
    expect(other.ask({ say: 'hello' }, 'hello')?.identity).not.toBe(before?.identity)
  })

  it('holds what it held, or what is new, whenever power goes in the middle of a load', () => {
    const host = loadedChip()
    const next = encodeConfiguration({ chips: [], slots: [...slots].reverse() })
    const kept = host.chip.kept.memory.slice()
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
      'the two-wire bus of this board is on other pins',
    )
    expect(refused({ chips: [], slots: [{ ...text, columns: 16, rows: 2, pins: [2, 3] } as Slot] })).toBe(
      'the two-wire bus of this board is on other pins',
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

  it('comes to agree over a line that damages, drops and doubles, both ways', () => {
    const chip = new Chip('atmega328p', loadedChip().chip.kept.memory)
    const random = randomFrom(11)
    let faults = 0.02
    const spoiled = (b: Uint8Array): Uint8Array =>
      Uint8Array.from(
        [...b].flatMap((x) =>
          random() > faults ? [x] : random() < 0.4 ? [] : random() < 0.5 ? [x, x] : [x ^ 16],
        ),
      )
    const states = new Map<number, number>()
    const inputs = new Map<number, number>()
    let agreed = false
    const talk: BoardTalk = new BoardTalk(
      {
        changed: () => {},
        report: (_, slot, value) => inputs.set(slot, value),
        shown: (_, shown) => {
          agreed = shown.is === 'confirmed' && shown.batch === batch
          if (shown.is === 'differs') tell()
        },
        drawn: () => true,
      },
      { send: (b) => chip.receive(spoiled(b)), drop: () => talk.opened(), now: () => chip.now },
    )
    let batch = 0
    const tell = () =>
      talk.outputs(
        [...states].map(([slot, state]) => ({ slot, row: 0, state })),
        ++batch,
      )
    void chip.open({ received: (b) => talk.receive(spoiled(b)), closed: () => {} })
    talk.opened()
    for (let ms = 0; ms < 4000; ms += 10) {
      chip.run(10)
      talk.check(chip.now)
      if (ms % 500 === 0) {
        for (const slot of [3, 4, 5]) states.set(slot, Math.floor(random() * 256))
        chip.contact(2, random() < 0.5)
        if (talk.up) tell()
      }
    }
    faults = 0
    for (let ms = 0; ms < 3000; ms += 10) {
      chip.run(10)
      talk.check(chip.now)
    }
    expect(talk.up).toBe(true)
    expect(agreed).toBe(true)
    expect(chip.isHigh(8)).toBe((states.get(3) ?? 0) >= 128)
    expect((inputs.get(0) ?? 0) & 1).toBe(chip.isClosed(2) ? 1 : 0)
    expect(talk.bad + talk.badThere).toBeGreaterThan(5)
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

  it('says and hears everything as the link has it, with nothing loaded', async () => {
    const chip = new Chip('atmega2560')
    const findings = new Findings()
    await checkBoard(chip.open, findings, chip.clock)
    expect(findings.list.filter((f) => f.verdict === 'wrong' || f.verdict === 'missing')).toEqual([])
    expect(chip.spare).toBeGreaterThan(1000)
  })

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
