import type { ComponentType } from 'react'
import type { Aspect } from '@/core/catalogue/part-kind'
import { KnobPlace } from './knob-place'
import { LadderPlace } from './ladder-place'
import { LeverPlace } from './lever-place'
import { NeedlePlace } from './needle-place'
import { SwitchPlace } from './switch-place'
import type { CalibrateProps } from './work-props'

/** One kind of thing that is measured, with what measures it. */
interface MeasuredKind {
  readonly word: string
  readonly is: (aspect: Aspect) => boolean
  readonly Place: ComponentType<CalibrateProps<Aspect>>
}

/** Every kind of thing that is measured, in the order of the work. */
export const measuredKinds = {
  buttons: {
    word: 'Buttons',
    is: (a) => a.kind === 'positions' && a.wiper === undefined,
    Place: SwitchPlace as unknown as ComponentType<CalibrateProps<Aspect>>,
  },
  ladders: {
    word: 'Ladders',
    is: (a) => a.kind === 'positions' && a.wiper !== undefined,
    Place: LadderPlace as unknown as ComponentType<CalibrateProps<Aspect>>,
  },
  encoders: {
    word: 'Encoders',
    is: (a) => a.kind === 'encoder',
    Place: KnobPlace as unknown as ComponentType<CalibrateProps<Aspect>>,
  },
  levers: {
    word: 'Levers',
    is: (a) => a.kind === 'travel',
    Place: LeverPlace as unknown as ComponentType<CalibrateProps<Aspect>>,
  },
  needles: {
    word: 'Needles',
    is: (a) => a.kind === 'needle',
    Place: NeedlePlace as unknown as ComponentType<CalibrateProps<Aspect>>,
  },
} as const satisfies Record<string, MeasuredKind>

export type MeasuredKindId = keyof typeof measuredKinds
export const kindIds = Object.keys(measuredKinds) as MeasuredKindId[]
