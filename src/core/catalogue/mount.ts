import type { Millimetres } from '../units-of-measure'

/** A hole through the plate, round the part's middle unless it is moved from there. */
export type Cutout =
  | {
      readonly is: 'round'
      readonly diameterMm: Millimetres
      readonly xMm?: Millimetres
      readonly yMm?: Millimetres
    }
  /** Round with a flat at its lower side, so that the part cannot turn. */
  | { readonly is: 'flat-sided'; readonly diameterMm: Millimetres; readonly acrossMm: Millimetres }
  | {
      readonly is: 'window'
      readonly widthMm: Millimetres
      readonly heightMm: Millimetres
      readonly cornerMm: Millimetres
      readonly xMm?: Millimetres
      readonly yMm?: Millimetres
    }

export interface Screw {
  readonly xMm: Millimetres
  readonly yMm: Millimetres
  readonly diameterMm: Millimetres
}

/** How a part sits in its plate. All measures as the trade usually makes them; a builder checks them with a caliper. */
export interface Mount {
  readonly cutouts: readonly Cutout[]
  readonly screws: readonly Screw[]
  /** What is behind the plate, as a box round the part's middle. */
  readonly body: {
    readonly widthMm: Millimetres
    readonly heightMm: Millimetres
    readonly depthMm: Millimetres
    readonly xMm?: Millimetres
    readonly yMm?: Millimetres
  }
  /** How far behind the plate standoffs carry it; 0 where it sits in the plate itself. */
  readonly standoffMm: Millimetres
  /** Room that a cap, a knob and the fingers on it take in front, as a box round the part's middle. */
  readonly reach: { readonly widthMm: Millimetres; readonly heightMm: Millimetres }
}

export const round = (diameterMm: Millimetres): Cutout => ({ is: 'round', diameterMm })

export const flatSided = (diameterMm: Millimetres, acrossMm: Millimetres): Cutout => ({
  is: 'flat-sided',
  diameterMm,
  acrossMm,
})

export const window = (widthMm: Millimetres, heightMm: Millimetres, cornerMm: Millimetres = 0.5): Cutout => ({
  is: 'window',
  widthMm,
  heightMm,
  cornerMm,
})

/** Four screws round the middle, so far apart. */
export const fourScrews = (xMm: Millimetres, yMm: Millimetres, diameterMm: Millimetres): readonly Screw[] =>
  [-1, 1].flatMap((sx) => [-1, 1].map((sy) => ({ xMm: (sx * xMm) / 2, yMm: (sy * yMm) / 2, diameterMm })))

const box = (widthMm: Millimetres, heightMm: Millimetres) => ({ widthMm, heightMm })

/** A part that is held by a nut on its own bush. */
export const bushed = (
  cutout: Cutout,
  body: readonly [width: Millimetres, height: Millimetres, depth: Millimetres],
  reach: readonly [width: Millimetres, height: Millimetres],
): Mount => ({
  cutouts: [cutout],
  screws: [],
  body: { ...box(body[0], body[1]), depthMm: body[2] },
  standoffMm: 0,
  reach: box(...reach),
})

/** A circuit board behind a window, on four standoffs. */
export const carried = (
  cutout: Cutout,
  board: readonly [width: Millimetres, height: Millimetres, depth: Millimetres],
  screws: readonly Screw[],
  standoffMm: Millimetres,
): Mount => {
  const seen = cutout.is === 'window' ? box(cutout.widthMm, cutout.heightMm) : box(board[0], board[1])
  return {
    cutouts: [cutout],
    screws,
    body: { ...box(board[0], board[1]), depthMm: board[2] },
    standoffMm,
    reach: seen,
  }
}
