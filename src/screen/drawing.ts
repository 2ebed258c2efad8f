import type { PartKind } from '../core/catalogue/part-kind'
import type { ElementProperty, Extent } from '../core/elements/element-kind'
import type { ElementSettings } from '../core/elements/elements'
import type { Touched } from '../core/elements/touch'
import { ABSENT } from '../core/elements/value'
import type { PictureRow } from '../core/rig/rows'
import { type ColourRule, colourAt } from '../core/signal/colours'
import type { State } from '../core/signal/state'
import type { Millis } from '../core/units-of-measure'

/** What the properties of an element are now: null is absent, and what is not there follows nothing. */
export type ElementShown = Readonly<Partial<Record<ElementProperty, number | string | null>>>

/** Draws a part of the catalogue into a group, and gives what shows a state on it. */
export type PartDrawer = (group: SVGGElement, kind: PartKind) => (state: State) => void

/** Whom drawings ask for what lies beyond their own element. */
export interface Around {
  readonly picture: (id: string) => PictureRow | undefined
  readonly now: () => Millis
  /** Whoever draws parts of the catalogue, where somebody does. */
  readonly parts?: PartDrawer | null
  /** A finger on the element; left out where nothing is to be touched. */
  readonly touch?: (by: Touched) => void
}

/** Shows values; true where it wants to be asked again soon, although nothing has changed. */
export type Show = (shown: ElementShown) => boolean | undefined

/** Draws an element into a group, from its own top left corner, and gives what shows values in it. */
export type DrawElement<S extends ElementSettings> = (
  group: SVGGElement,
  settings: S,
  extent: Extent,
  around: Around,
) => Show

/** What colours may be called in an expression, beside # and six digits. */
const named: Readonly<Record<string, string>> = {
  white: '#eef2ee',
  grey: '#8b989d',
  black: '#0d1214',
  green: '#3fbf6a',
  amber: '#f2a93b',
  red: '#e0483c',
  blue: '#5aa0e0',
}

/** A colour that an expression gives, or what is set where it gives none. */
export const givenColour = (given: number | string | null | undefined, set: string): string => {
  if (typeof given !== 'string') return set
  return named[given] ?? (/^#[0-9a-fA-F]{6}$/.test(given) ? given : set)
}

const hex = (rgb: readonly number[]): string => `#${rgb.map((c) => c.toString(16).padStart(2, '0')).join('')}`

/** The colour of something that shows a value: the one that it follows, that of the value's range, or as it is set. */
export const colourFor = (
  s: { readonly colour: string; readonly ranges?: Pick<ColourRule, 'stops' | 'blend'> | null },
  { colour, value }: ElementShown,
): string => {
  if (colour !== undefined) return givenColour(colour, s.colour)
  if (!s.ranges || typeof value !== 'number' || !Number.isFinite(value)) return s.colour
  return hex(colourAt(s.ranges.stops, s.ranges.blend, value))
}

/** Words that are followed, as they are set where they follow nothing, or the sign of what is absent. */
export const wordsFor = (given: number | string | null | undefined, set: string): string =>
  given === undefined ? set : given === null || Number.isNaN(given) ? ABSENT : String(given)

/** A number that is there. */
export const numberIn = (value: number | string | null | undefined): number | null =>
  typeof value === 'number' && Number.isFinite(value) ? value : null
