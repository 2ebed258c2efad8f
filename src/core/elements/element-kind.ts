import { z } from 'zod'
import { expression, finite, target } from '../aspects/binding-fields'
import type { ColourStop } from '../signal/colours'
import type { Wanted } from '../signal/expression/compile'

/** Dots of a screen; from its top left corner to the right and down. */
export type Pixels = number

/** A length or a place in dots; parts of one are allowed, so that what was scaled stays where it was. */
export const pixels = finite.min(-20_000).max(20_000)
export const positivePixels = finite.gt(0).max(20_000)

export const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is # and six hexadecimal digits')

/** What a property follows: a variable as `input`, or none, and its shaping. */
export const followed = z.strictObject({ variable: target.nullable(), show: expression })
export type Followed = z.infer<typeof followed>

/** Properties that every element has, whatever it is. */
export const commonProperties = ['visible', 'blink', 'colour', 'x', 'y', 'width', 'height', 'angle'] as const
export type CommonProperty = (typeof commonProperties)[number]

/** Every property that some element has. */
export const properties = [
  ...commonProperties,
  ...(['value', 'text', 'bug', 'pitch', 'roll', 'from', 'to'] as const),
] as const
export type ElementProperty = (typeof properties)[number]

/** What every element's settings hold beside its own. */
export const heldSettings = {
  /** What follows a value; everything else stays as it is set. */
  follows: z.partialRecord(z.enum(properties), followed).default({}),
  locked: z.boolean().optional(),
  group: z.string().min(1).max(80).optional(),
}

/** Colours by what is shown: of the last stop that is reached, or blended towards the next. */
export const colourRanges = z.strictObject({
  stops: z
    .array(z.strictObject({ at: finite, colour }))
    .min(1)
    .max(12)
    .refine((s) => s.every((q, i) => i === 0 || q.at > (s[i - 1] as ColourStop).at), 'stops must rise'),
  blend: z.boolean(),
})
export type ColourRanges = z.infer<typeof colourRanges>

/** How words are set. */
export const lettering = {
  sizePx: finite.min(4).max(2000),
  align: z.enum(['start', 'middle', 'end']),
  /** Words as on panels, or figures that all have one width. */
  face: z.enum(['words', 'figures']),
  bold: z.boolean(),
}

/** How large something is on its screen. */
export interface Extent {
  readonly width: Pixels
  readonly height: Pixels
}

/** A property that can follow a value. */
export interface LiveProperty {
  readonly property: ElementProperty
  readonly word: string
  readonly wanted: Wanted
}

const number: Wanted = { as: 'number' }

/** What each property is called, and what its shaping has to give, where its kind says nothing else. */
export const propertyRecords: Readonly<Record<ElementProperty, Omit<LiveProperty, 'property'>>> = {
  visible: { word: 'visible', wanted: { as: 'condition' } },
  blink: { word: 'blinks, a second', wanted: number },
  colour: { word: 'colour', wanted: { as: 'type', type: { is: 'text' } } },
  x: { word: 'x', wanted: number },
  y: { word: 'y', wanted: number },
  width: { word: 'width', wanted: number },
  height: { word: 'height', wanted: number },
  angle: { word: 'angle', wanted: number },
  value: { word: 'value', wanted: number },
  text: { word: 'text', wanted: { as: 'words' } },
  bug: { word: 'bug', wanted: number },
  pitch: { word: 'pitch', wanted: number },
  roll: { word: 'roll', wanted: number },
  from: { word: 'from', wanted: number },
  to: { word: 'to', wanted: number },
}

/** All that the core knows of one kind of element. */
export interface ElementKind<S extends z.ZodType> {
  readonly kind: string
  /** What it is called in lists. */
  readonly word: string
  /** What it is for, in one line. */
  readonly says: string
  readonly settings: S
  /** What of it can follow a value, beside what every element has; the first is its main one. */
  live(settings: z.infer<S>): readonly LiveProperty[]
  /** As it is put down. */
  fresh(): Extent & { readonly settings: z.infer<S> }
  /** What its value goes through when it is swept. */
  range(settings: z.infer<S>): readonly [least: number, most: number]
}

/** A property as its record has it, or with another shaping wanted. */
export const live = (property: ElementProperty, wanted?: Wanted): LiveProperty => ({
  property,
  ...propertyRecords[property],
  ...(wanted ? { wanted } : {}),
})

/** The settings that every element has when it is new. */
export const nothingFollowed = { follows: {} } as const
