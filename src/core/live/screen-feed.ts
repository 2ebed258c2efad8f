import type { ScreenContent } from '../screens/content'

/** What whoever shows a screen is told of it: tabs of the builder, and devices that show nothing else. */
export type OfScreen =
  /** What it is made of; null where there is none of that name, with those that there are. Told to devices only. */
  | {
      readonly say: 'screen content'
      readonly content: ScreenContent | null
      readonly names: readonly string[]
      readonly mayTouch: boolean
    }
  /** What of it follows values, in the order of their numbers from here on, and why some cannot. */
  | {
      readonly say: 'screen cells'
      readonly screen: string
      readonly keys: readonly string[]
      readonly problems: Readonly<Record<string, string>>
    }
  /** Values by number; null is absent. `stale` are the numbers of all whose source has told nothing for a while, where that has changed. */
  | {
      readonly say: 'screen values'
      readonly screen: string
      readonly i: readonly number[]
      readonly v: readonly (number | string | null)[]
      readonly stale?: readonly number[]
    }
  /** To a device: why a finger on it did nothing. */
  | { readonly say: 'screen refused'; readonly words: string }
