import type { Output } from '../../core/engine/input'
import { BLANK, decodeSlots, encodeSlots, fingerprint, type Slot } from '../../core/harness/configuration'
import type { Micros } from '../../core/units-of-measure'
import { boardEnd, type FromBoard, PIECE_BYTES, type ToBoard } from '../../links/board-link'
import { Contact } from './contact'

/** Without a word from the computer for this long, lamps go to their rest state. */
const SILENCE_US = 1_500_000
const HEARTBEAT_US = 250_000

interface Debounce {
  raw: number
  changedAt: Micros
  told: number | null
}

export interface BoardMemory {
  readonly configuration: number[]
  readonly closed: number[]
}

/**
 * A microcontroller board at the level of its pins. The hand closes contacts to ground; the board scans its
 * pins, debounces and reports; outputs become levels on pins. What is loaded, and its identity, it keeps.
 */
export class SimulatedBoard {
  private configuration: Uint8Array
  private slots: Slot[] = []
  private debounces: Debounce[] = []
  private outputs: number[] = []
  private readonly contacts = new Map<number, Contact>()
  private readonly levels = new Map<number, number>()
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
    for (const pin of memory?.closed ?? []) this.contacts.set(pin, new Contact(true, random))
    this.install()
  }

  get memory(): BoardMemory {
    const closed = [...this.contacts].filter(([, c]) => c.closed).map(([pin]) => pin)
    return { configuration: [...this.configuration], closed }
  }

  private install(): void {
    const decoded = this.configuration.length > 0 ? decodeSlots(this.configuration) : { slots: [] }
    this.slots = 'slots' in decoded ? decoded.slots : []
    this.debounces = this.slots.map(() => ({ raw: 0, changedAt: 0, told: null }))
    this.outputs = this.slots.map((s) => (s.kind === 'lamp' && s.rest !== 'keep' ? s.rest : 0))
    this.levels.clear()
  }

  /** The hand opens or closes the contact between a pin and ground. */
  moveContact(pin: number, closed: boolean, now: Micros): void {
    let contact = this.contacts.get(pin)
    if (!contact) {
      contact = new Contact(false, this.random)
      this.contacts.set(pin, contact)
    }
    contact.move(closed, now)
  }

  /** A pin pulled up inside the chip: low while its contact is closed. */
  private isLow(pin: number): boolean {
    return this.contacts.get(pin)?.closed ?? false
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
        for (const d of this.debounces) d.told = null
        this.scan(now, true)
        break
      case 'outputs':
        this.drive(m.outputs)
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

  private drive(outputs: readonly Output[]): void {
    for (const { slot, packed } of outputs) if (this.slots[slot]?.kind === 'lamp') this.outputs[slot] = packed
  }

  /** Lets time pass: contacts settle, pins are scanned, lamps blink, heartbeats go out. */
  step(now: Micros): void {
    for (const contact of this.contacts.values()) contact.settle(now)
    if (this.connected && this.started) this.scan(now, false)
    if (this.connected && now - this.heartbeatAt >= HEARTBEAT_US) {
      this.heartbeatAt = now
      this.say({ say: 'heartbeat', micros: now >>> 0, bad: Math.min(65535, this.link.bad) })
    }
    const alone = !this.connected || now - this.heardAt > SILENCE_US
    for (const [i, slot] of this.slots.entries()) {
      if (slot.kind !== 'lamp') continue
      if (alone && slot.rest !== 'keep') this.outputs[i] = slot.rest
      const packed = this.outputs[i] ?? 0
      const period = (packed >>> 8) * 20_000
      const lit = period === 0 || now % period < period / 2
      this.levels.set(slot.pin, lit ? packed & 255 : 0)
    }
  }

  private scan(now: Micros, everything: boolean): void {
    const inputs: { slot: number; value: number }[] = []
    for (const [i, slot] of this.slots.entries()) {
      if (slot.kind !== 'contacts') continue
      const d = this.debounces[i] as Debounce
      const raw = slot.pins.reduce((bits, pin, k) => bits | (this.isLow(pin) ? 1 << k : 0), 0)
      if (raw !== d.raw) {
        d.raw = raw
        d.changedAt = now
      }
      const settled = everything || now - d.changedAt >= slot.debounceMs * 1000
      if (settled && raw !== d.told) {
        d.told = raw
        inputs.push({ slot: i, value: raw })
      }
    }
    for (let from = 0; from < inputs.length; from += 60) {
      this.say({ say: 'inputs', micros: now >>> 0, inputs: inputs.slice(from, from + 60) })
    }
  }

  /** Level of every driven pin, 0 to 255, as a meter on the pin would show it. */
  get pinLevels(): ReadonlyMap<number, number> {
    return this.levels
  }

  closedPins(): number[] {
    return [...this.contacts].filter(([, c]) => c.closed).map(([pin]) => pin)
  }
}
