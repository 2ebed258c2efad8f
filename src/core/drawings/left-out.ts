/** Why something in a file is not taken, by a code, with the words for people. */
export const reasons = {
  kind: 'is no line that a tool could follow',
  filling: 'is a filling; its edge counts where it is drawn as a line',
  dimension: 'is a dimension',
  letters: 'are letters set in a way that legends are not',
  paper: 'belongs to a sheet of paper, not to the model',
  invisible: 'is marked invisible',
  unpainted: 'has neither line nor filling',
  tilted: 'does not lie flat in the plane of the drawing',
  spline: 'is a curve whose numbers do not go together, or of a degree above three',
  'through points': 'is a curve of which only some points are given',
  elsewhere: 'is kept in another file',
  missing: 'repeats something that is not in the file',
  itself: 'contains itself',
  numbers: 'has numbers that are none',
  measure: 'has a measure that depends on a font or a window',
  transform: 'is moved in a way that is not flat, or not understood',
  clipped: 'is cut off by a frame or clip path',
  masked: 'is seen through a mask',
  style: 'stands in a style that is not read',
  broken: 'is broken',
  empty: 'has no length',
  open: 'does not close',
  outside: 'lies outside the edge',
  twice: 'is drawn a second time at the same place',
  frame: 'is a frame around the plate',
  layer: 'lies on a layer that is left out',
  tiny: 'encloses next to nothing',
} as const

export type Reason = keyof typeof reasons

/** Things of one sort on one layer that were left out for one reason. */
export interface LeftOut {
  readonly layer: string
  /** What the file calls it, or what it is. */
  readonly what: string
  readonly why: Reason
  readonly count: number
}

/** Counts what is left out, by layer, sort and reason. */
export class LeftList {
  private readonly counts = new Map<string, { layer: string; what: string; why: Reason; count: number }>()

  add(layer: string, what: string, why: Reason, count = 1): void {
    if (count <= 0) return
    const key = JSON.stringify([layer, what, why])
    const known = this.counts.get(key)
    if (known) known.count += count
    else this.counts.set(key, { layer, what: what.slice(0, 40), why, count })
  }

  get list(): readonly LeftOut[] {
    return [...this.counts.values()]
  }
}
