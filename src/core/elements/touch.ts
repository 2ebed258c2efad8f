import { z } from 'zod'
import { colour, type ElementKind, heldSettings, lettering, live, nothingFollowed } from './element-kind'

export const touchKinds = ['button', 'slider', 'knob'] as const
export type TouchKind = (typeof touchKinds)[number]

const settings = z.strictObject({
  kind: z.literal('touch'),
  ...heldSettings,
  ...lettering,
  is: z.enum(touchKinds),
  /** The part that it is: bound, layered and calibrated like any other. Null while it is none. */
  part: z.string().max(80).nullable(),
  words: z.string().max(120),
  /** Whither a slider rises. */
  along: z.enum(['up', 'right']),
  /** Words and marks; the ground at rest, and while it is touched or its value is on. */
  colour,
  ground: colour,
  lit: colour,
})
export type TouchSettings = z.infer<typeof settings>

export const touch: ElementKind<typeof settings> = {
  kind: 'touch',
  word: 'Touch',
  says: 'a button, slider or knob for a finger',
  settings,
  live: (s) => [live('value', s.is === 'button' ? { as: 'condition' } : undefined), live('text')],
  fresh: () => ({
    width: 110,
    height: 60,
    settings: {
      ...nothingFollowed,
      ...{ kind: 'touch', is: 'button', part: null, words: 'PUSH', along: 'up' },
      ...{ colour: '#e6ebe7', ground: '#2a3337', lit: '#2f6d9e' },
      ...{ sizePx: 18, align: 'middle', face: 'words', bold: true },
    },
  }),
  range: () => [0, 1],
}

/** What a finger does: presses or lets go, slides to a share of the way, turns by clicks. */
export const touched = z.union([
  z.strictObject({ press: z.boolean() }),
  z.strictObject({ level: z.number().min(0).max(1) }),
  z.strictObject({ turn: z.int().min(-20).max(20) }),
])
export type Touched = z.infer<typeof touched>

/** A finger has to go round a knob by so much for a click. */
export const CLICK_DEG = 15

/** The level of a slider where a finger lies along it, in its own dots. */
export const levelAt = (
  along: TouchSettings['along'],
  { width, height }: { readonly width: number; readonly height: number },
  x: number,
  y: number,
): number =>
  Math.min(1, Math.max(0, along === 'right' ? x / Math.max(1, width) : 1 - y / Math.max(1, height)))

/** Clicks between two places of a finger round the middle of a knob, clockwise above zero, and what is left over, in degrees. */
export const clicksBetween = (
  fromDeg: number,
  toDeg: number,
  left: number,
): { readonly clicks: number; readonly left: number } => {
  const by = ((((toDeg - fromDeg) % 360) + 540) % 360) - 180 + left
  const clicks = Math.trunc(by / CLICK_DEG)
  return { clicks, left: by - clicks * CLICK_DEG }
}
