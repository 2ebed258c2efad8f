import type { BoardLimits } from '../src/core/harness/board-limits'
import { BLANK, fingerprint } from '../src/core/harness/slot'
import { boardEnd, type FromBoard, PIECE_BYTES, type ToBoard } from '../src/links/board-link'
import { ReportRing } from '../src/links/reports'
import { StateDigest } from '../src/links/state-digest'

const roomy: BoardLimits = { frameBytes: 512, configurationBytes: 4000, slots: 500, bytesPerS: 11_520 }

/** A board without pins: it answers as it should, reports what it is made to, and remembers what it was told. */
export class PlainBoard {
  heard: ToBoard[] = []
  /** The last state of each slot. */
  readonly states = new Map<number, number | string>()
  boot = 1
  /** Whether it says nothing at all, as before its program runs. */
  mute = false
  started = false
  limits = roomy
  /** How many steps of a load it answers before its cable comes off. */
  answersLeft = Number.POSITIVE_INFINITY
  private link = boardEnd()
  private reports = new ReportRing()
  private readonly told = new StateDigest()
  private readonly inputs = new Map<number, number>()
  private loading = new Uint8Array(0)

  constructor(
    readonly identity: string,
    public configuration: Uint8Array,
    private readonly send: (bytes: Uint8Array) => void,
    private readonly more: {
      readonly heard?: (m: ToBoard) => void
      readonly unplug?: () => void
      readonly model?: string
      readonly program?: number
    } = {},
  ) {}

  say(m: FromBoard): void {
    if (!this.mute) this.send(this.link.encode(m).bytes)
  }

  /** The line is new. */
  plugged(): void {
    this.link = boardEnd()
    this.started = false
  }

  /** Power came back, or a load is over. */
  restart(configuration = this.configuration): void {
    this.configuration = configuration
    this.boot++
    this.started = false
    this.reports = new ReportRing()
    this.told.clear()
    this.states.clear()
    this.inputs.clear()
  }

  hello(): void {
    const { identity, boot, limits, configuration } = this
    const blank = configuration.length === 0
    this.say({
      say: 'hello',
      ...{ identity, boot, limits, model: this.more.model ?? 'test', length: configuration.length },
      fingerprint: blank ? BLANK : fingerprint(configuration),
      ...(this.more.program === undefined ? {} : { program: this.more.program }),
    })
  }

  beat(): void {
    this.say({
      say: 'heartbeat',
      ...{ micros: 0, boot: this.boot, started: this.started, resting: false, rests: 0, bad: 0 },
      ...{ heard: this.link.heard ?? 0, next: this.reports.next, digest: this.told.value },
    })
  }

  report(slot: number, value: number): void {
    const number = this.reports.next
    this.inputs.set(slot, value)
    this.reports.add({ slot, value })
    this.say({ say: 'inputs', micros: 0, number, inputs: [{ slot, value }] })
  }

  receive(bytes: Uint8Array): void {
    for (const { message, sequence } of this.link.decode(bytes)) this.hear(message, sequence)
  }

  private sayAll(): void {
    const inputs = [...this.inputs].map(([slot, value]) => ({ slot, value }))
    for (const i of inputs) this.reports.stands(i)
    this.say({ say: 'all inputs', micros: 0, number: this.reports.next, inputs })
  }

  private hear(m: ToBoard, sequence: number): void {
    this.heard.push(m)
    switch (m.say) {
      case 'hello':
        this.hello()
        break
      case 'start':
        this.started = true
        this.told.clear()
        this.sayAll()
        break
      case 'read': {
        const bytes = this.configuration.slice(m.offset, m.offset + PIECE_BYTES)
        this.say({ say: 'piece', offset: m.offset, total: this.configuration.length, bytes })
        break
      }
      case 'outputs':
        for (const { slot, state } of m.outputs) {
          this.states.set(slot, state)
          this.told.put(slot, 0, state)
        }
        break
      case 'show':
        this.states.set(m.slot, m.text)
        this.told.put(m.slot, m.row, m.text)
        break
      case 'again': {
        const reports = this.reports.since(m.from)
        if (reports === null) this.sayAll()
        else this.say({ say: 'inputs', micros: 0, number: m.from, inputs: reports })
        break
      }
      case 'heartbeat':
        if (m.next === this.reports.next && m.digest !== this.reports.digest) this.sayAll()
        break
      default:
        if (this.answersLeft-- <= 0) {
          this.more.unplug?.()
          break
        }
        if (m.say === 'load begin') this.loading = new Uint8Array(m.length)
        else if (m.say === 'load piece') this.loading.set(m.bytes, m.offset)
        else this.restart(this.loading)
        this.say({ say: 'answer', to: sequence, problem: null })
    }
    this.more.heard?.(m)
  }
}
