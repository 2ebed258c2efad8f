import { StringDecoder } from 'node:string_decoder'
import type { DeviceDescription } from '../core/device-line/description'
import { fingerprintOf } from '../core/device-line/fingerprint'
import { readDeviceLine } from '../core/device-line/read-line'
import { writeLine, writePacket } from '../core/device-line/write-line'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import { deviceReaders } from '../links/raw-device'
import type { Line, LineMaker } from './lines/line'
import { ListenedSource, SAID_MS } from './listened-source'
import { LastSent, type OutgoingValues } from './outgoing-values'
import type { SourceEvents } from './source-client'

/** What never ends is no line. */
const MOST_LINE = 8192
/** A device that should speak and has not for this long is stale; of what it says only by itself nothing is expected. */
const QUIET_MS = 3000

/** Speaks with a device of the builder’s own: sends chosen values, and takes in what it says. */
export class DeviceClient extends ListenedSource {
  readonly line: Line
  readonly catalogue: SimulatorCatalogue
  protected readonly refuses = {
    set: 'what this device says is only read; it is told things by its description',
    event: 'this device takes no events',
  }
  private readonly fingerprint: string
  private text = new StringDecoder('utf8')
  private held = ''
  private timer: NodeJS.Timeout | null = null
  private readonly sent = new LastSent()
  /** What is wrong with values that are sent, and what was last strange about what came. */
  private missing: string | null = null
  private strange: { readonly why: string; readonly at: number } | null = null
  /** What the device said that it is made for, if that is another description. */
  private other: string | null = null

  constructor(
    connection: string,
    private readonly description: DeviceDescription,
    make: LineMaker,
    events: SourceEvents,
    private readonly outgoing: OutgoingValues,
  ) {
    super(connection, events)
    this.fingerprint = fingerprintOf(description)
    this.catalogue = {
      craft: '',
      events: [],
      variables: description.hear.map(({ name, as, unit, description: words }) => ({
        name,
        type: as,
        unit: unit ?? null,
        writable: false,
        range: null,
        description: words ?? '',
        group: 'Own device',
      })),
    }
    this.values.resize(description.hear.length)
    this.line = make({
      opened: () => this.opened(),
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  readonly rawReaders = () => deviceReaders(this.description)

  private opened(): void {
    this.held = ''
    this.text = new StringDecoder('utf8')
    this.other = null
    this.sent.forget()
    this.events.described()
    this.timer = setInterval(() => this.send(), 1000 / this.description.hz)
    this.arrived()
  }

  protected override lost(problem: string, cure: string | null = null): void {
    if (this.timer) clearInterval(this.timer)
    this.timer = null
    super.lost(problem, cure)
  }

  /** Sends the values as they are now, where that is wanted. */
  private send(): void {
    const { description } = this
    if (description.send.length === 0 || !this.line.isUp) return
    const now = this.outgoing()
    if (now === null) return
    const sent = description.send.map((_, i) => now(String(i)))
    this.missing = sent.find((v) => v.problem !== null)?.problem ?? null
    const values = sent.map((v) => v.value)
    const data =
      description.form === 'line' ? writeLine(description, values) : writePacket(description, values)
    if (description.when === 'changed' && !this.sent.isNews(data, performance.now())) return
    this.line.send(data)
    if (description.hear.length === 0) this.rate.add()
  }

  private receive(bytes: Uint8Array): void {
    this.held += this.text.write(Buffer.from(bytes))
    const lines = this.held.split(/[\r\n]+/)
    this.held = lines.pop() ?? ''
    if (this.held.length > MOST_LINE) {
      this.held = ''
      this.note('what it says has no end of a line')
    }
    for (const line of lines) if (line.trim() !== '') this.take(line)
    this.tellChanges()
  }

  private take(line: string): void {
    const heard = readDeviceLine(this.description, line.slice(0, MOST_LINE))
    switch (heard.is) {
      case 'fingerprint':
        this.other = heard.fingerprint === this.fingerprint ? null : heard.fingerprint
        // It has just begun: what it does not know yet is said again.
        this.sent.forget()
        break
      case 'strange':
        if (this.description.hear.length > 0) this.note(`${heard.why}: “${line.slice(0, 40)}”`)
        break
      case 'values':
        this.heardAt = performance.now()
        this.rate.add()
        this.tellQuiet(false)
        for (const [i, v] of heard.values.entries()) if (v !== undefined) this.values.note(i, v)
    }
  }

  private note(why: string): void {
    this.bad++
    this.strange = { why, at: performance.now() }
  }

  get odd(): readonly string[] {
    const said: string[] = []
    if (this.other !== null)
      said.push(
        `The device was made for the description ${this.other}, and this is ${this.fingerprint}: what it is told now it does not take. Give it the reading side anew.`,
      )
    if (this.missing !== null) said.push(`A value is sent empty: ${this.missing}`)
    if (this.strange && performance.now() - this.strange.at < SAID_MS)
      said.push(`Not understood: ${this.strange.why}.`)
    return said
  }

  check(now: number): void {
    if (this.up && this.description.hear.length > 0) this.tellQuiet(now - this.heardAt > QUIET_MS)
  }
}
