import { z } from 'zod'
import { measuredLight } from './measured'

const share = z.number().min(0).max(1)

/** How strongly something shines for how bright it is to be, as a builder's eye has it; shares of full strength. */
export const lightCurve = {
  /** Just seen in the dark. */
  least: share.optional(),
  /** As bright as it is wanted. */
  most: share.optional(),
  /** Above 1 it rises slowly at first, as eyes want it. */
  bend: z.number().min(0.3).max(4).optional(),
  measured: measuredLight.optional(),
}

export interface LightCurve {
  readonly least?: number | undefined
  readonly most?: number | undefined
  readonly bend?: number | undefined
}

/** The strength that half way up has when nothing is said of it: all of it, straight. */
const PLAIN = { least: 0, most: 1, bend: 1 } as const

/** From how bright it is to be to how strongly it shines, both 0 to 1. Out stays out, whatever the curve. */
export const strengthOf = (curve: LightCurve | undefined, brightness: number): number => {
  if (!(brightness > 0)) return 0
  const { least = PLAIN.least, most = PLAIN.most, bend = PLAIN.bend } = curve ?? {}
  return least + (Math.max(least, most) - least) * Math.min(1, brightness) ** bend
}

/** The bend with which half way up shines so strongly: the inverse of `strengthOf` at a half, within what a curve can. */
export const bendFor = (least: number, most: number, half: number): number => {
  const up = (half - least) / (most - least)
  if (!(up > 0) || up >= 1) return PLAIN.bend
  return Number(Math.min(4, Math.max(0.3, Math.log(up) / Math.log(0.5))).toFixed(2))
}

/** Whether a curve changes anything. */
export const isCurved = (curve: LightCurve | undefined): boolean =>
  curve !== undefined && (curve.least !== undefined || curve.most !== undefined || curve.bend !== undefined)
