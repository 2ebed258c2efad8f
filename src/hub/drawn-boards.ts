import type { DrivenSlot } from '../core/harness/slot'
import { solderedOn } from '../core/harness/soldered'
import { type Rig, rowsOf } from '../core/rig/rig'
import type { BoardClient } from './board-client'
import type { SomeBoard } from './board-talk'
import type { HandClient } from './hand-client'

/** Which real board stands for which drawn one, and what the simulated ones have soldered on. */
export class DrawnBoards {
  /** Drawn boards by the identity of the real one. */
  private readonly byIdentity = new Map<string, string>()
  /** The real one that stands for a drawn board, and the other way round. */
  private readonly clients = new Map<string, BoardClient>()
  private readonly drawnOf = new Map<SomeBoard, string>()
  /** What the simulated boards were told last of what is soldered to them, by identity. */
  private readonly soldered = new Map<string, string>()

  constructor(
    private readonly all: () => Iterable<BoardClient>,
    private readonly hands: HandClient,
  ) {}

  /**
   * Looked up with every report and every output; so it is matched when either side changes. Of several boards with one
   * identity one stands for the drawn board and the others are told nothing: a real one goes before a simulated one,
   * and the one that stood for it before goes before another.
   */
  match(rig: Rig): void {
    const before = new Map(this.clients)
    this.byIdentity.clear()
    this.clients.clear()
    this.drawnOf.clear()
    for (const { id, identity } of rowsOf(rig, 'board')) if (identity) this.byIdentity.set(identity, id)
    for (const client of this.all()) {
      const boardId = client.up ? this.byIdentity.get(client.identity) : undefined
      if (boardId === undefined) continue
      const other = this.clients.get(boardId)
      if (!other || goesBefore(client, other, before.get(boardId))) this.clients.set(boardId, client)
    }
    for (const [boardId, client] of this.clients) this.drawnOf.set(client, boardId)
  }

  /** The drawn board that this one stands for, or null. */
  drawn(client: SomeBoard): string | null {
    return this.drawnOf.get(client) ?? null
  }

  /** The drawn board with the identity that this one says, whether or not it stands for it. */
  named(identity: string): string | null {
    return this.byIdentity.get(identity) ?? null
  }

  /** The board that stands for a drawn one. */
  client(boardId: string): BoardClient | undefined {
    const client = this.clients.get(boardId)
    return client?.up ? client : undefined
  }

  /** Another board that says the same identity as the one that stands for a drawn board; null for any other. */
  doubleOf(client: BoardClient): BoardClient | null {
    const other = this.clients.get(this.byIdentity.get(client.identity) ?? '')
    return client.up && other && other !== client ? other : null
  }

  /** Simulated boards have soldered on what is drawn, chips, lamps and displays; whether they know of it is a matter of loading. */
  solder(rig: Rig): void {
    for (const { id, identity } of rowsOf(rig, 'board')) {
      if (identity === null || !this.hands.boardPorts.has(identity)) continue
      const there = solderedOn(rig, id)
      const text = JSON.stringify(there)
      if ((this.soldered.get(identity) ?? NOTHING) === text) continue
      this.soldered.set(identity, text)
      const chips = there.chips.map((c) => ({ ...c, pins: [...c.pins] }))
      const natures = there.natures.map((n) => ({ places: [...n.places], nature: n.nature }))
      this.hands.send({ say: 'solder', identity, chips, slots: there.slots.map(asMessage), natures })
    }
    // One that comes back has nothing soldered on.
    for (const identity of this.soldered.keys())
      if (!this.hands.boardPorts.has(identity)) this.soldered.delete(identity)
  }

  /** The simulated boards are new: they have nothing soldered on. */
  solderAnew(rig: Rig): void {
    this.soldered.clear()
    this.solder(rig)
  }
}

const NOTHING = JSON.stringify({ chips: [], slots: [], natures: [] })

const asMessage = (slot: DrivenSlot) => ('pins' in slot ? { ...slot, pins: [...slot.pins] } : { ...slot })

const goesBefore = (a: BoardClient, b: BoardClient, stood: BoardClient | undefined): boolean =>
  a.isSimulated !== b.isSimulated ? b.isSimulated : a === stood
