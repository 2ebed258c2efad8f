import { z } from 'zod'
import { annunciator } from './annunciator'
import { bar } from './bar'
import { compass } from './compass'
import { commonProperties, type ElementKind, type LiveProperty, live } from './element-kind'
import { horizon } from './horizon'
import { lamps } from './lamps'
import { needle } from './needle'
import { part } from './part'
import { arc, frame, line, picture, words } from './shapes'
import { tape } from './tape'
import { touch } from './touch'
import { trend } from './trend'
import { value } from './value'

/** Every kind of element, in the order in which it is offered. */
const all = {
  value,
  needle,
  bar,
  lamps,
  annunciator,
  tape,
  compass,
  horizon,
  trend,
  words,
  frame,
  line,
  arc,
  picture,
  touch,
  part,
}

export type ElementKindName = keyof typeof all

export const elementSettings = z.discriminatedUnion('kind', [
  value.settings,
  needle.settings,
  bar.settings,
  lamps.settings,
  annunciator.settings,
  tape.settings,
  compass.settings,
  horizon.settings,
  trend.settings,
  words.settings,
  frame.settings,
  line.settings,
  arc.settings,
  picture.settings,
  touch.settings,
  part.settings,
])
export type ElementSettings = z.infer<typeof elementSettings>

export const elementKinds = all as unknown as Readonly<
  Record<ElementKindName, ElementKind<z.ZodType<ElementSettings>>>
>

export const elementKind = (s: Pick<ElementSettings, 'kind'>): ElementKind<z.ZodType<ElementSettings>> =>
  elementKinds[s.kind]

/** All that can follow a value: what its kind has, then what every element has. */
export const livePropertiesOf = (s: ElementSettings): LiveProperty[] => [
  ...elementKind(s).live(s),
  ...commonProperties.map((p) => live(p)),
]
