import { describe, expect, it } from 'vitest'
import type { Chip as ChipSettings } from '../src/core/harness/chip'
import type { Slot } from '../src/core/harness/slot'
import { encodeConfiguration } from '../src/core/harness/slot'
import { StateDigest } from '../src/links/state-digest'
import { mcp23017 } from '../src/standins/boards/soldered/mcp23017'
import { motorDriver4 } from '../src/standins/boards/soldered/motor-driver-4'
import { pca9685 } from '../src/standins/boards/soldered/pca9685'
import { tlc5940 } from '../src/standins/boards/soldered/tlc5940'
import { randomFrom } from '../src/standins/craft/world'
import { on } from './board-under-test'
import { beLike, loaded, shows } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

const at = (chip: number, channel: number): number => 256 * (chip + 1) + channel
const chip = (kind: string, pins: number[], chips = 1, address = 0): ChipSettings => ({
  ...{ kind, pins, chips, address },
})

/** What hangs on the channels of a soldered chip, in the hands of a test. */
const channels = () => {
  const closed = new Set<number>()
  return { closed, isClosed: (channel: number) => closed.has(channel), level: () => 0 }
}

describe('displays and motors', { timeout: LONG_MS }, () => {
  const digits: Slot = { kind: 'digits', pins: [2, 3, 4], driver: 'MAX7219', digits: 5, keep: false }
  const six: Slot = { kind: 'digits', pins: [5, 6], driver: 'TM1637', digits: 6, keep: true }
  const parallel: Slot = {
    ...{ kind: 'text', pins: [7, 8, 9, 10, 11, 12], columns: 16, rows: 2, address: 0, keep: false },
  }
  const bus: Slot = { kind: 'text', pins: [18, 19], columns: 16, rows: 2, address: 0x27, keep: false }

  it.each(on('atmega328p'))(
    'digits and texts show what they are told, each on its own lines, and go to their rest: %s',
    (board) => {
      const host = loaded({ chips: [], slots: [digits, six, parallel, bus] }, [], board)
      const { chip } = host
      host.say({ say: 'show', slot: 0, row: 0, text: 'f-1.2 9.' })
      host.say({ say: 'show', slot: 1, row: 0, text: '7AbCdE.5' })
      host.say({ say: 'show', slot: 2, row: 0, text: 'OIL 21\xb0 ~ ABCDEF' })
      host.say({ say: 'show', slot: 2, row: 1, text: 'second row, here' })
      host.say({ say: 'show', slot: 3, row: 1, text: 'BEHIND AN ADAPTE' })
      chip.run(250)
      expect(shows(digits)).toBe('f-1.2 9.')
      expect(shows(six)).toBe('7AbCdE.5')
      expect(shows(parallel)).toBe('OIL 21\xb0 ~ ABCDEF\nsecond row, here')
      expect(shows(bus)).toBe(`${' '.repeat(16)}\nBEHIND AN ADAPTE`)
      // What it shows, in the digest that it says, as the computer reckons it.
      const told = new StateDigest()
      told.put(0, 0, 'f-1.2 9.')
      told.put(1, 0, '7AbCdE.5')
      told.put(2, 0, 'OIL 21\xb0 ~ ABCDEF')
      told.put(2, 1, 'second row, here')
      told.put(3, 1, 'BEHIND AN ADAPTE')
      expect(host.until('heartbeat', 600)?.digest).toBe(told.value)
      host.quiet(true)
      chip.run(2000)
      expect(shows(digits)).toBe('0     ')
      expect(shows(six)).toBe('7AbCdE.5')
      expect(shows(parallel)).toBe(`${' '.repeat(16)}\n${' '.repeat(16)}`)
    },
  )

  it.each(on('atmega328p'))(
    'a strip gets every colour of every lamp, and the line loses no byte meanwhile: %s',
    (board) => {
      const strip: Slot = { kind: 'colour', pin: 6, lamps: 24, keep: false }
      const knob: Slot = { kind: 'encoder', pins: [2, 3] }
      const host = loaded({ chips: [], slots: [strip, knob] }, [], board)
      const state = (seed: number) =>
        `\0${Array.from({ length: 72 }, (_, i) => String.fromCharCode((i * 37 + seed * 11) & 255)).join('')}`
      for (let i = 1; i <= 40; i++) {
        host.say({ say: 'show', slot: 0, row: 0, text: state(i) })
        host.chip.run(12)
      }
      host.chip.run(20)
      expect(shows(strip)).toBe(state(40))
      expect(host.until('heartbeat', 600)).toMatchObject({ bad: 0 })
    },
  )

  it.each(on('atmega328p'))(
    'a gauge motor finds its stop, gains speed, and stands where it is told to: %s',
    (board) => {
      const needle: Slot = {
        ...{ kind: 'needle', pins: [4, 5, 6, 7], drive: 'four-wire', travelDeg: 60, degPerS: 200, rest: 150 },
      }
      const host = loaded({ chips: [], slots: [needle] }, [], board)
      host.chip.run(800)
      expect(shows(needle)).toBe(0)
      host.say({ say: 'outputs', outputs: [{ slot: 0, state: 450 }] })
      host.chip.run(60)
      const soon = Number(shows(needle))
      host.chip.run(60)
      const later = Number(shows(needle))
      // The second stretch is longer than the first: it gains speed.
      expect(later - soon).toBeGreaterThan(soon)
      host.chip.run(400)
      expect(shows(needle)).toBe(450)
      host.say({ say: 'outputs', outputs: [{ slot: 0, state: 9000 }] })
      host.chip.run(600)
      expect(shows(needle)).toBe(600)
      host.quiet(true)
      host.chip.run(2400)
      expect(shows(needle)).toBe(150)
    },
  )

  it.each(on('atmega328p'))(
    'a motor that is to gain speed gently takes longer, and stands as well: %s',
    (board) => {
      const moves = (gentle: number) => {
        const needle: Slot = {
          ...{
            kind: 'needle',
            pins: [4, 5, 6, 7],
            drive: 'four-wire',
            travelDeg: 60,
            degPerS: 200,
            gentle,
            rest: 0,
          },
        }
        const host = loaded({ chips: [], slots: [needle] }, [], board)
        host.chip.run(1200)
        host.say({ say: 'outputs', outputs: [{ slot: 0, state: 600 }] })
        host.chip.run(200)
        const soon = Number(shows(needle))
        host.chip.run(900)
        return { soon, stands: shows(needle) }
      }
      const [quick, gentle] = [moves(0), moves(5)]
      expect(gentle.soon).toBeLessThan(quick.soon - 20)
      // From standstill a hundred degrees a second are what it may begin with.
      expect(gentle.soon).toBeGreaterThan(170)
      expect([quick.stands, gentle.stands]).toEqual([600, 600])
    },
  )

  it('a motor stands where it was told to last, however gently it gains speed and whatever it was told on the way', () => {
    const random = randomFrom(41)
    for (const gentle of [0, 1, 2, 3, 7, 15])
      for (const hung of [false, true]) {
        const needle: Slot = {
          ...{ kind: 'needle', drive: 'four-wire', travelDeg: 300, degPerS: 200, gentle, rest: 0 },
          pins: hung ? [0, 1, 2, 3].map((c) => at(0, c)) : [4, 5, 6, 7],
        }
        const driver = chip('motor-driver-4', [14, 15, 16, 17, 18, 19, 2, 3, 8])
        const there = motorDriver4(driver, channels())
        const host = loaded(
          { chips: hung ? [driver] : [], slots: [needle] },
          hung ? [[driver, there]] : [],
          'WebAssembly',
        )
        host.chip.run(4000)
        for (let told = 0; told < 25; told++) {
          const state = Math.round(random() * 3000)
          host.say({ say: 'outputs', outputs: [{ slot: 0, state }] })
          // Most are told another before they are there.
          const isLast = told % 5 === 4
          host.chip.run(isLast ? 6000 : 100 + random() * 700)
          if (isLast)
            expect(Math.abs(Number(shows(needle)) - state), `${gentle} ${hung}`).toBeLessThanOrEqual(2)
        }
      }
  })

  it.each(on('atmega328p'))(
    'a motor without a stop looks for its sensor, comes to it from above, and gives up where it never sees it: %s',
    (board) => {
      const needle: Slot = {
        ...{
          kind: 'needle',
          pins: [4, 5, 6, 7, 8],
          drive: 'four-wire',
          travelDeg: 400,
          degPerS: 200,
          rest: 0,
        },
      }
      const home: Slot = { kind: 'contacts', pins: [8], debounceMs: 5 }
      const holds = { chips: [], slots: [needle, home] }
      const host = loaded(holds, [], board)
      // It stood somewhere: a hundred degrees a second, until the vane is seen, which reaches for eight degrees; its zero is in the
      // middle of that.
      host.chip.run(700)
      expect(Number(shows(needle))).toBeGreaterThan(500)
      host.chip.run(900)
      const zero = Number(shows(needle))
      expect(zero).toBeGreaterThan(30)
      expect(zero).toBeLessThan(45)
      expect(host.reports(1).at(-1)).toBe(1)
      // More than a turn on, and back.
      host.say({ say: 'outputs', outputs: [{ slot: 0, state: 3900 }] })
      host.chip.run(3000)
      expect(shows(needle)).toBe(zero + 3900)
      expect(host.reports(1).at(-1)).toBe(0)
      host.say({ say: 'outputs', outputs: [{ slot: 0, state: 0 }] })
      host.chip.run(3000)
      expect(shows(needle)).toBe(zero)
      // Power comes on while its sensor sees it: it leaves, and comes back to the same place.
      expect(host.load(encodeConfiguration(holds))).toBe('')
      host.chip.run(1500)
      expect(Math.abs(Number(shows(needle)) - zero)).toBeLessThan(8)
      expect(host.reports(1).at(-1)).toBe(1)
      // A sensor that is blind: it turns through all of its travel and a turn, and stands.
      beLike(needle, { kind: 'needle', blind: true })
      expect(host.load(encodeConfiguration(holds))).toBe('')
      host.chip.run(8000)
      const stands = shows(needle)
      host.chip.run(1500)
      expect(shows(needle)).toBe(stands)
      host.say({ say: 'outputs', outputs: [{ slot: 0, state: 900 }] })
      host.chip.run(1500)
      expect(Number(shows(needle))).toBe(Number(stands) + 900)
    },
  )

  it.each(on('atmega2560'))('servos and an instrument that counts pulses have a timer each: %s', (board) => {
    const servo = (pin: number): Slot => ({
      ...{ kind: 'needle', pins: [pin], drive: 'servo', travelDeg: 180, degPerS: 2000, rest: 'keep' },
    })
    const counter: Slot = {
      ...{ kind: 'needle', pins: [5], drive: 'frequency', travelDeg: 270, degPerS: 20_000, rest: 0 },
    }
    const left = servo(20)
    const right = servo(33)
    const host = loaded({ chips: [], slots: [left, right, counter] }, [], board)
    host.say({
      say: 'outputs',
      outputs: [
        { slot: 0, state: 450 },
        { slot: 1, state: 1800 },
        { slot: 2, state: 1350 },
      ],
    })
    host.chip.run(300)
    expect(Math.abs(Number(shows(left)) - 450)).toBeLessThan(6)
    expect(Math.abs(Number(shows(right)) - 1800)).toBeLessThan(6)
    // Ten kilohertz: half of the way.
    expect(Math.abs(Number(shows(counter)) - 1350)).toBeLessThan(4)
    for (const [state, hertz] of [
      [27, 200],
      [3, 22],
      [2700, 20_000],
    ] as const) {
      host.say({ say: 'outputs', outputs: [{ slot: 2, state }] })
      host.chip.run(150)
      expect(Math.abs((Number(shows(counter)) / 2700) * 20_000 - hertz)).toBeLessThan(8 + hertz / 100)
    }
  })
})

describe.each(on('atmega328p'))('chips on the two-wire bus of %s', { timeout: LONG_MS }, (board) => {
  it('an MCP23017 reads contacts and lights lamps; one that loses its current is right again', () => {
    const settings = chip('mcp23017', [18, 19], 1, 0x21)
    const hangs = channels()
    let there = mcp23017(settings, hangs)
    const front = {
      twoWire: {
        address: 0x21,
        write: (b: readonly number[]) => there.twoWire?.write(b),
        read: (n: number) => there.twoWire?.read(n) ?? [],
      },
    }
    const host = loaded(
      {
        chips: [settings],
        slots: [
          { kind: 'contacts', pins: [at(0, 3), at(0, 12)], debounceMs: 5 },
          { kind: 'lamp', pin: at(0, 7), sinks: false, rest: 0 },
        ],
      },
      [[settings, front]],
      board,
    )
    hangs.closed.add(12)
    host.say({ say: 'outputs', outputs: [{ slot: 1, state: 255 }] })
    host.chip.run(40)
    expect(host.reports(0)).toEqual([2])
    expect(there.lights?.()[7]).toBe(255)
    there = mcp23017(settings, hangs)
    host.chip.run(300)
    expect(there.lights?.()[7]).toBe(255)
    expect(host.reports(0).at(-1)).toBe(2)
  })

  it('a PCA9685 gives shares of brightness; with a servo on it, pulses', () => {
    const settings = chip('pca9685', [18, 19], 1, 0x40)
    const there = pca9685(settings, channels())
    const servo: Slot = {
      ...{ kind: 'needle', pins: [at(0, 9)], drive: 'servo', travelDeg: 180, degPerS: 2000, rest: 0 },
    }
    const host = loaded(
      { chips: [settings], slots: [{ kind: 'lamp', pin: at(0, 2), sinks: false, rest: 0 }, servo] },
      [[settings, there]],
      board,
    )
    host.say({
      say: 'outputs',
      outputs: [
        { slot: 0, state: 100 },
        { slot: 1, state: 900 },
      ],
    })
    host.chip.run(200)
    expect(there.lights?.()[2]).toBe(100)
    // A count of the chip is 5 µs long, a quarter of a degree and more.
    expect(Math.abs(Number(shows(servo)) - 900)).toBeLessThan(8)
  })

  it('nobody at an address keeps nothing from going on', () => {
    const settings = chip('mcp23017', [18, 19], 1, 0x21)
    const host = loaded(
      {
        chips: [settings],
        slots: [
          { kind: 'contacts', pins: [2], debounceMs: 5 },
          { kind: 'contacts', pins: [at(0, 3)], debounceMs: 5 },
        ],
      },
      [],
      board,
    )
    host.chip.contact(2, true)
    host.chip.run(40)
    expect(host.reports(0)).toEqual([1])
    expect(host.reports(1)).toEqual([])
  })
})

describe('what the demo hangs on its boards', { timeout: LONG_MS }, () => {
  it.each(on('atmega328p'))(
    'a chain of TLC5940: every lamp as bright as it is told, and the brightness clock runs: %s',
    (board) => {
      const settings = chip('tlc5940', [11, 12, 13, 6, 3], 2)
      const there = tlc5940(settings, channels())
      const slots: Slot[] = Array.from({ length: 32 }, (_, c) => ({
        ...{ kind: 'lamp' as const, pin: at(0, c), sinks: true, rest: 0 as const },
      }))
      const host = loaded({ chips: [settings], slots }, [[settings, there]], board)
      const levels = slots.map((_, i) => (i * 8 + 3) & 255)
      for (const from of [0, 16])
        host.say({
          say: 'outputs',
          outputs: levels.slice(from, from + 16).map((state, i) => ({ slot: from + i, state })),
        })
      host.chip.run(30)
      expect(there.lights?.()).toEqual(levels)
    },
  )

  it.each(on('atmega2560'))('gauge motors behind an X12.017, four at once: %s', (board) => {
    const settings = chip('motor-driver-4', [38, 36, 34, 32, 30, 28, 26, 24, 22])
    const there = motorDriver4(settings, channels())
    const needles = [0, 1, 2, 3].map(
      (m): Slot => ({
        ...{ kind: 'needle', drive: 'four-wire', travelDeg: 90, degPerS: 160, rest: 0 },
        pins: [0, 1, 2, 3].map((k) => at(0, 4 * m + k)),
      }),
    )
    const host = loaded({ chips: [settings], slots: needles }, [[settings, there]], board)
    host.chip.run(1200)
    expect(needles.map(shows)).toEqual([0, 0, 0, 0])
    host.say({ say: 'outputs', outputs: [100, 900, 450, 9000].map((state, slot) => ({ slot, state })) })
    host.chip.run(1200)
    expect(needles.map(shows)).toEqual([100, 900, 450, 900])
  })
})
