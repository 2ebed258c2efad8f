import type { Band } from '../aspects/travel'

/** A place along a travel that a hand may move: where bands end or begin there. */
export interface BandEdge {
  readonly at: number
  /** The band that ends there, and the one that begins there; one of them is null at a gate or an end. */
  readonly ends: number | null
  readonly begins: number | null
}

/** The least that a band, or a gate, is wide. */
const LEAST_WIDTH = 0.001

/** Every edge of some bands, in their order; where one ends as the next begins they are one. */
export const edgesOfBands = (bands: readonly Band[]): BandEdge[] =>
  bands.flatMap((band, i) => {
    const next = bands[i + 1]
    const joined = bands[i - 1]?.to === band.from
    return [
      ...(joined ? [] : [{ at: band.from, ends: null, begins: i }]),
      { at: band.to, ends: i, begins: next && next.from === band.to ? i + 1 : null },
    ]
  })

/** The bands with one edge moved to a place, as far as its neighbours let it: they never overlap. */
export const moveEdge = (bands: readonly Band[], index: number, to: number): Band[] => {
  const edges = edgesOfBands(bands)
  const edge = edges[index]
  if (!edge) return [...bands]
  const least = index === 0 ? 0 : (edges[index - 1] as BandEdge).at + LEAST_WIDTH
  const most = index === edges.length - 1 ? 1 : (edges[index + 1] as BandEdge).at - LEAST_WIDTH
  if (least > most) return [...bands]
  const at = Number(Math.min(most, Math.max(least, to)).toFixed(4))
  return bands.map((b, i) => ({
    ...b,
    ...(edge.begins === i ? { from: at } : {}),
    ...(edge.ends === i ? { to: at } : {}),
  }))
}
