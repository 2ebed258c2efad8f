import type { Engine } from '../core/engine/engine'
import { differingParts, holdsWanted } from '../core/harness/configuration'
import type { Configuration } from '../core/harness/slot'
import type { BoardStatus, Status } from '../core/live/feed'
import { boardsOf, type Rig } from '../core/rig/rig'
import type { BoardClient } from './board-client'
import type { HandClient } from './hand-client'
import type { SimulatorClient } from './simulator-client'

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
    private readonly simulator: SimulatorClient,
    private readonly boards: readonly BoardClient[],
    private readonly hands: HandClient,
  ) {}

  now(database: Status['database']): Status {
    const t = performance.now()
    const drawn = boardsOf(this.engine.rig)
    const known = drawn.map((row) => {
      // On whichever port it answers now, not on the one where it was once.
      const known = this.boards.filter((b) => b.identity === row.identity)
      const client = known.find((b) => b.up) ?? known[0]
      return this.boardStatus(client, row.id, row.identity ?? '', row.name, row.model, t)
    })
    const strangers = this.boards
      .filter((b) => b.up && !drawn.some((row) => row.identity === b.identity))
      .map((b) => this.boardStatus(b, null, b.identity, 'A board nobody has drawn', b.model, t))
    // Something answers, but not as a board that could be known: it is named by its port.
    const noise = this.boards
      .filter((b) => !b.up && b.identity === '' && b.talking)
      .map((b) => this.boardStatus(b, null, `port ${b.port}`, `What answers on port ${b.port}`, '', t))
    const { craft, problem, up, rate, odd } = this.simulator
    return {
      armed: this.engine.armed,
      database,
      standins: this.hands.up ? 'up' : 'down',
      simulator: { state: up ? 'up' : 'down', craft, rateHz: up ? rate.update(t) : 0, problem, odd },
      boards: [...known, ...strangers, ...noise],
    }
  }

  private boardStatus(
    client: BoardClient | undefined,
    id: string | null,
    identity: string,
    name: string,
    model: string,
    t: number,
  ): BoardStatus {
    const up = client?.up ?? false
    const { differing, loaded } = up && client && id !== null ? this.comparison(client, id) : nothingCompared
    return {
      id,
      identity,
      name,
      model,
      state: up ? 'up' : 'down',
      problem: client?.problem ?? (up ? null : 'nobody with this identity has answered'),
      loaded,
      differing,
      loading: client?.loading ?? null,
      rateHz: up && client ? client.rate.update(t) : 0,
      bad: client ? client.bad + client.missed + client.badThere : 0,
      limits: client?.limits ?? null,
      simulated: this.hands.levels.has(identity),
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
