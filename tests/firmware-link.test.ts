import { describe, expect, it } from 'vitest'
import { checkBoard } from '../src/check/board'
import { Findings } from '../src/check/findings'
import { jointOf } from '../src/check/joints'
import { encodeConfiguration, fingerprint, type Slot } from '../src/core/harness/slot'
import { BoardTalk } from '../src/hub/board-talk'
import { randomFrom } from '../src/standins/craft/world'
import { newBoard, on } from './board-under-test'
import { Chip } from './chip'
import { everyday, Host, loaded, shows } from './firmware-host'

/** An emulated chip needs as long as it needs: on a loaded machine several times what it does alone. */
const LONG_MS = 300_000

describe.each(on('atmega328p'))('the link of %s', { timeout: LONG_MS }, (board) => {
  it('says and hears everything as the link has it, with something loaded', async () => {
    const same = newBoard(board, loaded(everyday, [], board).chip.memory)
    const held = new Findings()
    await checkBoard(same.open, held, same.clock)
    expect(held.list.filter((f) => f.verdict !== 'right')).toEqual([])
  })

  it('is asked by hand what all its displays, strips and needles show', async () => {
    const digits: Slot = { kind: 'digits', pins: [2, 3, 4], driver: 'MAX7219', digits: 5, keep: false }
    const text: Slot = { kind: 'text', pins: [18, 19], columns: 16, rows: 2, address: 0x27, keep: false }
    const strip: Slot = { kind: 'colour', pin: 6, lamps: 6, keep: false }
    const needle: Slot = {
      ...{ kind: 'needle', pins: [7, 8, 9, 10], drive: 'four-wire', travelDeg: 60, degPerS: 200, rest: 0 },
    }
    const holds = { chips: [], slots: [digits, text, strip, needle] }
    const host = loaded(holds, [], board)
    host.quiet(true)
    const findings = new Findings()
    const seen: unknown[] = []
    // Looked at while it is shown: right after each is confirmed, before the next.
    const told = findings.judge.bind(findings)
    findings.judge = (what, problem, detail) => {
      if (/show is confirmed/.test(what)) {
        host.chip.run(900)
        seen.push(
          shows(
            { 'what digits': digits, 'what texts': text, 'what strips': strip, 'what needles': needle }[
              what.split(' ').slice(0, 2).join(' ')
            ] as Slot,
          ),
        )
      }
      told(what, problem, detail)
    }
    await checkBoard(host.chip.open, findings, host.chip.clock)
    expect(findings.list.filter((f) => f.verdict === 'wrong' || f.verdict === 'missing')).toEqual([])
    expect(seen).toEqual([
      'f12345',
      `${'Row 1 of 2'.padEnd(16)}\n${'Row 2 of 2'.padEnd(16)}`,
      `\0${'\x40\0\0\0\x40\0\0\0\x40'.repeat(2)}`,
      300,
    ])
  })

  it('drives and watches pins that are joined by wires, and counts the steps of an encoder', async () => {
    const chip = newBoard(board, loaded(everyday, [], board).chip.memory)
    const wire = (out: number, watch: number) =>
      chip.solder([out], { driven: (_, high) => chip.contact(watch, !high) })
    wire(8, 2)
    wire(9, 3)
    const findings = new Findings()
    const joints = [jointOf('8:2'), jointOf('9:3')].filter((j) => j !== null)
    await checkBoard(chip.open, findings, chip.clock, joints)
    expect(findings.list.filter((f) => f.verdict !== 'right')).toEqual([])
    expect(findings.list.map((f) => f.what)).toContain('an encoder on pins 2 and 3 loses no step')
    // A wire that is off is told by its pins.
    const loose = new Findings()
    await checkBoard(chip.open, loose, chip.clock, [{ out: 8, watch: 4 }])
    expect(loose.list.flatMap((f) => (f.verdict === 'wrong' ? [f.detail] : []))).toEqual([
      'pin 4 did not close when pin 8 went low',
    ])
    const held = new Host(chip).ask({ say: 'hello' }, 'hello')
    expect(held?.fingerprint).toBe(fingerprint(encodeConfiguration(everyday)))
  })

  it('comes to agree over a line that damages, drops and doubles, both ways', () => {
    const chip = newBoard(board, loaded(everyday, [], board).chip.memory)
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
})

describe('the link of atmega2560', { timeout: LONG_MS }, () => {
  it('says and hears everything as the link has it, with nothing loaded', async () => {
    const chip = new Chip('atmega2560')
    const findings = new Findings()
    await checkBoard(chip.open, findings, chip.clock)
    expect(findings.list.filter((f) => f.verdict === 'wrong' || f.verdict === 'missing')).toEqual([])
    expect(chip.spare).toBeGreaterThan(1000)
  })
})
