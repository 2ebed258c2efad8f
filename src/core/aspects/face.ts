import { z } from 'zod'
import { finite } from './binding-fields'

/** What a stretch of a scale is marked with. */
export const bandColours = ['green', 'amber', 'red', 'white', 'blue'] as const
export type BandColour = (typeof bandColours)[number]

/** On which side of the middle words stand. */
export const captionSides = ['below', 'above', 'left', 'right'] as const

/** What numbers on a face can be divided by: 0.01 shows a share as percent. */
export const numberDivisors = [0.01, 0.1, 1, 10, 100, 1000] as const

/** How the face of a needle's scale is to look, where otherwise than it comes by itself. */
export const needleFace = z.strictObject({
  /** A long mark and a number at each multiple of so much; where not said, at the finest that finds room. */
  step: z.number().positive().max(1e9).optional(),
  /** Into how many parts short marks divide that; 1 has none. */
  divisions: z.number().int().min(1).max(20).optional(),
  divideBy: z.literal(numberDivisors).optional(),
  /** How high numbers are. */
  sizeMm: z.number().min(1.2).max(15).optional(),
  noNumbers: z.literal(true).optional(),
  /** Stretches of the scale in a colour; one that ends where it begins is a line across. */
  bands: z
    .array(z.strictObject({ from: finite, to: finite, colour: z.enum(bandColours) }))
    .max(12)
    .refine((bands) => bands.every((b) => b.to >= b.from), 'a band must end where it begins, or above')
    .optional(),
  captions: z
    .array(
      z.strictObject({
        text: z.string().trim().min(1).max(32),
        sizeMm: z.number().min(1.2).max(15),
        side: z.enum(captionSides),
      }),
    )
    .max(6)
    .optional(),
  /** What it is printed on. */
  ground: z.enum(['dark', 'light']).optional(),
})
export type NeedleFace = z.infer<typeof needleFace>
export type FaceBand = NonNullable<NeedleFace['bands']>[number]
export type FaceCaption = NonNullable<NeedleFace['captions']>[number]
