/** An aspect of a part, with the round of telling in which it was last noted. */
interface Noted {
  notedIn: number
  readonly unit: { readonly part: { readonly id: string } }
}

/**
 * What has changed since somebody last asked: parts and values, each named once. It is filled as changes take effect,
 * so that whoever tells others of them pays for what changed and not for what there is.
 */
export class Changes {
  /** Everything may have changed: the rig, the simulator, the arm switch. */
  everything = true
  private readonly named = new Set<string>()
  private seats: Noted[] = []
  private round = 1
  private flags = new Uint8Array(0)
  private list: number[] = []

  /** There are so many values now. */
  resize(slots: number): void {
    this.flags = new Uint8Array(slots)
    this.list = []
    this.everything = true
  }

  /** A value has changed. In the way of every frame, so it does as little as can be. */
  slot(slot: number): void {
    if (this.flags[slot] !== 0) return
    this.flags[slot] = 1
    this.list.push(slot)
  }

  /** A part has changed. */
  part(id: string): void {
    this.named.add(id)
  }

  /** An aspect of a part has. In the way of every frame, too: whose part it is, is seen when it is told. */
  seat(seat: Noted): void {
    if (seat.notedIn === this.round) return
    seat.notedIn = this.round
    this.seats.push(seat)
  }

  /** The parts that have changed. */
  get parts(): ReadonlySet<string> {
    for (const seat of this.seats) this.named.add(seat.unit.part.id)
    this.seats = []
    return this.named
  }

  get slots(): readonly number[] {
    return this.list
  }

  /** All that has changed is told. */
  clear(): void {
    this.everything = false
    this.named.clear()
    this.seats = []
    this.round++
    for (const slot of this.list) this.flags[slot] = 0
    this.list = []
  }
}
