import { fingerprint } from '../core/harness/slot'
import { type BoardHeartbeat, type FromBoard, hostEnd, PIECE_BYTES, type ToBoard } from '../links/board-link'
import { type CheckWire, type Clock, type OpenWire, within } from './wire'

export const ANSWER_MS = 600
/** The board's heartbeat comes four times a second, and it rests after this long without a word. */
export const BEAT_MS = 250
export const SILENCE_MS = 1500

/** One talk with the board, with everything that it has said. */
export class Talk {
  readonly heard: { readonly m: FromBoard; readonly at: number }[] = []
  first = ''
  /** The computer's own heartbeat goes on by itself, unless it is to be silent. */
  silent = false
  private link = hostEnd()
  private wire: CheckWire | null = null
  private beat: (() => void) | null = null
  private next = 0
  private digest = 0

  constructor(readonly clock: Clock) {}

  /** Milliseconds. */
  pause(ms: number): Promise<void> {
    return this.clock.sleep(ms)
  }

  async open(open: OpenWire): Promise<this> {
    this.wire = await open({
      received: (bytes) => {
        if (this.first.length < 64) this.first += String.fromCharCode(...bytes.subarray(0, 64))
        for (const { message: m } of this.link.decode(bytes)) this.take(m)
      },
      closed: () => {},
    })
    this.beat = this.clock.every(BEAT_MS, () => {
      if (!this.silent) this.say({ say: 'heartbeat', next: this.next, digest: this.digest })
    })
    return this
  }

  private take(m: FromBoard): void {
    this.heard.push({ m, at: this.clock.now() })
    if (m.say === 'inputs') this.next = (m.number + m.inputs.length) & 0xffff
    else if (m.say === 'all inputs') this.next = m.number
  }

  /** What the computer says of the inputs as it knows them; a wrong one is to be put right by the board. */
  knows(digest: number): void {
    this.digest = digest
  }

  close(): void {
    this.beat?.()
    this.wire?.close()
  }

  get bad() {
    return this.link.bad
  }

  get strangeVersion() {
    return this.link.strangeVersion
  }

  say(m: ToBoard): number {
    const { bytes, sequence } = this.link.encode(m)
    this.wire?.send(bytes)
    return sequence
  }

  raw(bytes: Uint8Array): void {
    this.wire?.send(bytes)
  }

  hear<S extends FromBoard['say']>(
    say: S,
    ms: number,
    from: number,
    fits: (m: Extract<FromBoard, { say: S }>) => boolean = () => true,
  ): Promise<Extract<FromBoard, { say: S }> | null> {
    const isIt = (m: FromBoard): m is Extract<FromBoard, { say: S }> => m.say === say
    return within(
      ms,
      () => {
        for (const { m } of this.heard.slice(from)) if (isIt(m) && fits(m)) return m
        return null
      },
      this.clock,
    )
  }

  /** Says something and waits for a kind of answer. */
  async ask<S extends FromBoard['say']>(
    m: ToBoard,
    say: S,
    ms = ANSWER_MS,
    fits: (m: Extract<FromBoard, { say: S }>) => boolean = () => true,
  ): Promise<Extract<FromBoard, { say: S }> | null> {
    const from = this.heard.length
    this.say(m)
    return this.hear(say, ms, from, fits)
  }

  /** Says a step of a load: '' where it was taken, else the objection; null where no answer came. */
  async step(m: ToBoard): Promise<string | null> {
    const from = this.heard.length
    const sequence = this.say(m)
    const answer = await this.hear('answer', ANSWER_MS, from, (a) => a.to === sequence)
    return answer ? (answer.problem ?? '') : null
  }

  /** The next heartbeat. */
  heartbeat(
    ms = 4 * BEAT_MS,
    fits: (m: BoardHeartbeat) => boolean = () => true,
  ): Promise<BoardHeartbeat | null> {
    return this.hear('heartbeat', ms, this.heard.length, fits)
  }

  /** Loads a configuration: '' where it was taken, else the objection; null where a step was not answered. */
  async load(bytes: Uint8Array): Promise<string | null> {
    const print = fingerprint(bytes)
    let said = await this.step({ say: 'load begin', length: bytes.length, fingerprint: print })
    for (let offset = 0; offset < bytes.length && said === ''; offset += PIECE_BYTES)
      said = await this.step({ say: 'load piece', offset, bytes: bytes.slice(offset, offset + PIECE_BYTES) })
    return said === '' ? this.step({ say: 'load commit', fingerprint: print }) : said
  }
}
