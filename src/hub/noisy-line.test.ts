import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue, control, craft, digits, lamp, smallRig, V } from '../../tests/rigs'
import { agreement } from '../core/engine/agreement'
import { Engine } from '../core/engine/engine'
import type { Effect, Input } from '../core/engine/input'
import { wantedConfiguration } from '../core/harness/configuration'
import { encodeConfiguration, isDriven } from '../core/harness/slot'
import { boardEnd } from '../links/board-link'
import { SimulatedBoard } from '../standins/boards/simulated-board'
import { randomFrom } from '../standins/craft/world'
import { BoardTalk } from './board-talk'

const rig = smallRig({
  lever: control(),
  button: control({ when: 'press', value: null, actions: [{ do: 'event', event: 'horn.cancel' }] }),
  lamp: lamp(),
  window: digits(),
})

interface Faults {
  readonly damage: number
  readonly drop: number
  readonly double: number
  readonly delayMs: number
}
const quiet: Faults = { damage: 0, drop: 0, double: 0, delayMs: 0 }

/** One direction of a line that does to frames what lines do: it never changes their order. */
class NoisyLine {
  private readonly onTheirWay: { at: number; bytes: Uint8Array }[] = []
  faults = quiet

  constructor(private readonly random: () => number) {}

  put(bytes: Uint8Array, now: number): void {
    const { damage, drop, double, delayMs } = this.faults
    if (this.random() < drop) return
    const sent = Uint8Array.from(bytes)
    if (this.random() < damage) {
      const at = Math.floor(this.random() * sent.length)
      sent[at] = (sent[at] as number) ^ (1 << Math.floor(this.random() * 8))
    }
    const last = this.onTheirWay.at(-1)?.at ?? 0
    const at = Math.max(last, now + this.random() * delayMs)
    for (let i = this.random() < double ? 2 : 1; i > 0; i--) this.onTheirWay.push({ at, bytes: sent })
  }

  take(now: number): Uint8Array[] {
    const there = this.onTheirWay.findIndex((x) => x.at > now)
    return this.onTheirWay.splice(0, there < 0 ? this.onTheirWay.length : there).map((x) => x.bytes)
  }
}

/** Engine, link and a simulated board with a noisy line between them, on one clock in milliseconds. */
class World {
  now = 1000
  readonly engine = new Engine()
  readonly talk: BoardTalk
  readonly board: SimulatedBoard
  readonly toBoard: NoisyLine
  readonly fromBoard: NoisyLine
  readonly events: number[] = []
  /** What the board is told, as whoever listens in on the line hears it before anything happens to it. */
  readonly said: string[] = []
  private readonly overheard = boardEnd()
  /** What the board has noted of what is probed. */
  readonly noted: { readonly slot: number; readonly value: number }[] = []
  /** Whether the board ever counted as gone. */
  lost = false
  /** Until when the computer's process is kept from running. */
  stoppedUntil = 0

  constructor(seed: number) {
    const random = randomFrom(seed)
    const wanted = wantedConfiguration(rig, 'board')
    this.toBoard = new NoisyLine(random)
    this.fromBoard = new NoisyLine(random)
    this.board = new SimulatedBoard(
      '00112233445566aa',
      'ATmega2560 board',
      {
        configuration: [...encodeConfiguration(wanted)],
        closed: [],
        slots: wanted.slots.filter(isDriven),
      },
      random,
      (bytes) => this.fromBoard.put(bytes, this.now),
    )
    const talk: BoardTalk = new BoardTalk(
      {
        changed: () => {
          const b = talk
          if (!b.up) this.lost = true
          this.step({
            is: 'board',
            boardId: 'board',
            up: b.up,
            loaded: b.holds,
            boot: b.boot ?? 0,
            bytesPerS: b.limits?.bytesPerS ?? 0,
          })
        },
        report: (_, slot, value) => this.step({ is: 'report', boardId: 'board', slot, value }),
        shown: (_, shown) => this.step({ is: 'shown', boardId: 'board', shown }),
        noted: (_, notes) => this.noted.push(...notes),
        drawn: () => true,
      },
      {
        send: (bytes) => {
          for (const { message } of this.overheard.decode(bytes)) this.said.push(message.say)
          this.toBoard.put(bytes, this.now)
        },
        drop: () => this.plug(),
        now: () => this.now,
      },
    )
    this.talk = talk
    this.step({ is: 'sources', sources: [craft(catalogue)] })
    this.step({ is: 'rig', rig, diff: null })
    this.step({ is: 'arm', armed: true })
    this.frame({ [V.gear]: 0, [V.volts]: 28, [V.lever]: 0, [V.height]: 100 })
    this.step({ is: 'source', source: 'craft', up: true })
    this.plug()
  }

  plug(): void {
    this.talk.lost('unplugged')
    this.board.connect(this.now * 1000)
    this.talk.opened()
  }

  set faults(faults: Faults) {
    this.toBoard.faults = faults
    this.fromBoard.faults = faults
  }

  step(input: Input): void {
    this.carryOut(this.engine.step(input, this.now))
  }

  private carryOut(effects: readonly Effect[]): void {
    for (const e of effects) {
      if (e.is === 'output') this.talk.outputs(e.outputs, e.batch)
      if (e.is === 'event') this.events.push(this.now)
      if (e.is === 'set' || e.is === 'event') this.step({ is: 'answer', request: e.request, problem: null })
      if (e.is === 'set') this.frame({ [e.variable]: e.value as number })
    }
  }

  frame(values: Readonly<Record<number, number>>): void {
    this.step({
      is: 'frame',
      source: 'craft',
      indexes: Object.keys(values).map(Number),
      values: Object.values(values),
    })
  }

  run(ms: number, each: (ms: number) => void = () => {}): this {
    for (let i = 0; i < ms; i += 2) {
      this.now += 2
      each(i)
      for (const bytes of this.toBoard.take(this.now)) this.board.receive(bytes, this.now * 1000)
      this.board.step(this.now * 1000)
      if (this.now < this.stoppedUntil) continue
      for (const bytes of this.fromBoard.take(this.now)) this.talk.receive(bytes)
      if (i % 100 === 0) this.talk.check(this.now)
      this.step({ is: 'time' })
    }
    return this
  }

  press(down: boolean): void {
    this.board.hands.moveContact(pinOf('button'), down, this.now * 1000)
  }

  /** What differs between what is wanted and what is so, with nothing on its way any more. */
  differences(): string[] {
    const found: string[] = []
    const unit = (id: string) => this.engine.units.get(id)
    const lampPin = pinOf('lamp')
    if (this.board.pinLevels.get(lampPin) !== unit('lamp')?.indicators[0]?.shown)
      found.push(`lamp ${this.board.pinLevels.get(lampPin)} for ${unit('lamp')?.indicators[0]?.shown}`)
    const shows = [...this.board.shows.values()]
    if (!shows.includes(unit('window')?.indicators[0]?.shown as string))
      found.push(`window ${shows} for ${unit('window')?.indicators[0]?.shown}`)
    const down = this.board.hands.isClosed(pinOf('button'))
    if ((unit('button')?.controls[0]?.position === 'pressed') !== down) found.push('button')
    for (const [id, u] of this.engine.units) {
      const { agrees } = agreement(this.engine, u)
      if (u.indicators.length > 0 && agrees !== true) found.push(`${id} agrees ${agrees}`)
    }
    return found
  }
}

const pinOf = (partId: string): number => {
  const unit = new Engine()
  unit.step({ is: 'rig', rig, diff: null }, 0)
  const seat = [...(unit.units.get(partId)?.controls ?? []), ...(unit.units.get(partId)?.indicators ?? [])][0]
  const wiring = seat?.wiring
  if (!wiring || !('slot' in wiring)) throw new Error(`${partId} hangs nowhere`)
  return 'pin' in wiring.slot ? wiring.slot.pin : (wiring.slot.pins[0] as number)
}

const share = fc.double({ min: 0, max: 0.15, noNaN: true })
const anyFaults: fc.Arbitrary<Faults> = fc.record({
  damage: share,
  drop: share,
  double: share,
  delayMs: fc.integer({ min: 0, max: 60 }),
})

describe('a noisy line', () => {
  it('ends in agreement, whatever it damages, drops, doubles and delays in both directions', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), anyFaults, (seed, faults) => {
        const world = new World(seed).run(600)
        const random = randomFrom(seed + 1)
        world.faults = faults
        world.run(40_000, (ms) => {
          if (ms % 400 === 0)
            world.frame({ [V.gear]: Math.round(random()), [V.height]: Math.floor(random() * 9999) })
          if (ms % 900 === 0) world.press(random() < 0.5)
          if (random() < 0.0002) world.board.restart(world.now * 1000)
          if (random() < 0.0002) world.stoppedUntil = world.now + 2600
        })
        world.faults = quiet
        expect(world.run(4000).differences()).toEqual([])
      }),
      { numRuns: 25 },
    )
  })

  it('loses no short press: it comes late rather than never', () => {
    let whole = 0
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), anyFaults, (seed, faults) => {
        const world = new World(seed).run(600)
        world.faults = { ...faults, delayMs: Math.min(20, faults.delayMs) }
        let presses = 0
        world.run(20_000, (ms) => {
          if (ms % 500 === 0) {
            world.press(true)
            presses++
          }
          if (ms % 500 === 60) world.press(false)
        })
        world.faults = quiet
        world.run(2000)
        // A line so bad that the board counts as gone for a moment may cost what was pressed meanwhile.
        if (world.lost) return
        whole++
        expect(world.events).toHaveLength(presses)
      }),
      { numRuns: 30 },
    )
    expect(whole).toBeGreaterThan(15)
  })

  /** Whether a press is noted of the button, which is measured, now that the line is quiet. */
  const isNoted = (world: World): boolean => {
    world.press(false)
    world.run(300)
    world.noted.length = 0
    world.press(true)
    world.run(300)
    const slot = world.engine.units.get('button')?.controls[0]?.slot
    return world.noted.some((n) => n.slot === slot && n.value === 1)
  }
  const measured = (seed: number): World => {
    const world = new World(seed).run(600)
    world.talk.probe(world.engine.units.get('button')?.controls[0]?.slot ?? -1)
    return world.run(200)
  }

  it('leaves what is measured measured, whatever it does and however long the computer stands still', () => {
    const world = measured(3)
    expect(isNoted(world)).toBe(true)
    // The board is at rest by then, and the line was never cut.
    world.stoppedUntil = world.now + 2600
    world.run(4000)
    expect(world.lost).toBe(false)
    expect(isNoted(world)).toBe(true)
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), anyFaults, (seed, faults) => {
        const noisy = measured(seed)
        const random = randomFrom(seed + 1)
        noisy.faults = faults
        noisy.run(15_000, () => {
          if (random() < 0.0003) noisy.board.restart(noisy.now * 1000)
          if (random() < 0.0003) noisy.stoppedUntil = noisy.now + 2600
        })
        noisy.faults = quiet
        expect(isNoted(noisy.run(3000))).toBe(true)
      }),
      { numRuns: 20 },
    )
  })

  it('asks for no notes while a board is loaded, though it was damaged what was said: they lie where the pieces come', async () => {
    const world = measured(5)
    world.faults = { ...quiet, damage: 1 }
    const asked = world.talk.load(wantedConfiguration(rig, 'board'))
    const before = world.said.length
    for (let ms = 0; ms < 1200; ms += 10) {
      world.toBoard.faults = { ...quiet, damage: 1 }
      world.fromBoard.faults = quiet
      world.run(10)
      await Promise.resolve()
    }
    expect(world.said.slice(before)).toContain('load begin')
    expect(world.said.slice(before)).not.toContain('probe')
    world.faults = quiet
    for (let ms = 0; ms < 4000; ms += 10) {
      world.run(10)
      await Promise.resolve()
      await Promise.resolve()
    }
    expect(await asked).toBeNull()
    expect(isNoted(world)).toBe(true)
  })

  it.each([
    ['was loaded', true, 0, 'toBoard'],
    ['was loaded, though the line was cut for a while', true, 1200, 'toBoard'],
    ['was not loaded, since the line was cut for so long that it rested', false, 5000, 'toBoard'],
    ['was not loaded, since its answers were lost', false, 2100, 'fromBoard'],
  ] as const)('has what is measured measured again once its board %s', async (_, isLoaded, cutFor, way) => {
    const world = measured(5)
    const asked = world.talk.load(wantedConfiguration(rig, 'board'))
    for (let ms = 0; ms < 8000 + cutFor; ms += 10) {
      world[way].faults = { ...quiet, drop: ms < cutFor ? 1 : 0 }
      world.run(10)
      await Promise.resolve()
      await Promise.resolve()
    }
    expect((await asked) === null).toBe(isLoaded)
    expect(isNoted(world)).toBe(true)
  })

  it('does not hide a board that starts again without a word', () => {
    const world = new World(7).run(1000)
    world.frame({ [V.gear]: 1 })
    world.run(500)
    // Its hello is lost.
    world.faults = { ...quiet, drop: 1 }
    world.board.restart(world.now * 1000)
    world.run(4)
    world.faults = quiet
    world.run(1200)
    expect(world.differences()).toEqual([])
    world.press(true)
    world.run(100)
    expect(world.events).toHaveLength(1)
  })

  it('is not taken for agreement while the board has not said that it shows what it was told', () => {
    const world = new World(7).run(1000)
    world.toBoard.faults = { ...quiet, drop: 1 }
    world.frame({ [V.gear]: 1 })
    const lampUnit = world.engine.units.get('lamp')
    if (!lampUnit) throw new Error('no lamp')
    world.run(900)
    expect(agreement(world.engine, lampUnit)).toMatchObject({ agrees: null, waitsFor: 'Test board' })
    world.toBoard.faults = quiet
    world.run(400)
    expect(agreement(world.engine, lampUnit)).toMatchObject({ agrees: true, waitsFor: null })
  })
})
