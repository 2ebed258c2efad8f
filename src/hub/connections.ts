import { addressOf, connectionKind } from '../core/connections/connections'
import { withWords } from '../core/rig/own-words'
import { connectionsOf, type Rig } from '../core/rig/rig'
import type { ConnectionRow } from '../core/rig/rows'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'
import type { Source } from '../core/rig/sources'
import type { BoardClient } from './board-client'
import { type Client, type ClientSurroundings, clientOf } from './client-of'
import type { Memory } from './memory'
import type { SourceClient } from './source-client'
import { standinsOf } from './standins-of'

interface Opened {
  readonly client: Client
  /** Its settings as they were opened with: others need another line. */
  readonly settings: string
}

/** Whether a catalogue tells what another one did: a simulator tells the same each time that it comes back. */
const isSame = (a: SimulatorCatalogue, b: SimulatorCatalogue | undefined): boolean =>
  a === b || (b !== undefined && JSON.stringify(a) === JSON.stringify(b))

/** Everything the open rig speaks with: opened, closed and changed as its rows are, each by itself. */
export class Connections {
  private readonly opened = new Map<string, Opened>()
  private rows: readonly ConnectionRow[] = []
  private running = false
  /** Connections whose port somebody else has for a while. */
  private readonly held = new Set<string>()
  private toldStandins = ''

  constructor(private readonly around: ClientSurroundings) {}

  /** Makes the connections those of the rig. What has not changed goes on as it was. */
  match(rig: Rig): void {
    this.rows = connectionsOf(rig)
    const wanted = new Map(this.rows.filter((r) => r.on).map((r) => [r.id, r]))
    for (const [id, { client, settings }] of this.opened) {
      const row = wanted.get(id)
      if (row && JSON.stringify(row.settings) === settings) continue
      this.opened.delete(id)
      client.close(row ? 'it is opened with other settings' : 'it is switched off')
    }
    this.tellStandins()
    for (const row of wanted.values()) {
      if (this.opened.has(row.id) || this.held.has(row.id)) continue
      const client = clientOf(row, this.around)
      this.opened.set(row.id, { client, settings: JSON.stringify(row.settings) })
      if (this.running) client.open()
    }
  }

  /** Which stand-ins there are to be; told when that changes, and anew when they have come back. */
  tellStandins(anew = false): void {
    const { hands, rigId } = this.around
    const message = {
      say: 'be',
      rig: rigId(),
      ...standinsOf(this.rows, (id) => this.client(id)),
    } as const
    const text = JSON.stringify(message)
    if (!hands.up || (text === this.toldStandins && !anew)) return
    this.toldStandins = text
    hands.send(message)
  }

  /** Takes a port from the connections that have it; what is given back lets them have it again. */
  hold(path: string, rig: () => Rig): () => void {
    const taken: string[] = []
    for (const [id, { client }] of this.opened) {
      if (client.line.where !== path) continue
      this.opened.delete(id)
      this.held.add(id)
      taken.push(id)
      client.close('its program is being written')
    }
    return () => {
      for (const id of taken.splice(0)) this.held.delete(id)
      this.match(rig())
    }
  }

  /** Something was plugged in or found, or a stand-in has come to another port: whoever waits for its port tries at once. */
  tryMissing(): void {
    for (const { line } of this.clients()) if (!line.isUp) line.tryNow()
  }

  /** Whether a connection leads to this port, or has it open. */
  hasPort(path: string, open: boolean): boolean {
    for (const { line } of this.clients()) if (line.where === path && (line.isUp || !open)) return true
    return false
  }

  /** Whether a board answers on this port. */
  boardIsUpOn(path: string): boolean {
    for (const { up, line } of this.boards()) if (up && line.where === path) return true
    return false
  }

  open(): void {
    this.running = true
    for (const { client } of this.opened.values()) client.open()
  }

  close(): void {
    for (const { client } of this.opened.values()) client.close('Clavik ends')
    this.opened.clear()
  }

  get all(): readonly ConnectionRow[] {
    return this.rows
  }

  client(connection: string): Client | null {
    return this.opened.get(connection)?.client ?? null
  }

  *clients(): Iterable<Client> {
    for (const { client } of this.opened.values()) yield client
  }

  *boards(): Iterable<BoardClient> {
    for (const client of this.clients()) if (client.carries === 'board') yield client
  }

  *sourceClients(): Iterable<SourceClient> {
    for (const client of this.clients()) if (client.carries === 'source') yield client
  }

  /** The sources that the rig has, on or off, with what each told last and the builder says of it; what is remembered of that is brought up to date. */
  sources({ catalogues, words }: Pick<Memory, 'catalogues' | 'words'>): Source[] {
    for (const { connection, catalogue } of this.sourceClients())
      if (catalogue && !isSame(catalogue, catalogues[connection])) catalogues[connection] = catalogue
    return this.rows.flatMap(({ id, name, on, settings }): Source[] => {
      if (connectionKind(settings.kind).carries !== 'source') return []
      const prefix = 'prefix' in settings ? settings.prefix : ''
      const told = catalogues[id]
      const catalogue = told ? withWords(told, words[told.craft]) : null
      return [{ id, name, on, prefix, catalogue }]
    })
  }

  /** Where a connection leads now, as people say it. */
  addressOf(row: ConnectionRow): string {
    return this.client(row.id)?.line.where || addressOf(row.settings)
  }
}
