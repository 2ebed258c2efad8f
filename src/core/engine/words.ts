import { controlKind, indicatorKind, ownSettings } from '../aspects/aspects'
import type { IndicatorAspect } from '../catalogue/part-kind'
import type { PartRow } from '../rig/rows'
import type { State } from '../signal/state'
import { type ControlUnit, standsOf } from './units'

/** What an indicator of a part shows, in words short enough for a station, a table or a pin. */
export const shownWords = (aspect: IndicatorAspect, settings: PartRow['settings'], state: State): string =>
  indicatorKind(aspect.kind).words(aspect, ownSettings(settings, aspect), state)

/** What a control stands at, in words. */
export const standsWords = (control: ControlUnit): string =>
  controlKind(control.aspect.kind).words(control.aspect, standsOf(control))

/** What its pins say. */
export const pinWords = ({ raw, aspect }: ControlUnit, pins: readonly string[]): string =>
  raw === null ? '' : controlKind(aspect.kind).pinWords(aspect, raw, pins)
