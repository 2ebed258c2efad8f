/** Change by state before and after, each two bits (A high): the usual table; a jump over a state counts nothing. */
const table = [0, -1, 1, 0, 1, 0, 0, -1, -1, 0, 0, 1, 0, 1, -1, 0] as const

/** Counts contact changes of two contacts a quarter apart, up to 65,536 and round again. */
export class Quadrature {
  count = 0
  private state: number | null = null

  take(a: boolean, b: boolean): void {
    const state = (a ? 2 : 0) | (b ? 1 : 0)
    if (this.state !== null)
      this.count = (this.count + (table[this.state * 4 + state] ?? 0) + 0x10000) & 0xffff
    this.state = state
  }
}
