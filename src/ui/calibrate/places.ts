import type { ComponentType } from 'react'
import type { Aspect } from '@/core/catalogue/part-kind'
import { KnobPlace } from './knob-place'
import { LadderPlace } from './ladder-place'
import { LeverPlace } from './lever-place'
import { LightPlace } from './light-place'
import type { MeasuredKindId } from './measured-kind'
import { NeedlePlace } from './needle-place'
import { SwitchPlace } from './switch-place'
import type { CalibrateProps } from './work-props'

/** A workplace for each kind of thing that is measured, and what it is called. */
const places = {
  buttons: { word: 'Buttons', Place: SwitchPlace },
  ladders: { word: 'Ladders', Place: LadderPlace },
  encoders: { word: 'Encoders', Place: KnobPlace },
  levers: { word: 'Levers', Place: LeverPlace },
  needles: { word: 'Needles', Place: NeedlePlace },
  lights: { word: 'Lights', Place: LightPlace },
}

export const measuredKinds = places as unknown as Readonly<
  Record<MeasuredKindId, { readonly word: string; readonly Place: ComponentType<CalibrateProps<Aspect>> }>
>
