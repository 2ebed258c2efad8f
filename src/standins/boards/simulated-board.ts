import { type Chip, channelOf, type Place } from '../../core/harness/chip'
import {
  BLANK,
  type Configuration,
  decodeConfiguration,
  emptyConfiguration,
  encodeConfiguration,
  fingerprint,
  ownPlace,
} from '../../core/harness/slot'
import type { Micros } from '../../core/units-of-measure'
import { boardEnd, type FromBoard, PIECE_BYTES, type ToBoard } from '../../links/board-link'
import type { ChipDriver } from './drivers/chip-driver'
import { driversFor } from './drivers/drivers'
import { Hands } from './hands'
import { type Readings, watcherFor } from './inputs'
import { Outputs } from './outputs'
import { Pins } from './pins'

/** Without a word from the computer for this long, lamps go to their rest state. */
const SILENCE_US = 1_500_000
const HEARTBEAT_US = 250_000

export interface BoardMemory {
  readonly configuration: number[]
  readonly closed: number[]
  /** Where its wipers stand, 0 to 1, by pin. */
  readonly wipers?: readonly (readonly [number, number])[]
  /** The chips that are soldered to it. */
  readonly chips?: readonly Chip[]
}

/**
 * A microcontroller board at the level of its pins. Hands close contacts to ground, turn knobs and move wipers; the
 * board scans its pins, decodes and reports; outputs become levels on pins, digits, text, needles that turn. What is
 * loaded, and its identity, it keeps.
 */
export class SimulatedBoard {
  private configuration: Uint8Array
  private holds: Configuration = emptyConfiguration
  private drivers: ChipDriver[] = []
  private watched: ReturnType<typeof watcherFor>[] = []
  private outputs = Outputs.none
  readonly hands: Hands
  private readonly pins: Pins
  private link = boardEnd()
  private started = false
  private connected = false
  private heardAt: Micros = 0
  private heartbeatAt: Micros = 0
  private loading: { bytes: Uint8Array; fingerprint: string } | null = null

  constructor(
    readonly identity: string,
    readonly model: string,
    memory: BoardMemory | null,
    private readonly random: () => number,
    /** Bytes the board sends. */
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.configuration = Uint8Array.from(memory?.configuration ?? [])
    this.hands = new Hands(random, memory?.closed ?? [], memory?.wipers ?? [])
    this.pins = new Pins(this.hands)
    this.pins.solder(memory?.chips ?? [])
    this.install()
  }

  get memory(): BoardMemory {
    return {
      configuration: [...this.configuration],
      closed: this.hands.closedPins(),
      wipers: this.hands.wipers(),
      chips: this.pins.chips,
    }
  }

  /** What is soldered to it now. */
  solder(chips: readonly Chip[]): void {
    if (JSON.stringify(chips) === JSON.stringify(this.pins.chips)) return
    this.pins.solder(chips)
    // A chip that comes on anew is told everything anew.
    this.drivers = driversFor(this.holds, this.pins)
  }

  /** What its program reads: pins of its own, and channels as its chip drivers found them. */
  private readonly readings: Readings = {
    isClosed: (place: Place) => {
      const at = channelOf(place)
      return at ? (this.drivers[at.chip]?.isClosed?.(at.channel) ?? false) : this.pins.isLow(place)
    },
    levelOf: (place: Place) => {
      const at = channelOf(place)
      return at ? (this.drivers[at.chip]?.levelOf?.(at.channel) ?? 0) : this.pins.levelOf(place)
    },
  }

  private install(): void {
    const decoded =
      this.configuration.length > 0 ? decodeConfiguration(this.configuration) : emptyConfiguration
    this.holds = 'slots' in decoded ? decoded : emptyConfiguration
    this.drivers = driversFor(this.holds, this.pins)
    this.watched = this.holds.slots.map((slot) => watcherFor(slot, this.readings, this.random))
    this.outputs = new Outputs(
      this.holds,
      (chip) => this.drivers[chip],
      (chip) => this.pins.chipLike(chip),
      this.outputs,
    )
  }

  connect(now: Micros): void {
    this.link = boardEnd()
    this.started = false
    this.loading = null
    this.connected = true
    this.heardAt = now
    this.heartbeatAt = now
    this.say({ say: 'hello', ...this.about() })
  }

  disconnect(): void {
    this.connected = false
    this.loading = null
  }

  private about() {
    const blank = this.configuration.length === 0
    return {
      identity: this.identity,
      model: this.model,
      fingerprint: blank ? BLANK : fingerprint(this.configuration),
      length: this.configuration.length,
    }
  }

  private say(message: FromBoard): void {
    if (this.connected) this.send(this.link.encode(message).bytes)
  }

  receive(bytes: Uint8Array, now: Micros): void {
    for (const { message, sequence } of this.link.decode(bytes)) {
      this.heardAt = now
      this.obey(message, sequence, now)
    }
  }

  private obey(m: ToBoard, sequence: number, now: Micros): void {
    const answer = (problem: string | null) => this.say({ say: 'answer', to: sequence, problem })
    switch (m.say) {
      case 'hello':
        this.say({ say: 'hello', ...this.about() })
        break
      case 'start':
        this.started = true
        this.scan(now, true)
        break
      case 'outputs':
        for (const { slot, state } of m.outputs) this.outputs.take(slot, 0, state)
        break
      case 'show':
        this.outputs.take(m.slot, m.row, m.text)
        break
      case 'load begin':
        this.loading = { bytes: new Uint8Array(m.length), fingerprint: m.fingerprint }
        answer(null)
        break
      case 'load piece':
        if (!this.loading) answer('nothing is being loaded')
        else if (m.offset + m.bytes.length > this.loading.bytes.length) answer('a piece beyond the end')
        else {
          this.loading.bytes.set(m.bytes, m.offset)
          answer(null)
        }
        break
      case 'load commit':
        answer(this.commit())
        break
      case 'read': {
        const bytes = this.configuration.slice(m.offset, m.offset + PIECE_BYTES)
        this.say({ say: 'piece', offset: m.offset, total: this.configuration.length, bytes })
        break
      }
      case 'heartbeat':
        break
    }
  }

  /** Takes the new configuration whole or leaves the old one as it was. */
  private commit(): string | null {
    const { loading } = this
    this.loading = null
    if (!loading) return 'nothing is being loaded'
    if (fingerprint(loading.bytes) !== loading.fingerprint)
      return 'the pieces do not match the fingerprint; the old configuration stays'
    const decoded = decodeConfiguration(loading.bytes)
    if ('problem' in decoded) return decoded.problem
    this.configuration = encodeConfiguration(decoded)
    this.install()
    this.started = false
    return null
  }

  /** Lets time pass: contacts settle, pins are scanned, lamps blink, needles turn, heartbeats go out. */
  step(now: Micros): void {
    this.hands.settle(now)
    for (const driver of this.drivers) driver.scan?.()
    if (this.connected && this.started) this.scan(now, false)
    if (this.connected && now - this.heartbeatAt >= HEARTBEAT_US) {
      this.heartbeatAt = now
      this.say({ say: 'heartbeat', micros: now >>> 0, bad: Math.min(65535, this.link.bad) })
    }
    this.outputs.step(now, !this.connected || now - this.heardAt > SILENCE_US)
    for (const driver of this.drivers) driver.send?.(now)
  }

  private scan(now: Micros, everything: boolean): void {
    const inputs: { slot: number; value: number }[] = []
    for (const [slot, watched] of this.watched.entries()) {
      const value = watched?.scan(now, everything) ?? null
      if (value !== null) inputs.push({ slot, value })
    }
    for (let from = 0; from < inputs.length; from += 60) {
      this.say({ say: 'inputs', micros: now >>> 0, inputs: inputs.slice(from, from + 60) })
    }
  }

  /** What lights at each place, 0 to 255, as a meter there would show it. */
  get pinLevels(): ReadonlyMap<number, number> {
    const levels = new Map<number, number>()
    for (const [slot, look] of this.outputs.look())
      if (slot.kind === 'lamp' && !channelOf(slot.pin)) levels.set(slot.pin, Number(look))
    for (const [place, light] of this.pins.lights()) levels.set(place, light)
    return levels
  }

  /** What each display shows and where each needle stands, by its first place. */
  get shows(): ReadonlyMap<number, number | string> {
    const shows = new Map<number, number | string>()
    for (const [slot, look] of this.outputs.look()) {
      if (slot.kind === 'lamp') continue
      const place = this.pins.asSoldered(ownPlace(slot), this.holds.chips)
      if (place !== null) shows.set(place, look)
    }
    return shows
  }
}
