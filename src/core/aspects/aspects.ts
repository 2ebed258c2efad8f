import type { z } from 'zod'
import {
  type Aspect,
  type ControlAspect,
  type IndicatorAspect,
  isControl,
  type PartKind,
} from '../catalogue/part-kind'
import type { ControlKind, IndicatorKind } from './aspect-kind'
import { colour } from './colour'
import { digits } from './digits'
import { encoder } from './encoder'
import { lamp } from './lamp'
import { needle, needleSettings } from './needle'
import { positions } from './positions'
import { text } from './text'
import { travel } from './travel'

/** Every kind of control and indicator there is. A new one is a record in a file of its own, and a line here. */
const controls = { positions, encoder, travel }
const indicators = { lamp, digits, text, needle, colour }

/** The schemas of what indicators are bound by, and of what parts say of single aspects. */
export const indicatorBindings = [
  lamp.binding,
  digits.binding,
  text.binding,
  needle.binding,
  colour.binding,
] as const
export const aspectSettingsSchemas = [
  positions.own,
  encoder.own,
  travel.own,
  needleSettings,
  lamp.own,
  digits.own,
  colour.own,
] as const

export type IndicatorBinding = z.infer<(typeof indicatorBindings)[number]>
export type AspectSettings = z.infer<(typeof aspectSettingsSchemas)[number]>

type AnyIndicator = IndicatorKind<IndicatorAspect, z.ZodType<IndicatorBinding>, AspectSettings>
type AnyControl = ControlKind<ControlAspect, z.ZodType<AspectSettings>>

/** What there is to know of an indicator's kind, or of a control's. */
export const indicatorKind = (kind: IndicatorAspect['kind']): AnyIndicator =>
  indicators[kind] as unknown as AnyIndicator
export const controlKind = (kind: ControlAspect['kind']): AnyControl =>
  controls[kind] as unknown as AnyControl

export const aspectKind = (aspect: Aspect): AnyIndicator | AnyControl =>
  isControl(aspect) ? controlKind(aspect.kind) : indicatorKind(aspect.kind)

/** The terminals through which a board sees or drives an aspect, in the order in which it counts them. */
export const boardTerminals = (kind: PartKind, aspect: Aspect): readonly string[] =>
  isControl(aspect)
    ? controlKind(aspect.kind).terminals(aspect, kind)
    : indicatorKind(aspect.kind).terminals(aspect)

/** What an aspect is called where its part has several of a kind. */
export const aspectWord = (aspect: Aspect): string => aspectKind(aspect).word

/** The settings that a part has for one of its aspects, where they are of its kind. */
export const ownSettings = (
  settings: { readonly aspects?: Readonly<Record<string, AspectSettings>> | undefined },
  aspect: Aspect,
): AspectSettings | undefined => {
  const found = settings.aspects?.[aspect.id]
  return found?.kind === aspect.kind ? found : undefined
}
