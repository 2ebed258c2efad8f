/**
 * What has changed since somebody last asked: parts and values, each named once. It is filled as changes take effect,
 * so that whoever tells others of them pays for what changed and not for what there is.
 */
export class Changes {
  /** Everything may have changed: the rig, the simulator, the arm switch. */
  everything = true
  readonly parts = new Set<string>()
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

  get slots(): readonly number[] {
    return this.list
  }

  /** All that has changed is told. */
  clear(): void {
    this.everything = false
    this.parts.clear()
    for (const slot of this.list) this.flags[slot] = 0
    this.list = []
  }
}
