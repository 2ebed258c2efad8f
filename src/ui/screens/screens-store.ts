import { create } from 'zustand'
import type { ElementProperty } from '@/core/elements/element-kind'
import { elementKind, livePropertiesOf } from '@/core/elements/elements'
import type { ElementRow } from '@/core/rig/rows'
import { screenKey } from '@/core/screens/screen-key'

export type Trying = 'live' | 'samples' | 'sweep'
type Value = number | string | null

interface State {
  readonly screenId: string | null
  readonly pageId: string | null
  readonly trying: Trying
  /** Values typed to be looked at, by key. */
  readonly samples: ReadonlyMap<string, Value>
  readonly drawer: 'element' | 'screen'
}

export const useScreens = create<State>()(() => ({
  screenId: null,
  pageId: null,
  trying: 'live',
  samples: new Map<string, Value>(),
  drawer: 'element',
}))

export const setSample = (key: string, value: Value | undefined): void =>
  useScreens.setState((s) => {
    const samples = new Map(s.samples)
    if (value === undefined) samples.delete(key)
    else samples.set(key, value)
    return { samples }
  })

/** How long a sweep takes there and back. */
const SWEEP_MS = 4000

/** Where a sweep is after so long: there and back, 0 to 1. */
export const sweptShare = (ms: number): number => 1 - Math.abs(1 - ((ms % SWEEP_MS) / SWEEP_MS) * 2)

/** What the main properties of elements are while they are swept: all values through their range, what is on or off in turns. */
export const sweptValues = (elements: readonly ElementRow[], ms: number): Map<string, Value> => {
  const share = sweptShare(ms)
  const values = new Map<string, Value>()
  for (const { id, settings } of elements) {
    const kind = elementKind(settings)
    const [least, most] = kind.range(settings)
    const put = (property: ElementProperty, value: Value) => values.set(screenKey(id, property), value)
    for (const { property, wanted } of kind.live(settings)) {
      if (
        property === 'text' ||
        (settings.kind === 'value' && (settings.as === 'text' || settings.as === 'choice'))
      )
        continue
      if (wanted.as === 'condition') put(property, Number(share > 0.5))
      else if (property !== 'from') put(property, least + share * (most - least))
    }
  }
  return values
}

/** The properties of an element that follow something, main ones first. */
export const followedOf = ({ settings }: ElementRow): ElementProperty[] =>
  livePropertiesOf(settings)
    .map((l) => l.property)
    .filter((p) => settings.follows[p] !== undefined)
