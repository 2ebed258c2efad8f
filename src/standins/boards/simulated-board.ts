import { BLANK, decodeSlots, encodeSlots, fingerprint, pinsOf, type Slot } from '../../core/harness/slot'
import type { Micros } from '../../core/units-of-measure'
import { boardEnd, type FromBoard, PIECE_BYTES, type ToBoard } from '../../links/board-link'
import { Hands } from './hands'
import { watcherFor } from './inputs'
import { Outputs } from './outputs'

/** Without a word from the computer for this long, lamps go to their rest state. */
const SILENCE_US = 1_500_000
const HEARTBEAT_US = 250_000

export interface BoardMemory {
  readonly configuration: number[]
  readonly closed: number[]
  /** Where its wipers stand, 0 to 1, by pin. */
  readonly wipers?: readonly (readonly [number, number])[]
}

/**
 * A microcontroller board at the level of its pins. Hands close contacts to ground, turn knobs and move wipers; the
 * board scans its pins, decodes and reports; outputs become levels on pins, digits, text, needles that turn. What is
 * loaded, and its identity, it keeps.
 */
export class SimulatedBoard {
  private configuration: Uint8Array
  private slots: Slot[] = []
  private watched: ReturnType<typeof watcherFor>[] = []
  private outputs = new Outputs([], null)
  readonly hands: Hands
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
    this.install()
  }

  get memory(): BoardMemory {
    return {
      configuration: [...this.configuration],
      closed: this.hands.closedPins(),
      wipers: this.hands.wipers(),
    }
  }

  private install(): void {
    const decoded = this.configuration.length > 0 ? decodeSlots(this.configuration) : { slots: [] }
    this.slots = 'slots' in decoded ? decoded.slots : []
    this.watched = this.slots.map((slot) => watcherFor(slot, this.hands, this.random))
    this.outputs = new Outputs(this.slots, this.outputs)
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
    const decoded = decodeSlots(loading.bytes)
    if ('problem' in decoded) return decoded.problem
    this.configuration = encodeSlots(decoded.slots)
    this.install()
    this.started = false
    return null
  }

  /** Lets time pass: contacts settle, pins are scanned, lamps blink, needles turn, heartbeats go out. */
  step(now: Micros): void {
    this.hands.settle(now)
    if (this.connected && this.started) this.scan(now, false)
    if (this.connected && now - this.heartbeatAt >= HEARTBEAT_US) {
      this.heartbeatAt = now
      this.say({ say: 'heartbeat', micros: now >>> 0, bad: Math.min(65535, this.link.bad) })
    }
    this.outputs.step(now, !this.connected || now - this.heardAt > SILENCE_US)
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

  /** Level of every pin that drives a lamp, 0 to 255, as a meter on the pin would show it. */
  get pinLevels(): ReadonlyMap<number, number> {
    const levels = new Map<number, number>()
    for (const [slot, look] of this.outputs.look())
      if (slot.kind === 'lamp') levels.set(slot.pin, Number(look))
    return levels
  }

  /** What each display shows and where each needle stands, by its first pin. */
  get shows(): ReadonlyMap<number, number | string> {
    const shows = new Map<number, number | string>()
    for (const [slot, look] of this.outputs.look())
      if (slot.kind !== 'lamp') shows.set(pinsOf(slot)[0] ?? -1, look)
    return shows
  }
}
