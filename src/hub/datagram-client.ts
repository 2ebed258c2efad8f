import type { DatagramLayout } from '../core/datagrams/layout'
import { type DatagramValue, LayoutReader, type Misfit } from '../core/datagrams/read-datagram'
import type { SimulatorCatalogue, VariableInfo } from '../core/rig/simulator-catalogue'
import { datagramReaders } from '../links/raw-datagrams'
import { Growing } from './growing'
import type { LineMaker } from './lines/line'
import { type Sender, senderWords, type UdpLine } from './lines/udp-line'
import { ListenedSource, SAID_MS } from './listened-source'
import type { OutgoingValues } from './outgoing-values'
import { PacketSenders } from './packet-senders'
import type { SourceEvents } from './source-client'

/** Without a datagram for this long values count as stale, and for this long their sender as gone; slow senders have longer. */
const QUIET_MS = 600
const SILENCE_MS = 2000
const QUIET_TIMES = 4
const SILENCE_TIMES = 10
/** So many sizes that fit nothing are told apart. */
const MOST_SIZES = 8
/** How often values are held against their ranges, and which share of them may lie outside before that is said. */
const RANGES_EVERY_MS = 1000
const MOST_OUTSIDE = 0.5
const ENOUGH_RANGES = 3

interface Misfits extends Misfit {
  count: number
  at: number
}

/** What an eye on the datagrams is told: the bytes, which packet of the layout they are, or that they are none. */
export type DatagramEye = (direction: 'in' | 'out', bytes: Uint8Array) => void

/** Reads datagrams by a layout, and sends those that the layout says. */
export class DatagramClient extends ListenedSource {
  readonly line: UdpLine
  readonly catalogue: SimulatorCatalogue
  protected readonly refuses = { set: 'telemetry is only read', event: 'telemetry takes no events' }
  eye: DatagramEye | null = null
  private readonly reader: LayoutReader
  private readonly growing: readonly Growing[]
  /** The last datagram of each packet, for values that are asked for later. */
  private readonly last: (Uint8Array | undefined)[]
  private readonly misfits = new Map<number, Misfits>()
  private readonly senders: PacketSenders
  private late = 0
  private lateAt = Number.NEGATIVE_INFINITY
  private from: Sender | null = null
  private other: { readonly sender: Sender; at: number } | null = null
  /** The usual time between two datagrams. */
  private everyMs = 0
  private outside: string | null = null
  private rangesAt = 0

  constructor(
    connection: string,
    private readonly layout: DatagramLayout,
    make: LineMaker<UdpLine>,
    events: SourceEvents,
    outgoing: OutgoingValues,
    opened: () => void = () => {},
  ) {
    super(connection, events)
    this.reader = new LayoutReader(layout)
    this.catalogue = { craft: layout.craft, variables: this.reader.variables, events: [] }
    this.values.resize(this.reader.variables.length)
    this.growing = Array.from({ length: this.reader.count }, () => new Growing())
    this.last = new Array<Uint8Array | undefined>(this.reader.count).fill(undefined)
    this.senders = new PacketSenders(layout, outgoing, (bytes) => {
      this.line.tap?.('out', bytes)
      this.eye?.('out', bytes)
    })
    this.line = make({
      opened: () => {
        this.waits()
        this.senders.open()
        this.events.described()
        opened()
      },
      received: (bytes) => this.receive(bytes),
      closed: ({ problem, cure }) => this.lost(problem, cure),
    })
  }

  override get craft(): string {
    return this.layout.craft
  }

  readonly rawReaders = () => ({ in: datagramReaders(this.layout), out: datagramReaders(this.layout, true) })

  override close(why: string): void {
    this.senders.close()
    super.close(why)
  }

  private waits(): void {
    this.problem = `nothing has come to ${this.line.where} yet`
    this.cure = `Let the program send its telemetry to this computer, port ${this.line.port}.`
  }

  protected override lost(problem: string, cure: string | null = null): void {
    this.from = null
    for (const g of this.growing) g.forget()
    this.last.fill(undefined)
    super.lost(problem, cure)
  }

  private receive(bytes: Uint8Array): void {
    const now = performance.now()
    this.eye?.('in', bytes)
    if (!this.isFromItsSender(now)) return
    const view = viewOf(bytes)
    const packet = this.reader.packetOf(view)
    if (typeof packet !== 'number') {
      this.misfit(packet, now)
      return
    }
    this.heard(now)
    const count = this.reader.growing(view, packet)
    if (count && !this.growing[packet]?.isNews(count.is, count.wraps)) {
      this.late++
      this.lateAt = now
    } else {
      this.keep(packet, bytes)
      this.tell(view, packet, count?.is ?? now / 1000)
    }
    if (!this.up) this.arrived()
  }

  /** Of two that send to one port the first is listened to, until it has gone quiet. */
  private isFromItsSender(now: number): boolean {
    const { sender } = this.line
    const { from } = this
    if (from === null || (from.host === sender.host && from.port === sender.port)) {
      this.from = sender
      return true
    }
    if (now - this.heardAt > QUIET_MS) {
      this.from = sender
      for (const g of this.growing) g.forget()
      return true
    }
    if (this.other) this.other.at = now
    else this.other = { sender, at: now }
    return false
  }

  private heard(now: number): void {
    if (this.heardAt > 0) {
      const since = Math.min(5000, now - this.heardAt)
      this.everyMs = this.everyMs === 0 ? since : this.everyMs + 0.1 * (since - this.everyMs)
    }
    this.heardAt = now
    this.rate.add()
    this.tellQuiet(false)
  }

  private keep(packet: number, bytes: Uint8Array): void {
    const kept = this.last[packet]
    if (kept?.length === bytes.length) kept.set(bytes)
    else this.last[packet] = bytes.slice()
  }

  private tell(view: DataView, packet: number, told: number): void {
    this.reader.read(view, packet, this.values.isWanted, this.values.note)
    this.tellChanges(told)
  }

  private misfit(m: Misfit, now: number): void {
    this.bad++
    const known = this.misfits.get(m.bytes)
    if (known) {
      known.count++
      known.at = now
    } else {
      // The one that was seen first makes room.
      if (this.misfits.size === MOST_SIZES) this.misfits.delete(this.misfits.keys().next().value as number)
      this.misfits.set(m.bytes, { ...m, count: 1, at: now })
    }
    if (this.up) return
    this.problem = misfitWords(m)
    this.cure =
      this.layout.packets.length === 0
        ? 'Open the layout, and say what lies where.'
        : 'Let the program send what the layout says, or correct the layout.'
  }

  /** What is odd about what comes and what goes. */
  get odd(): readonly string[] {
    const now = performance.now()
    const said = [...this.misfits.values()]
      .filter((m) => this.up && now - m.at < SAID_MS)
      .map((m) => `${misfitWords(m)}; ${m.count === 1 ? 'it was' : `${m.count} were`} left out.`)
    if (now - this.lateAt < SAID_MS) said.push(`${this.late} datagrams came late or twice and were left out.`)
    if (this.other && now - this.other.at < SAID_MS)
      said.push(
        `Two programs send here: ${this.from ? senderWords(this.from) : ''} is listened to, ${senderWords(this.other.sender)} is not.`,
      )
    if (this.outside !== null) said.push(this.outside)
    return [...said, ...this.senders.odd]
  }

  override subscribe(asked: number[] | 'all', anew: boolean): void {
    super.subscribe(asked, anew)
    // What is asked for now may have come a while ago, and was not read then.
    for (const [packet, bytes] of this.last.entries())
      if (bytes) this.tell(viewOf(bytes), packet, performance.now() / 1000)
  }

  override excuse(now: number): void {
    this.heardAt = Math.max(this.heardAt, now - QUIET_MS)
  }

  check(now: number): void {
    if (!this.up) return
    const since = now - this.heardAt
    this.tellQuiet(since > Math.max(QUIET_MS, QUIET_TIMES * this.everyMs))
    if (since > Math.max(SILENCE_MS, SILENCE_TIMES * this.everyMs)) {
      this.lost('no datagram comes any more')
      this.cure = `It goes on by itself when some come to ${this.line.where} again.`
      return
    }
    if (now - this.rangesAt > RANGES_EVERY_MS) {
      this.rangesAt = now
      this.outside = this.outsideWords()
    }
  }

  /** Whether so much lies outside its range that these may be the datagrams of something else. */
  private outsideWords(): string | null {
    let ranged = 0
    let outside = 0
    const { variables } = this.reader
    const look = (slot: number, value: DatagramValue): void => {
      const [least, most] = (variables[slot] as VariableInfo).range as [number, number]
      ranged++
      if (typeof value !== 'number' || value < least || value > most) outside++
    }
    for (const [packet, bytes] of this.last.entries())
      if (bytes) this.reader.read(viewOf(bytes), packet, (slot) => variables[slot]?.range != null, look)
    return ranged >= ENOUGH_RANGES && outside / ranged > MOST_OUTSIDE
      ? `${outside} of ${ranged} values lie outside their ranges: these may be datagrams of another layout.`
      : null
  }
}

const viewOf = (b: Uint8Array): DataView => new DataView(b.buffer, b.byteOffset, b.byteLength)

const misfitWords = ({ bytes, nearest, wanted }: Misfit): string =>
  nearest === null
    ? `a datagram of ${bytes} bytes came, which is none of the layout’s packets`
    : `a datagram of ${bytes} bytes came; “${nearest}” has ${wanted}`
