import type { Nature } from '../../core/aspects/nature'
import type { Chip } from '../../core/harness/chip'
import { type DrivenSlot, fingerprint } from '../../core/harness/slot'
import type { Micros } from '../../core/units-of-measure'
import { hostEnd, PIECE_BYTES } from '../../links/board-link'
import { Core } from './core'
import { Hands } from './hands'
import { Pins } from './pins'

export interface BoardMemory {
  /** What it keeps without power, in base64. */
  readonly kept?: string
  /** What it was loaded with, of a board that was remembered in an earlier way, or is to begin with something. */
  readonly configuration?: readonly number[]
  readonly closed: readonly number[]
  /** Where its wipers stand, 0 to 1, by pin. */
  readonly wipers?: readonly (readonly [number, number])[]
  /** The chips that are soldered to it, and the slots that would drive what else is. */
  readonly chips?: readonly Chip[]
  readonly slots?: readonly DrivenSlot[]
}

/** From turn to turn of a board whose contacts bounce, of one whose levels are sampled, and how long a step may be that is so divided. */
const BOUNCING_US: Micros = 200
const ATTENDED_US: Micros = 500
const LONGEST_STEP_US: Micros = 25_000

/**
 * A microcontroller board: the boards' own program, and round it what is soldered to its pins. Hands close contacts to
 * ground, turn knobs and move wipers; chips, displays and motors hear what the program does to pins, and show it. What is
 * loaded, and its identity, it keeps.
 */
export class SimulatedBoard {
  readonly hands: Hands
  /** Its inputs are measured. */
  isAttended = false
  private readonly pins: Pins
  private readonly core: Core
  private connected = false
  private isOn = false
  private at: Micros = 0
  private kept = ''
  private keptIsOld = true

  constructor(
    readonly identity: string,
    readonly model: string,
    memory: BoardMemory | null,
    random: () => number,
    /** Bytes the board sends. */
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.hands = new Hands(random, memory?.closed ?? [], memory?.wipers ?? [])
    this.pins = new Pins(this.hands)
    this.pins.solder(memory?.chips ?? [], memory?.slots ?? [])
    const kept = memory?.kept === undefined ? null : new Uint8Array(Buffer.from(memory.kept, 'base64'))
    this.core = new Core(this.pins, {
      identity,
      model,
      kept: kept && trailing(kept),
      noise: () => (random() - 0.5) * 2,
      keeps: () => {
        this.keptIsOld = true
      },
    })
    if (memory?.configuration && memory.configuration.length > 0) this.fill(memory.configuration)
  }

  /** Power comes on with the first moment that it is told of. */
  private on(now: Micros): void {
    if (this.isOn) return
    this.isOn = true
    this.at = now
    this.say(this.core.begin(now))
  }

  /** Loads it over its own link, as a computer would. */
  private fill(configuration: readonly number[]): void {
    this.core.begin(0)
    const link = hostEnd()
    const bytes = Uint8Array.from(configuration)
    const print = fingerprint(bytes)
    const say = (m: Parameters<typeof link.encode>[0]) => {
      this.core.receive(link.encode(m).bytes, 0)
      this.core.step(0)
    }
    say({ say: 'load begin', length: bytes.length, fingerprint: print })
    for (let offset = 0; offset < bytes.length; offset += PIECE_BYTES)
      say({ say: 'load piece', offset, bytes: bytes.slice(offset, offset + PIECE_BYTES) })
    say({ say: 'load commit', fingerprint: print })
  }

  get memory(): BoardMemory {
    if (this.keptIsOld) {
      this.keptIsOld = false
      this.kept = Buffer.from(leading(this.core.kept)).toString('base64')
    }
    return {
      kept: this.kept,
      closed: this.hands.closedPins(),
      wipers: this.hands.wipers(),
      chips: this.pins.chips,
      slots: this.pins.slots,
    }
  }

  /** What is soldered to it now: its chips, and what else hangs on it, as the slots that would drive it. */
  solder(chips: readonly Chip[], slots: readonly DrivenSlot[]): void {
    if (JSON.stringify([chips, slots]) === JSON.stringify([this.pins.chips, this.pins.slots])) return
    this.pins.solder(chips, slots)
  }

  /** Power goes and comes back: what it kept stays, all else begins anew. The line may never notice. */
  restart(now: Micros): void {
    this.isOn = true
    this.at = Math.max(this.at, now)
    this.say(this.core.begin(this.at))
  }

  connect(now: Micros): void {
    this.connected = true
    this.on(now)
  }

  disconnect(): void {
    this.connected = false
  }

  private say(bytes: Uint8Array): void {
    if (this.connected && bytes.length > 0) this.send(bytes)
  }

  receive(bytes: Uint8Array, now: Micros): void {
    this.on(now)
    // Its own time goes on with its turns alone: what comes between two of them comes with the one before.
    this.say(this.core.receive(bytes, this.at))
  }

  /** Lets time pass: contacts settle, and the program has a turn. */
  step(now: Micros): void {
    this.on(now)
    // A real board looks thousands of times a second: this one does where there is something to be seen.
    const fine = this.hands.bounces ? BOUNCING_US : this.isAttended ? ATTENDED_US : null
    if (fine !== null)
      for (let t = Math.max(this.at, now - LONGEST_STEP_US) + fine; t < now; t += fine) this.turn(t)
    this.turn(now)
    this.hands.rest()
  }

  private turn(now: Micros): void {
    this.at = Math.max(this.at, now)
    this.hands.settle(now)
    this.say(this.core.step(this.at))
  }

  /** What some of what hangs on it is really like; tells from what time of its own on it is. */
  beLike(natures: readonly { readonly places: readonly number[]; readonly nature: Nature }[]): Micros {
    this.hands.beLike(natures)
    this.pins.beLike(natures)
    return this.at
  }

  /** Whether a hand is on it: contacts bounce, knobs turn, what changed is not settled yet. */
  get isTouched(): boolean {
    return this.isAttended || this.hands.moving
  }

  /** Whether a meter may read something else than when this was last asked. */
  looksOther(): boolean {
    const moved = this.pins.changed || this.hands.moving
    this.pins.changed = false
    return moved
  }

  /** What lights at each place, 0 to 255, as a meter there would show it. */
  get pinLevels(): ReadonlyMap<number, number> {
    return new Map(this.pins.lights())
  }

  /** What each display shows and where each needle stands, by its own place. */
  get shows(): ReadonlyMap<number, number | string> {
    return new Map(this.pins.shows())
  }
}

/** What is kept without the untouched end of its memory, and with it again. */
const leading = (kept: Uint8Array): Uint8Array => {
  let end = kept.length
  while (end > 0 && kept[end - 1] === 0xff) end--
  return kept.subarray(0, end)
}
const MOST_KEPT = 0x10000
const trailing = (kept: Uint8Array): Uint8Array => {
  const all = new Uint8Array(MOST_KEPT).fill(0xff)
  all.set(kept.subarray(0, MOST_KEPT))
  return all
}
