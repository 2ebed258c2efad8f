import type { Output } from '../core/engine/input'
import {
  BLANK,
  type Configuration,
  decodeConfiguration,
  emptyConfiguration,
  encodeConfiguration,
  fingerprint,
} from '../core/harness/slot'
import { type FromBoard, hostEnd, PIECE_BYTES, type SlotState, type ToBoard } from '../links/board-link'
import { BOARD_LINK_VERSION } from '../links/framing'
import { Rate } from './rate'
import { TcpLink } from './tcp-link'

export interface BoardEvents {
  /** The board is known and says what it holds, or is gone. */
  readonly changed: (board: BoardClient) => void
  readonly report: (board: BoardClient, slot: number, value: number) => void
}

const SILENCE_MS = 1500
const HEARTBEAT_MS = 400
const ANSWER_MS = 1000
const TRIES = 3

/** Clavik's end of one board link: handshake, what the board holds, heartbeats, reports, outputs, loading. */
export class BoardClient {
  identity = ''
  model = ''
  up = false
  problem: string | null = 'not connected yet'
  holds: Configuration = emptyConfiguration
  fingerprint = BLANK
  loading: number | null = null
  readonly rate = new Rate(performance.now())
  bad = 0
  private readonly tcp: TcpLink
  private link = hostEnd()
  private heardAt = 0
  private saidAt = 0
  private helloAt = 0
  private reading: { bytes: Uint8Array; total: number } | null = null
  private readonly answers = new Map<number, (problem: string | null) => void>()

  /** Whether somebody is at the other end, be it a board or not. */
  talking = false

  constructor(
    readonly port: number,
    private readonly events: BoardEvents,
  ) {
    this.tcp = new TcpLink(port, {
      opened: () => {
        this.link = hostEnd()
        this.heardAt = performance.now()
        this.talking = true
        this.hello()
      },
      received: (bytes) => this.receive(bytes),
      closed: (problem) => this.lost(problem),
    })
  }

  open(): void {
    this.tcp.open()
  }

  close(): void {
    this.tcp.end()
  }

  private say(message: ToBoard): number {
    const { bytes, sequence } = this.link.encode(message)
    this.saidAt = performance.now()
    this.tcp.send(bytes)
    return sequence
  }

  private hello(): void {
    this.helloAt = performance.now()
    this.say({ say: 'hello' })
  }

  private lost(problem: string): void {
    this.problem = problem
    this.talking = false
    this.reading = null
    for (const answer of this.answers.values()) answer('the connection was lost')
    this.answers.clear()
    if (!this.up) return
    this.up = false
    this.events.changed(this)
  }

  private receive(bytes: Uint8Array): void {
    for (const { message } of this.link.decode(bytes)) this.take(message)
    this.bad = this.link.bad
    const strange = this.link.strangeVersion
    if (strange !== null)
      this.problem = `it speaks version ${strange} of the board link, Clavik speaks ${BOARD_LINK_VERSION}`
    else if (!this.up && this.bad > 0) this.problem = 'what it says is not the board link'
  }

  private take(m: FromBoard): void {
    this.heardAt = performance.now()
    this.rate.add()
    switch (m.say) {
      case 'hello':
        this.identity = m.identity
        this.model = m.model
        this.fingerprint = m.fingerprint
        if (m.length === 0) this.ready(new Uint8Array(0))
        else {
          this.reading = { bytes: new Uint8Array(m.length), total: m.length }
          this.say({ say: 'read', offset: 0 })
        }
        break
      case 'piece':
        this.takePiece(m.offset, m.bytes)
        break
      case 'inputs':
        for (const { slot, value } of m.inputs) this.events.report(this, slot, value)
        break
      case 'answer': {
        const waiting = this.answers.get(m.to)
        this.answers.delete(m.to)
        waiting?.(m.problem)
        break
      }
      case 'heartbeat':
        break
    }
  }

  private takePiece(offset: number, bytes: Uint8Array): void {
    const { reading } = this
    if (!reading || offset + bytes.length > reading.total) return
    reading.bytes.set(bytes, offset)
    const next = offset + bytes.length
    if (next < reading.total && bytes.length > 0) {
      this.say({ say: 'read', offset: next })
      return
    }
    this.reading = null
    this.ready(reading.bytes)
  }

  /** Knows what the board holds: from here on it counts as there. */
  private ready(configuration: Uint8Array): void {
    const decoded = configuration.length > 0 ? decodeConfiguration(configuration) : emptyConfiguration
    this.holds = 'slots' in decoded ? decoded : emptyConfiguration
    this.problem = 'problem' in decoded ? `what it holds cannot be read: ${decoded.problem}` : null
    this.up = true
    this.events.changed(this)
    this.say({ say: 'start' })
  }

  outputs(outputs: readonly Output[]): void {
    const states: SlotState[] = []
    for (const { slot, row, state } of outputs) {
      if (typeof state === 'number') states.push({ slot, state })
      else this.say({ say: 'show', slot, row, text: state })
    }
    if (states.length > 0) this.say({ say: 'outputs', outputs: states })
  }

  /** Loads a configuration, piece by acknowledged piece. The board keeps its old one until the last is in. */
  async load(configuration: Configuration): Promise<string | null> {
    if (this.loading !== null) return 'it is being loaded already'
    const bytes = encodeConfiguration(configuration)
    this.loading = 0
    try {
      let problem = await this.ask({
        say: 'load begin',
        length: bytes.length,
        fingerprint: fingerprint(bytes),
      })
      for (let offset = 0; offset < bytes.length && problem === null; offset += PIECE_BYTES) {
        problem = await this.ask({
          say: 'load piece',
          offset,
          bytes: bytes.slice(offset, offset + PIECE_BYTES),
        })
        this.loading = Math.min(1, (offset + PIECE_BYTES) / bytes.length)
      }
      problem ??= await this.ask({ say: 'load commit' })
      if (problem === null) this.hello()
      return problem
    } finally {
      this.loading = null
    }
  }

  /** Says something until it is answered, a few times at most. */
  private async ask(message: ToBoard): Promise<string | null> {
    for (let i = 0; i < TRIES; i++) {
      const sequence = this.say(message)
      const answer = await new Promise<string | null | undefined>((resolve) => {
        this.answers.set(sequence, resolve)
        setTimeout(() => resolve(undefined), ANSWER_MS)
      })
      this.answers.delete(sequence)
      if (answer !== undefined) return answer
    }
    return 'the board does not answer'
  }

  /** Heartbeats, repeated hellos, and noticing a board that has gone quiet. */
  check(now: number): void {
    if (this.up && now - this.heardAt > SILENCE_MS) {
      this.lost('the board has gone quiet')
      this.tcp.drop()
    } else if (this.up && now - this.saidAt > HEARTBEAT_MS) this.say({ say: 'heartbeat' })
    else if (!this.up && now - this.helloAt > 1000) this.hello()
  }
}
