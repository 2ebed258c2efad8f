type Value = number | string | null

/** The values of a source that says them by itself: which are wanted, what it said last, and what of that is still to be told. */
export class ToldValues {
  private wanted = new Uint8Array(0)
  /** What was said last, and what of it was told. */
  private said: (Value | undefined)[] = []
  private told: (Value | undefined)[] = []
  private indexes: number[] = []
  private values: Value[] = []

  /** So many values from now on, none of them said yet. */
  resize(count: number): void {
    this.said = new Array<Value | undefined>(count).fill(undefined)
    this.told = [...this.said]
    this.wanted = new Uint8Array(count)
  }

  /** What is wanted from now on: of what was not, the last that was said is told, although it may never be said again. */
  want(asked: readonly number[] | 'all'): void {
    this.wanted.fill(asked === 'all' ? 1 : 0)
    if (asked !== 'all') for (const i of asked) if (i < this.wanted.length) this.wanted[i] = 1
    for (let i = 0; i < this.told.length; i++) {
      const said = this.said[i]
      if (this.wanted[i] === 0) this.told[i] = undefined
      else if (said !== undefined) this.note(i, said)
    }
  }

  /** Everything that is wanted is to be told anew. */
  forget(): void {
    this.told.fill(undefined)
  }

  /** Nothing that was said holds any more. */
  lose(): void {
    for (let i = 0; i < this.said.length; i++) if (this.said[i] !== undefined) this.note(i, null)
  }

  readonly isWanted = (index: number): boolean => this.wanted[index] === 1

  readonly note = (index: number, value: Value): void => {
    this.said[index] = value
    if (this.wanted[index] === 0 || this.told[index] === value) return
    this.told[index] = value
    this.indexes.push(index)
    this.values.push(value)
  }

  /** What is to be told since the last call. */
  take(): { readonly indexes: number[]; readonly values: Value[] } {
    const { indexes, values } = this
    this.indexes = []
    this.values = []
    return { indexes, values }
  }
}
