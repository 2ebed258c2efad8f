import type { Engine } from '../../core/engine/engine'
import type { ScreenCell } from '../../core/engine/screens'
import type { OfScreen } from '../../core/live/screen-feed'

/**
 * One screen that somebody looks at: what was told of it last. Asked again, it gives what differs now; it reads the values that
 * its properties are made of and works out only those whose values have changed.
 */
export class LookedScreen {
  private cells: readonly ScreenCell[] = []
  /** By cell, the values that it was made of. */
  private reads: (number | string | null)[][] = []
  private values: (number | string | null)[] = []
  private stale = ''
  private up = -1

  constructor(
    private readonly engine: Engine,
    readonly id: string,
  ) {}

  /** What follows values, told anew where that is something else than before; null where it is the same. */
  match(): OfScreen | null {
    const cells = this.engine.screens.cells(this.id)
    if (cells === this.cells) return null
    this.cells = cells
    this.reads = cells.map(() => [])
    this.values = cells.map(() => null)
    this.up = -1
    return this.describe()
  }

  describe(): OfScreen {
    const { cells, id } = this
    const problems = Object.fromEntries(
      cells.flatMap((c) => (c.problem === null ? [] : [[c.key, c.problem]])),
    )
    return { say: 'screen cells', screen: id, keys: cells.map((c) => c.key), problems }
  }

  /** What has changed since it was asked last, or null. */
  news(): OfScreen | null {
    const { engine, cells, values } = this
    const { variables, screens } = engine
    const { numbers, texts, isText } = variables
    const i: number[] = []
    const v: (number | string | null)[] = []
    const sourcesMoved = variables.up !== this.up
    this.up = variables.up
    for (let c = 0; c < cells.length; c++) {
      const cell = cells[c] as ScreenCell
      const was = this.reads[c] as (number | string | null)[]
      let moved = sourcesMoved
      for (let k = 0; k < cell.reads.length; k++) {
        const slot = cell.reads[k] as number
        const now = isText[slot] === 1 ? (texts[slot] ?? null) : (numbers[slot] as number)
        if (Object.is(now, was[k])) continue
        was[k] = now
        moved = true
      }
      // What reads nothing is worked out once.
      if (!moved) continue
      const value = screens.now(cell)
      if (Object.is(value, values[c])) continue
      values[c] = value
      i.push(c)
      v.push(value)
    }
    const stale = this.staleNow()
    const text = stale.join(' ')
    const isOther = text !== this.stale
    this.stale = text
    if (i.length === 0 && !isOther) return null
    return { say: 'screen values', screen: this.id, i, v, ...(isOther ? { stale } : {}) }
  }

  /** Everything, for whoever is new. */
  all(): OfScreen {
    const i = this.cells.map((_, c) => c)
    return { say: 'screen values', screen: this.id, i, v: this.values, stale: this.staleNow() }
  }

  private staleNow(): number[] {
    const { quiet, up } = this.engine.variables
    if ((quiet & up) === 0) return []
    return this.cells.flatMap((cell, c) => (this.engine.screens.isStale(cell) ? [c] : []))
  }
}
