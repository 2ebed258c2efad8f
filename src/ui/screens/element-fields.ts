import type { ElementKindName, ElementSettings } from '@/core/elements/elements'
import { partsToDraw } from '@/core/elements/part'

/** A setting of an element as a form shows it. */
export type ElementField =
  | {
      readonly as: 'number'
      readonly key: string
      readonly label: string
      readonly unit?: string
      readonly least?: number
      readonly most?: number
      /** What is shown while there is none, where there may be none. */
      readonly none?: string
    }
  | { readonly as: 'words'; readonly key: string; readonly label: string }
  | { readonly as: 'yes'; readonly key: string; readonly label: string }
  | { readonly as: 'colour'; readonly key: string; readonly label: string; readonly none?: string }
  | {
      readonly as: 'choice'
      readonly key: string
      readonly label: string
      readonly choices: readonly (readonly [value: string, word: string])[]
    }
  | { readonly as: 'unit'; readonly key: string; readonly label: string }
  /** Several of something, each with a form of its own. */
  | {
      readonly as: 'stops' | 'ranges' | 'bands' | 'choices' | 'points' | 'picture' | 'face'
      readonly key: string
      readonly label: string
    }

const number = (
  key: string,
  label: string,
  more: Partial<Extract<ElementField, { as: 'number' }>> = {},
): ElementField => ({
  ...{ as: 'number', key, label },
  ...more,
})
const colour = (key = 'colour', label = 'colour', none?: string): ElementField => ({
  ...{ as: 'colour', key, label },
  ...(none === undefined ? {} : { none }),
})
const yes = (key: string, label: string): ElementField => ({ as: 'yes', key, label })
const choice = (key: string, label: string, ...choices: (readonly [string, string])[]): ElementField => ({
  ...{ as: 'choice', key, label, choices },
})
const px = { unit: 'px', least: 0, most: 2000 }

const lettering: readonly ElementField[] = [
  number('sizePx', 'size', { unit: 'px', least: 4, most: 2000 }),
  choice('align', 'stands', ['start', 'left'], ['middle', 'in the middle'], ['end', 'right']),
  choice('face', 'letters', ['words', 'as on panels'], ['figures', 'all one width']),
  yes('bold', 'bold'),
]
const leastAndMost = [number('least', 'from'), number('most', 'to')]
const marks = [
  number('marksEvery', 'marks every', { least: 0 }),
  number('labelsEvery', 'figures every', { least: 0 }),
  number('labelPx', 'figures', { unit: 'px', least: 4, most: 400 }),
]
const ranges: ElementField = { as: 'ranges', key: 'ranges', label: 'Colours by value' }

/** Fields of each kind, in the order of their form; those that its settings make senseless are left out. */
const fields: {
  readonly [K in ElementKindName]: (s: Extract<ElementSettings, { kind: K }>) => readonly ElementField[]
} = {
  value: (s) => [
    choice(
      'as',
      'shows',
      ['number', 'a number'],
      ['text', 'a text'],
      ['time', 'a time'],
      ['choice', 'a choice in words'],
    ),
    ...(s.as === 'number' || s.as === 'time'
      ? [
          number('decimals', s.as === 'time' ? 'parts of a second' : 'behind the point', {
            least: 0,
            most: 6,
          }),
          number('digits', 'digits before it, at least', { least: 1, most: 12 }),
          yes('plus', 'with a plus'),
        ]
      : []),
    ...(s.as === 'time'
      ? [choice('largest', 'largest part', ['h', 'hours'], ['min', 'minutes'], ['s', 'seconds'])]
      : []),
    ...(s.as === 'number' ? [{ as: 'unit', key: 'unit', label: 'in' } as const] : []),
    { as: 'words', key: 'before', label: 'words before' },
    { as: 'words', key: 'after', label: 'words after' },
    ...(s.as === 'number' || s.as === 'time'
      ? [number('most', 'absurd beyond', { least: 1e-9, most: 1e12, none: 'a milliard' })]
      : []),
    ...(s.as === 'choice'
      ? [{ as: 'choices', key: 'choices', label: 'What each is shown as' } as const]
      : []),
    ...lettering,
    colour(),
    ranges,
  ],
  needle: () => [
    { as: 'points', key: 'points', label: 'Needle points' },
    yes('smooth', 'smooth between them'),
    yes('showsFace', 'with its face'),
    { as: 'face', key: 'face', label: 'Face' },
    number('dialMm', 'stands for a dial of', { unit: 'mm', least: 10, most: 300 }),
    choice('shape', 'needle', ['wedge', 'a wedge'], ['line', 'a line'], ['arrow', 'an arrow']),
    number('length', 'length, of the radius', { least: 0.1, most: 1 }),
    colour(),
    ranges,
  ],
  bar: () => [
    ...leastAndMost,
    choice(
      'along',
      'grows',
      ['right', 'to the right'],
      ['left', 'to the left'],
      ['up', 'upwards'],
      ['down', 'downwards'],
    ),
    choice(
      'grows',
      'from',
      ['start', 'its beginning'],
      ['end', 'its end'],
      ['middle', 'its middle'],
      ['zero', 'zero'],
    ),
    ...marks,
    colour(),
    colour('track', 'behind it'),
    { as: 'bands', key: 'bands', label: 'Stretches along its edge' },
    ranges,
  ],
  lamps: () => [
    number('lamps', 'lamps', { least: 1, most: 60 }),
    ...leastAndMost,
    choice(
      'fill',
      'fills',
      ['start', 'from the start'],
      ['end', 'from the end'],
      ['middle', 'from the middle'],
      ['all', 'all alike'],
    ),
    number('blinkAbove', 'blinks above', { none: 'never' }),
    number('gapPx', 'gaps', { unit: 'px', least: 0, most: 200 }),
    yes('round', 'round'),
    colour('colour', 'out'),
    yes('blend', 'blends between the colours'),
    { as: 'stops', key: 'stops', label: 'Colours' },
  ],
  annunciator: () => [
    { as: 'words', key: 'words', label: 'words' },
    choice('out', 'while out', ['readable', 'just readable'], ['dark', 'dark']),
    colour('ground', 'light'),
    colour('colour', 'words in it'),
    ...lettering,
  ],
  tape: () => [
    choice(
      'along',
      'rises',
      ['up', 'upwards'],
      ['down', 'downwards'],
      ['right', 'to the right'],
      ['left', 'to the left'],
    ),
    number('span', 'shows', { least: 1e-6 }),
    ...marks,
    number('least', 'begins at', { none: 'nowhere' }),
    number('most', 'ends at', { none: 'nowhere' }),
    number('round', 'goes round after', { least: 1e-6, none: 'never' }),
    yes('showsValue', 'with the value in figures'),
    colour(),
    colour('ground', 'ground'),
  ],
  compass: () => [
    choice('turns', 'what turns', ['card', 'the card'], ['pointer', 'the pointer']),
    yes('letters', 'N, E, S, W'),
    number('labelPx', 'figures', { unit: 'px', least: 4, most: 400 }),
    colour(),
    colour('ground', 'card'),
    colour('bugColour', 'pointer and bug'),
  ],
  horizon: () => [
    number('spanDeg', 'shows', { unit: '°', least: 10, most: 180 }),
    number('linesEvery', 'lines every', { unit: '°', least: 0, most: 90 }),
    number('labelPx', 'figures', { unit: 'px', least: 4, most: 400 }),
    yes('round', 'round'),
    colour('sky', 'sky'),
    colour('ground', 'ground'),
    colour('colour', 'lines'),
    colour('markColour', 'own mark'),
  ],
  trend: () => [
    number('seconds', 'over', { unit: 's', least: 2, most: 3600 }),
    number('least', 'from', { none: 'what is seen' }),
    number('most', 'to', { none: 'what is seen' }),
    number('linesEvery', 'lines every', { least: 0 }),
    number('widthPx', 'line', { unit: 'px', least: 0.5, most: 40 }),
    colour(),
    colour('ground', 'ground'),
  ],
  words: () => [{ as: 'words', key: 'text', label: 'words' }, ...lettering, colour()],
  frame: () => [
    number('widthPx', 'line', { ...px, most: 400 }),
    number('cornerPx', 'corners', px),
    colour(),
    colour('fill', 'inside', 'nothing'),
  ],
  line: () => [
    number('widthPx', 'line', { unit: 'px', least: 0.5, most: 400 }),
    number('dashPx', 'dashes', { ...px, most: 400 }),
    yes('rises', 'rises to the right'),
    colour(),
  ],
  arc: () => [
    number('fromDeg', 'from', { unit: '°', least: -720, most: 720 }),
    number('toDeg', 'to', { unit: '°', least: -720, most: 720 }),
    number('widthPx', 'line', { unit: 'px', least: 0.5, most: 400 }),
    yes('roundEnds', 'round ends'),
    colour(),
  ],
  touch: (s) => [
    { as: 'words', key: 'words', label: 'words' },
    ...(s.is === 'slider' ? [choice('along', 'rises', ['up', 'upwards'], ['right', 'to the right'])] : []),
    colour('ground', 'at rest'),
    colour('lit', 'touched, or on'),
    colour('colour', 'words and marks'),
    ...lettering,
  ],
  part: () => [choice('part', 'is', ...partsToDraw().map((k) => [k.id, k.name] as const))],
  picture: () => [{ as: 'picture', key: 'picture', label: 'picture' }, yes('stretches', 'fills its box')],
}

export const fieldsOf = (s: ElementSettings): readonly ElementField[] =>
  (fields[s.kind] as (s: ElementSettings) => readonly ElementField[])(s)
