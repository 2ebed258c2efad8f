import type { Engine } from '../core/engine/engine'
import type { Input } from '../core/engine/input'
import { Trembling } from '../core/engine/trembling'
import { holdsWanted, wantedConfiguration } from '../core/harness/configuration'
import { BLANK, emptyConfiguration } from '../core/harness/slot'
import type { BoardClient } from './board-client'
import type { DrawnBoards } from './drawn-boards'
import type { MemoryFile } from './memory'

/** What the boards need of the hub. */
interface Surrounding {
  readonly boards: () => Iterable<BoardClient>
  readonly step: (input: Input) => void
  /** Says to every tab what went wrong. */
  readonly problem: (message: string) => void
  /** What is told of boards may be another. */
  readonly changed: () => void
  /** Where everything hangs may have changed. */
  readonly hung: () => void
}

/** Boards as the engine knows them: which of them stands for a drawn one, what it holds, and what is loaded into it. */
export class LoadedBoards {
  private readonly trembling = new Trembling()

  constructor(
    private readonly engine: Engine,
    private readonly drawn: DrawnBoards,
    private readonly file: MemoryFile,
    private readonly around: Surrounding,
  ) {}

  /** A board answers, or no longer, or holds something else. */
  changed(client: BoardClient): void {
    if (client.up) this.remember(client)
    const stood = this.drawn.drawn(client)
    this.drawn.match(this.engine.rig)
    const boardId = stood ?? this.drawn.named(client.identity)
    if (boardId !== null) this.take(boardId)
    this.around.changed()
  }

  /** The same of every board that answers: what is drawn of boards has changed. */
  allChanged(): void {
    for (const b of this.around.boards()) if (b.up) this.changed(b)
  }

  /** Which board answers on a connection, so that it is known again on another port. */
  private remember({ connection, identity }: BoardClient): void {
    const { identities } = this.file.memory
    if (identities[connection] === identity) return
    identities[connection] = identity
    this.file.keep()
  }

  /** Tells the engine of the board that stands for a drawn one now, if there is any. */
  private take(boardId: string): void {
    const client = this.drawn.client(boardId)
    this.around.step({
      is: 'board',
      boardId,
      up: client !== undefined,
      loaded: client?.holds ?? emptyConfiguration,
      boot: client?.boot ?? 0,
      bytesPerS: client?.limits?.bytesPerS ?? 0,
    })
    this.around.hung()
    // A board that holds nothing yet has nothing to lose: it is loaded without asking.
    if (client?.fingerprint === BLANK) void this.load(boardId)
    else if (client?.holdsAnything) this.keepHolding(boardId)
  }

  /** What holds whatever it is given is given what is drawn, whenever that is something else. */
  private keepHolding(boardId: string): void {
    const client = this.drawn.client(boardId)
    if (client?.holdsAnything && !holdsWanted(this.engine.rig, boardId, client.holds)) void this.load(boardId)
  }

  /** The same of all, after an edit. */
  allKeepHolding(): void {
    for (const { identity, holdsAnything } of this.around.boards())
      if (holdsAnything) this.keepHolding(this.drawn.named(identity) ?? '')
  }

  /** The part that a report is of, where a hand has operated it; what a board tells when it comes back is no operation. */
  operatedBy(boardId: string, slot: number, value: number): string | null {
    const seat = this.engine.boards.get(boardId)?.owners.get(slot)
    if (seat?.is !== 'control') return null
    return this.trembling.isOperated(seat, seat.raw, value) ? seat.unit.part.id : null
  }

  /** Loads a board with what is drawn for it; what goes wrong is said to every tab. */
  async load(boardId: string): Promise<void> {
    const client = this.drawn.client(boardId)
    const name = this.engine.rig.board[boardId]?.name ?? 'The board'
    if (!client) {
      this.around.problem(`${name} is not connected; nothing was loaded.`)
      return
    }
    const wanted = wantedConfiguration(this.engine.rig, boardId)
    if (wanted.slots.length === 0 && client.fingerprint === BLANK) return
    const problem = await client.load(wanted)
    if (problem !== null)
      this.around.problem(`${name} was not loaded: ${problem}. It keeps what it held before.`)
    this.around.changed()
  }
}
