import type { Aspect } from '@/core/catalogue/part-kind'

/** The kinds of things that are measured, in the order of the work. */
export const kindIds = ['buttons', 'ladders', 'encoders', 'levers', 'needles', 'lights'] as const
export type MeasuredKindId = (typeof kindIds)[number]

/** As what an aspect is measured; null for what is not. */
export const measuredAs = (aspect: Aspect): MeasuredKindId | null => {
  switch (aspect.kind) {
    case 'positions':
      // The sensor of a needle is watched with it.
      if (aspect.senses !== undefined) return null
      return aspect.wiper === undefined ? 'buttons' : 'ladders'
    case 'encoder':
      return 'encoders'
    case 'travel':
      return 'levers'
    case 'needle':
      return 'needles'
    default:
      return 'lights'
  }
}
