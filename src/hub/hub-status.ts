import { addressOf, connectionKind } from '../core/connections/connections'
import type { Engine } from '../core/engine/engine'
import { differingParts, holdsWanted } from '../core/harness/configuration'
import type { Configuration } from '../core/harness/slot'
import type { BoardStatus, ConnectionStatus, Status } from '../core/live/feed'
import { PROGRAM } from '../core/programs/programs'
import type { CraftChoice } from '../core/rig/craft-sets'
import { boardsOf, type Rig } from '../core/rig/rig'
import type { BoardRow, ConnectionRow } from '../core/rig/rows'
import type { BoardClient } from './board-client'
import type { Client } from './client-of'
import type { Connections } from './connections'
import type { PluggedControllers } from './controllers/plugged-controllers'
import type { DrawnBoards } from './drawn-boards'
import type { HandClient } from './hand-client'
import type { Ports } from './ports'

interface Comparison {
  readonly differing: readonly string[]
  readonly loaded: boolean
}
const nothingCompared: Comparison = { differing: [], loaded: false }

/** What is connected, at what rate, and what each board holds against what is drawn. */
export class HubStatus {
  private readonly compared = new Map<string, Comparison & { rig: Rig; holds: Configuration }>()

  constructor(
    private readonly engine: Engine,
    private readonly connections: Connections,
    private readonly drawn: DrawnBoards,
    private readonly hands: HandClient,
    private readonly ports: Ports,
    private readonly controllers: PluggedControllers,
  ) {}

  now(database: Status['database'], choice: CraftChoice): Status {
    const t = performance.now()
    const rows = boardsOf(this.engine.rig)
    const boards = [...this.connections.boards()]
    const known = rows.map((row) => this.boardStatus(this.standsFor(row, boards), row, t))
    const strangers = boards
      .filter((b) => b.up && this.drawn.named(b.identity) === null)
      .map((b) => this.boardStatus(b, null, t))
    return {
      armed: this.engine.armed,
      craftSet: { holds: this.engine.craftSet, choice, crafts: craftsFlown(this.engine) },
      database,
      standins: this.hands.up ? 'up' : 'down',
      connections: this.connections.all.map((row) => this.connectionStatus(row, t)),
      boards: [...known, ...strangers],
      found: this.ports.found(),
      controllers: this.controllers.all(),
    }
  }

  /** Whoever answers for a drawn board, on whichever connection; or who did when it was last there. */
  private standsFor(row: BoardRow, boards: readonly BoardClient[]): BoardClient | undefined {
    return this.drawn.client(row.id) ?? boards.find((b) => b.identity !== '' && b.identity === row.identity)
  }

  private connectionStatus(row: ConnectionRow, t: number): ConnectionStatus {
    const client = this.connections.client(row.id)
    const up = client?.up ?? false
    const { carries } = connectionKind(row.settings.kind)
    const address = this.connections.addressOf(row)
    const meant = addressOf(row.settings)
    const moved = row.settings.kind === 'board serial' && address !== meant
    return {
      id: row.id,
      name: row.name,
      carries,
      state: !row.on ? 'off' : up ? 'up' : 'down',
      address,
      insteadOf: moved ? meant : null,
      who: client?.carries === 'source' ? client.craft : (client?.model ?? ''),
      identity: client?.carries === 'board' && client.identity !== '' ? client.identity : null,
      program: client?.carries === 'board' && up ? client.program : null,
      // One that is not there has none; asking keeps the count of it fresh.
      rateHz: client && up ? client.rate.update(t) : 0,
      delayMs: client && up && client.delayMs !== null ? tidyMs(client.delayMs) : null,
      dropped: client ? droppedOf(client) : 0,
      ...this.troubleOf(row, client),
      odd: client?.carries === 'source' ? [...client.odd, ...this.renamedOf(row.id)] : oldProgramOf(client),
    }
  }

  /** That names of a source are written otherwise, because another has them already. */
  private renamedOf(source: string): string[] {
    const [first, ...others] = this.engine.variables.renamed[source] ?? []
    if (first === undefined) return []
    const more = others.length > 0 ? ` and ${others.length} more` : ''
    return [`Names that another source has already: “${first}”${more}. Something in front tells them apart.`]
  }

  /** What is wrong with a connection, and its cure. */
  private troubleOf(
    row: ConnectionRow,
    client: Client | null,
  ): { problem: string | null; cure: string | null } {
    if (!row.on) return { problem: null, cure: null }
    if (!client) return { problem: 'it is not opened yet', cure: null }
    const double = client.carries === 'board' ? this.drawn.doubleOf(client) : null
    if (double) {
      const name = this.connections.all.find((r) => r.id === double.connection)?.name ?? 'another connection'
      return connectionKind(row.settings.kind).isSimulated
        ? { problem: `a real board has taken its place, on ${name}`, cure: null }
        : {
            problem: `another board says the same identity and stands for the drawn one, on ${name}; this one is told nothing`,
            cure: 'Give one of the two another identity: load its program anew.',
          }
    }
    if (client.up && client.line.flooded) return client.line.flooded
    return { problem: client.problem, cure: client.cure }
  }

  private boardStatus(client: BoardClient | undefined, row: BoardRow | null, t: number): BoardStatus {
    const up = client?.up ?? false
    const identity = row?.identity ?? client?.identity ?? ''
    const { differing, loaded } = up && client && row ? this.comparison(client, row.id) : nothingCompared
    return {
      id: row?.id ?? null,
      connection: client?.connection ?? null,
      identity,
      name: row?.name ?? 'A board nobody has drawn',
      model: row?.model ?? client?.model ?? '',
      state: up ? 'up' : 'down',
      problem: client?.problem ?? (up ? null : 'nobody with this identity has answered'),
      loaded,
      differing,
      loading: client?.loading ?? null,
      rateHz: up && client ? client.rate.update(t) : 0,
      bad: client ? droppedOf(client) : 0,
      limits: client?.limits ?? null,
      simulated: client?.isSimulated ?? this.hands.levels.has(identity),
    }
  }

  /** What a board holds against what is drawn, worked out once for each state of the two. */
  private comparison(client: BoardClient, boardId: string): Comparison {
    const { rig } = this.engine
    const known = this.compared.get(boardId)
    if (known && known.rig === rig && known.holds === client.holds) return known
    const differing = differingParts(rig, boardId, client.holds)
    const loaded = holdsWanted(rig, boardId, client.holds)
    const made = { rig, holds: client.holds, differing, loaded }
    this.compared.set(boardId, made)
    return made
  }
}

const droppedOf = (client: Client): number =>
  client.carries === 'board' ? client.bad + client.missed + client.badThere : client.bad

/** As exactly as it is worth telling: it changes with every measurement. */
const tidyMs = (ms: number): number => (ms < 10 ? Math.round(ms * 2) / 2 : Math.round(ms))

/** That a board's program is older than the one that there is. */
const oldProgramOf = (client: BoardClient | null): string[] =>
  client?.up && client.program !== null && client.program < PROGRAM
    ? [`Its program is number ${client.program}, and ${PROGRAM} comes with this Clavik: bring it up to date.`]
    : []

/** What is flown now: the crafts of the sources that are there. */
export const craftsFlown = ({ variables }: Engine): string[] =>
  variables.places.flatMap(({ craft }, i) => ((variables.up >> i) & 1 && craft !== '' ? [craft] : []))
