import type { ComponentType } from 'react'
import type { ControlAspect, IndicatorAspect } from '@/core/catalogue/part-kind'
import type { ControlSettings } from '@/core/rig/binding'
import type { PartRow } from '@/core/rig/rows'
import type { IndicatorFormProps } from '../editors/extra-expression'

export type When = ControlSettings['when']

interface AspectUi<A> {
  /** What one has to know to write its shaping. */
  readonly hint: string
  /** A form of what belongs to it whatever it is bound to. */
  readonly Own?: ComponentType<{ readonly part: PartRow; readonly aspect: A }>
}

/** All that the interface knows of one kind of control, beside how it is drawn and worked. */
export interface ControlUi<A extends ControlAspect> extends AspectUi<A> {
  /** On what a binding of it can act; with one, there is nothing to choose. */
  whens(aspect: A): readonly When[]
  /** How else a binding of it can be set. */
  readonly Tuning?: ComponentType<{
    readonly settings: ControlSettings
    readonly change: (next: ControlSettings) => void
  }>
}

/** All that the interface knows of one kind of indicator, beside how it is drawn. */
export interface IndicatorUi<A extends IndicatorAspect, S> extends AspectUi<A> {
  /** What it can show when its source is gone, in words. */
  readonly rests: Readonly<Record<string, string>>
  /** Whether what it shows is whole lines, which want more room in a list than a value. */
  readonly showsLines?: true
  /** How it shows what its shaping gives; left out where that is all there is to say. */
  readonly Shows?: ComponentType<IndicatorFormProps<S> & { readonly aspect: A }>
}
