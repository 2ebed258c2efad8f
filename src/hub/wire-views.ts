import type { ToHub } from '../core/live/feed'
import type { Rig } from '../core/rig/rig'
import { tellBuses } from './bus-view'
import type { Connections } from './connections'
import { tellControllers } from './controllers/controller-view'
import { DatagramView } from './datagram-view'
import type { HandClient } from './hand-client'
import { RawView } from './raw-view'
import type { Tab } from './tab'

/** What a tab says of what goes over single connections. */
export type OfWires = Extract<
  ToHub,
  {
    readonly say:
      | 'raw'
      | 'raw send'
      | 'echo'
      | 'lines'
      | 'datagrams'
      | 'bus'
      | 'controller'
      | 'handle'
      | 'drive'
  }
>
const words: ReadonlySet<string> = new Set<OfWires['say']>([
  'raw',
  'raw send',
  'echo',
  'lines',
  'datagrams',
  'bus',
  'controller',
  'handle',
  'drive',
])

export const isOfWires = (m: ToHub): m is OfWires => words.has(m.say)

/** What tabs see of single connections: bytes, datagrams, a bus, a controller; and hands on stand-ins behind them. */
export class WireViews {
  private readonly raw: RawView
  private readonly datagrams: DatagramView

  constructor(
    private readonly connections: Connections,
    private readonly hands: HandClient,
    private readonly rig: () => Rig,
  ) {
    this.raw = new RawView(connections)
    this.datagrams = new DatagramView(connections)
  }

  /** Connections may be others now. */
  follow(tabs: ReadonlySet<Tab>): void {
    this.raw.follow(tabs)
    this.datagrams.follow(tabs)
  }

  tell(tabs: ReadonlySet<Tab>, now: number): void {
    this.raw.tell()
    this.datagrams.tell(tabs)
    tellBuses(tabs, this.connections, now)
    tellControllers(tabs, this.connections, now)
  }

  leave(tab: Tab, tabs: ReadonlySet<Tab>): void {
    this.raw.leave(tab)
    this.datagrams.watch(tab, null, tabs)
  }

  /** Does what a tab asks; ends in what is wrong with that, or null. */
  async hear(tab: Tab, m: OfWires, tabs: ReadonlySet<Tab>): Promise<string | null> {
    switch (m.say) {
      case 'raw':
        this.raw.watch(tab, m.connection)
        return null
      case 'raw send':
        return this.raw.send(m.connection, Buffer.from(m.hex, 'hex'))
      case 'echo':
        this.raw.echo(m.connection, (ms) => tab.send({ say: 'echo', connection: m.connection, ms }))
        return null
      case 'lines':
        return this.raw.setLines(m.connection, m)
      case 'datagrams':
        this.datagrams.watch(tab, m.connection, tabs)
        return null
      case 'bus':
        tab.bus = m.connection
        return null
      case 'controller':
        tab.controller = m.connection
        return null
      case 'drive':
        this.hands.send({ say: 'drive', id: m.connection, seat: m.seat })
        return null
      case 'handle': {
        const settings = this.rig().connection[m.connection]?.settings
        if (settings?.kind === 'simulated controller')
          this.hands.send({ say: 'handle', identity: settings.identity, control: m.control, to: m.to })
        return null
      }
    }
  }
}
