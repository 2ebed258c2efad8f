import type { ColourAspect, DigitsAspect, LampAspect, TextAspect } from '@/core/catalogue/part-kind'

export type LightAspect = LampAspect | DigitsAspect | ColourAspect | TextAspect
export type LightStep = 'order' | 'count' | 'least' | 'most' | 'half' | 'contrast' | 'done'
export type Seen = 'R' | 'G' | 'B'

export const stepWords: Record<Exclude<LightStep, 'done'>, string> = {
  order: 'Its colours',
  count: 'All its lamps',
  least: 'Just seen',
  most: 'Bright enough',
  half: 'Half as bright',
  contrast: 'Contrast',
}

/** What is asked for of each, in its order. */
export const stepsOf = (aspect: LightAspect): readonly Exclude<LightStep, 'done'>[] => {
  if (aspect.kind === 'text') return ['contrast']
  const curve = ['least', 'most', 'half'] as const
  if (aspect.kind !== 'colour') return curve
  return aspect.lamps > 1 ? ['order', 'count', ...curve] : ['order', ...curve]
}

/** What it can be seen to show. */
export const colours: readonly [Seen, string][] = [
  ['R', 'Red'],
  ['G', 'Green'],
  ['B', 'Blue'],
]

/** What is asked for. */
export const says = (at: LightStep, seen: Seen | null): string => {
  switch (at) {
    case 'order':
      return seen === null ? 'It is told to be red. What is it?' : 'Now it is told to be green. What is it?'
    case 'count':
      return 'Until the last lamp is lit, and no further.'
    case 'least':
      return 'So dark that it is just seen.'
    case 'most':
      return 'As bright as you want it.'
    case 'half':
      return 'Half as bright as that.'
    case 'contrast':
      return 'Turn the screw on its back.'
    case 'done':
      return 'It is as your eye has it.'
  }
}

export const hints: Record<LightStep, string> = {
  order: 'What your eye sees is taken, whatever the strip was sold as.',
  count: '← → one lamp. Enter when the last is lit.',
  least: 'In the dark, from your seat. ← → a step, ↑ ↓ several. Enter takes it.',
  most: 'By day, from your seat. ← → a step, ↑ ↓ several. Enter takes it.',
  half: 'Compare with full, and trust your eye. Enter takes it.',
  contrast: 'Until the digits are dark and the empty places beside them are not seen.',
  done: 'Dimmed to half it looks half as bright; at the bottom of its dimmer it is just seen, or out.',
}
