import { describe, expect, it } from 'vitest'
import { encodeConfiguration, fingerprint } from '../src/core/harness/slot'
import { randomFrom } from '../src/standins/craft/world'
import { newBoard, on } from './board-under-test'
import { everyday, Host, loaded } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

describe.each(on('atmega328p'))('the program on %s', { timeout: LONG_MS }, (board) => {
  it('tells a press once, however its contact bounces, and when it was still for its time', () => {
    const host = loaded(everyday, [], board)
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
    const host = loaded(everyday, [], board)
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
    const host = loaded(everyday, [], board)
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
    const host = loaded(everyday, [], board)
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
    const host = loaded(everyday, [], board)
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
    const host = loaded(everyday, [], board)
    const hello = () => host.ask({ say: 'hello' }, 'hello', 1500)
    const before = hello()
    host.chip.cutPower()
    host.chip.run(50)
    const after = hello()
    expect(after).toMatchObject({
      identity: before?.identity,
      fingerprint: fingerprint(encodeConfiguration(everyday)),
    })
    expect(after?.boot).toBe((before?.boot ?? 0) + 1)
    // Another chip has another.
    const other = new Host(newBoard(board))
    other.chip.wiper(15, 0.31)
    other.chip.run(300)
    expect(other.ask({ say: 'hello' }, 'hello')?.identity).not.toBe(before?.identity)
  })
})
