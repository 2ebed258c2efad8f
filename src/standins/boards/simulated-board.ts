import { channelOf, type Place } from '../../core/catalogue/place'
import type { BoardLimits } from '../../core/harness/board-limits'
import type { Chip } from '../../core/harness/chip'
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
import { boardEnd, type FromBoard, type InputValue, PIECE_BYTES, type ToBoard } from '../../links/board-link'
import { ReportRing } from '../../links/reports'
import type { ChipDriver } from './expanders/chip-driver'
import { driversFor } from './expanders/expanders'
import { Hands } from './hands'
import { type Readings, watcherFor } from './inputs'
import { Outputs } from './outputs'
import { Pins } from './pins'

/** Without a word from the computer for this long, lamps go to their rest state. */
const SILENCE_US = 1_500_000
const HEARTBEAT_US = 250_000
/** How soon after it has taken outputs it says what it shows. */
const CONFIRM_US = 40_000
/** Reports that the computer has not heard for so long are said again. */
const LATE_US = 100_000
/** Inputs in one frame of a full account: short, so that noise costs little. */
const INPUTS_A_FRAME = 24

/** What a simulated board can hold: as much as the largest chip that it stands for. */
const limits: BoardLimits = {
  frameBytes: 512,
  configurationBytes: 4000,
  slots: 500,
  bytesPerS: 11_520,
}

export interface BoardMemory {
  readonly configuration: number[]
  /** How often it has started. */
  readonly boot?: number
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
  private boot: number
  private reports = new ReportRing()
  private reportedAt: Micros = 0
  private toldAt: Micros | null = null
  private looks = true
  /** It was told something that its next turn makes visible: its pins follow then, not before. */
  private owesALook = false

  constructor(
    readonly identity: string,
    readonly model: string,
    memory: BoardMemory | null,
    private readonly random: () => number,
    /** Bytes the board sends. */
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.configuration = Uint8Array.from(memory?.configuration ?? [])
    this.boot = memory?.boot ?? 0
    this.hands = new Hands(random, memory?.closed ?? [], memory?.wipers ?? [])
    this.pins = new Pins(this.hands)
    this.pins.solder(memory?.chips ?? [])
    this.install()
  }

  get memory(): BoardMemory {
    return {
      configuration: [...this.configuration],
      boot: this.boot,
      closed: this.hands.closedPins(),
      wipers: this.hands.wipers(),
      chips: this.pins.chips,
    }
  }

  /** What is soldered to it now. */
  solder(chips: readonly Chip[]): void {
    if (JSON.stringify(chips) === JSON.stringify(this.pins.chips)) return
    this.pins.solder(chips)
    this.owesALook = true
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

  /** Begins with what it holds: after power came on, and after a load. Counts and numbers begin anew. */
  private install(): void {
    const decoded =
      this.configuration.length > 0 ? decodeConfiguration(this.configuration) : emptyConfiguration
    // What an older program left is nothing that this one could use.
    if ('problem' in decoded) this.configuration = new Uint8Array(0)
    this.holds = 'slots' in decoded ? decoded : emptyConfiguration
    this.drivers = driversFor(this.holds, this.pins)
    this.watched = this.holds.slots.map((slot) => watcherFor(slot, this.readings, this.random))
    this.outputs = new Outputs(
      this.holds,
      (chip) => this.drivers[chip],
      (chip) => this.pins.chipLike(chip),
      this.outputs,
    )
    this.boot = (this.boot + 1) & 0xffff
    this.owesALook = true
    this.reports = new ReportRing()
    this.started = false
  }

  /** Power goes and comes back: what it kept stays, all else begins anew. The line may never notice. */
  restart(now: Micros): void {
    this.outputs = Outputs.none
    this.link = boardEnd()
    this.loading = null
    this.install()
    this.heardAt = now
    this.say({ say: 'hello', ...this.about() })
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
      boot: this.boot,
      limits,
    }
  }

  private say(message: FromBoard): void {
    if (this.connected) this.send(this.link.encode(message).bytes)
  }

  receive(bytes: Uint8Array, now: Micros): void {
    for (const { message, sequence } of this.link.decode(bytes)) {
      if (message.say !== 'heartbeat') this.owesALook = true
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
        this.outputs.begin()
        this.sayAll(now)
        break
      case 'outputs':
        for (const { slot, state } of m.outputs) this.outputs.take(slot, 0, state)
        this.toldAt ??= now
        break
      case 'show':
        this.outputs.take(m.slot, m.row, m.text)
        this.toldAt ??= now
        break
      case 'load begin':
        if (m.length > limits.configurationBytes) {
          answer(`${m.length} bytes are more than this board can hold`)
          break
        }
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
        answer(this.commit(m.fingerprint))
        break
      case 'read': {
        const bytes = this.configuration.slice(m.offset, m.offset + PIECE_BYTES)
        this.say({ say: 'piece', offset: m.offset, total: this.configuration.length, bytes })
        break
      }
      case 'heartbeat':
        this.compare(m.next, m.digest, now)
        break
      case 'again':
        this.sayAgain(m.from, now)
        break
    }
  }

  /** What the computer knows of the inputs, against what they are. */
  private compare(next: number, digest: number, now: Micros): void {
    if (!this.started) return
    if (next !== this.reports.next) {
      // What was said a moment ago may still be on its way.
      if (now - this.reportedAt > LATE_US) this.sayAgain(next, now)
    } else if (digest !== this.reports.digest) this.sayAll(now)
  }

  private sayAgain(from: number, now: Micros): void {
    if (!this.started) return
    const reports = this.reports.since(from)
    if (reports === null) this.sayAll(now)
    else this.sayReports(reports, from, now)
  }

  private sayReports(reports: readonly InputValue[], from: number, now: Micros): void {
    for (let at = 0; at < reports.length; at += INPUTS_A_FRAME) {
      const inputs = reports.slice(at, at + INPUTS_A_FRAME)
      this.say({ say: 'inputs', micros: now >>> 0, number: (from + at) & 0xffff, inputs })
    }
  }

  /** Takes the new configuration whole or leaves the old one as it was. */
  private commit(wanted: string): string | null {
    const { loading } = this
    // Said twice, because the first answer was lost.
    if (!loading && wanted === this.about().fingerprint) return null
    this.loading = null
    if (!loading) return 'nothing is being loaded'
    if (fingerprint(loading.bytes) !== loading.fingerprint)
      return 'the pieces do not match the fingerprint; the old configuration stays'
    const decoded = decodeConfiguration(loading.bytes)
    if ('problem' in decoded) return decoded.problem
    this.configuration = encodeConfiguration(decoded)
    this.install()
    return null
  }

  /** Lets time pass: contacts settle, pins are scanned, lamps blink, needles turn, heartbeats go out. */
  step(now: Micros): void {
    this.hands.settle(now)
    for (const driver of this.drivers) driver.scan?.()
    if (this.connected && this.started) this.scan(now)
    this.outputs.step(now, !this.connected || now - this.heardAt > SILENCE_US)
    const due = now - this.heartbeatAt >= HEARTBEAT_US
    const owes = this.toldAt !== null && now - this.toldAt >= CONFIRM_US
    if (this.connected && (due || owes)) this.sayHeartbeat(now)
    for (const driver of this.drivers) driver.send?.(now)
    if (this.outputs.moving || this.owesALook) this.looks = true
    this.owesALook = false
  }

  /** Whether a hand is on it: contacts bounce, knobs turn, what changed is not settled yet. */
  get isTouched(): boolean {
    return this.hands.moving
  }

  /** Whether a meter may read something else than when this was last asked. */
  looksOther(): boolean {
    const moved = this.looks || this.hands.moving
    this.looks = this.outputs.moving
    return moved
  }

  private sayHeartbeat(now: Micros): void {
    this.heartbeatAt = now
    this.toldAt = null
    this.say({
      say: 'heartbeat',
      micros: now >>> 0,
      boot: this.boot,
      started: this.started,
      resting: this.outputs.resting,
      rests: this.outputs.rests,
      heard: this.link.heard ?? 0,
      bad: Math.min(65535, this.link.bad),
      next: this.reports.next,
      digest: this.outputs.digest,
    })
  }

  private scan(now: Micros): void {
    const inputs: InputValue[] = []
    for (const [slot, watched] of this.watched.entries()) {
      const value = watched?.scan(now, false) ?? null
      if (value !== null) inputs.push({ slot, value })
    }
    if (inputs.length === 0) return
    const from = this.reports.next
    for (const input of inputs) this.reports.add(input)
    this.reportedAt = now
    this.sayReports(inputs, from, now)
  }

  /** Says where every input stands. */
  private sayAll(now: Micros): void {
    const inputs: InputValue[] = []
    for (const [slot, watched] of this.watched.entries()) {
      const value = watched?.scan(now, true) ?? null
      if (value !== null) inputs.push({ slot, value })
    }
    for (const input of inputs) this.reports.stands(input)
    const number = this.reports.next
    // One frame at least, so that the computer knows the number also where there are no inputs.
    for (let at = 0; at === 0 || at < inputs.length; at += INPUTS_A_FRAME)
      this.say({
        say: 'all inputs',
        micros: now >>> 0,
        number,
        inputs: inputs.slice(at, at + INPUTS_A_FRAME),
      })
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
