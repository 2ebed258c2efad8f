import { outgoingKey } from '../core/connections/datagram-settings'
import type { DatagramLayout, DatagramPacket } from '../core/datagrams/layout'
import { writeDatagram } from '../core/datagrams/write-datagram'
import { DatagramSender } from './lines/datagram-sender'
import { LastSent, type OutgoingValues } from './outgoing-values'

interface Outbound {
  readonly packet: DatagramPacket
  readonly index: number
  timer: NodeJS.Timeout | null
  readonly sent: LastSent
}

/** Sends the packets of a layout that go out, each at its rate. */
export class PacketSenders {
  private readonly outbound: readonly Outbound[]
  private readonly sender = new DatagramSender()
  /** By packet, what is wrong with its values. */
  private readonly problems = new Map<number, string>()

  constructor(
    private readonly layout: DatagramLayout,
    private readonly values: OutgoingValues,
    /** Whoever looks at what goes. */
    private readonly went: (bytes: Uint8Array, packet: number) => void,
  ) {
    this.outbound = layout.packets.flatMap((packet, index) =>
      packet.send ? [{ packet, index, timer: null, sent: new LastSent() }] : [],
    )
  }

  open(): void {
    for (const o of this.outbound)
      o.timer ??= setInterval(() => this.send(o), 1000 / (o.packet.send?.hz ?? 1))
  }

  private send(o: Outbound): void {
    const { packet, index } = o
    const now = this.values()
    if (!packet.send || now === null) return
    const fields = packet.fields.map((_, k) => now(outgoingKey(index, k)))
    const problem = fields.find((f) => f.problem !== null)?.problem
    if (problem == null) this.problems.delete(index)
    else this.problems.set(index, problem)
    // Nothing of it is known: the other end is better told nothing than zeros.
    if (fields.length > 0 && fields.every((f) => f.value === null)) return
    const bytes = writeDatagram(
      packet,
      this.layout,
      fields.map((f) => f.value),
    )
    if (packet.send.when === 'changed' && !o.sent.isNews(bytes, performance.now())) return
    this.sender.send(bytes, packet.send.host, packet.send.port)
    this.went(bytes, index)
  }

  /** What is wrong with what is sent, in sentences. */
  get odd(): string[] {
    const said = [...this.problems].map(
      ([i, p]) => `“${this.layout.packets[i]?.name}” is sent without a value: ${p}`,
    )
    return this.sender.problem === null ? said : [...said, `${this.sender.problem}.`]
  }

  close(): void {
    for (const o of this.outbound) {
      if (o.timer) clearInterval(o.timer)
      o.timer = null
    }
    this.sender.close()
  }
}
