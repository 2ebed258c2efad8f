import { chipsOf } from '../core/harness/lines'
import { type Rig, rowsOf } from '../core/rig/rig'
import type { BoardClient } from './board-client'
import type { HandClient } from './hand-client'

/** Which real board stands for which drawn one, and what the simulated ones have soldered on. */
export class DrawnBoards {
  /** Drawn boards by the identity of the real one, and the other way round. */
  private readonly byIdentity = new Map<string, string>()
  private readonly clients = new Map<string, BoardClient>()
  /** What the simulated boards were told last of what is soldered to them, by identity. */
  private readonly soldered = new Map<string, string>()

  constructor(
    private readonly all: readonly BoardClient[],
    private readonly hands: HandClient,
  ) {}

  /** Looked up with every report and every output; so it is matched when either side changes. */
  match(rig: Rig): void {
    this.byIdentity.clear()
    this.clients.clear()
    for (const { id, identity } of rowsOf(rig, 'board')) if (identity) this.byIdentity.set(identity, id)
    for (const client of this.all) {
      const boardId = client.up ? this.byIdentity.get(client.identity) : undefined
      if (boardId !== undefined) this.clients.set(boardId, client)
    }
  }

  /** The drawn board that a real one stands for, or null. */
  drawn(identity: string): string | null {
    return this.byIdentity.get(identity) ?? null
  }

  /** The real one, if it is connected. */
  client(boardId: string): BoardClient | undefined {
    const client = this.clients.get(boardId)
    return client?.up ? client : undefined
  }

  /** Simulated boards have the chips soldered on that are drawn; whether they know of them is a matter of loading. */
  solder(rig: Rig): void {
    for (const { id, identity } of rowsOf(rig, 'board')) {
      if (identity === null || !this.hands.up) continue
      const chips = chipsOf(rig, id).map((c) => ({ ...c, pins: [...c.pins] }))
      const text = JSON.stringify(chips)
      if ((this.soldered.get(identity) ?? '[]') === text) continue
      this.soldered.set(identity, text)
      this.hands.send({ say: 'solder', identity, chips })
    }
  }

  /** The simulated boards are new: they have nothing soldered on. */
  solderAnew(rig: Rig): void {
    this.soldered.clear()
    this.solder(rig)
  }
}
