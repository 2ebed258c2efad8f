import { type ElementKindName, elementKinds } from '../src/core/elements/elements'
import type { ElementRow, ScreenRow } from '../src/core/rig/rows'
import type { ScreenContent } from '../src/core/screens/content'

export const ELEMENTS = 200
/** So many of them change with every picture. */
export const CHANGING = 60

const COLUMNS = 20

/** What a full dashboard is made of: half of it figures, the rest instruments and what lies round them. */
const mix: readonly ElementKindName[] = [
  ...(['value', 'bar', 'value', 'annunciator', 'value', 'needle', 'value', 'lamps'] as const),
  ...(['words', 'frame', 'value', 'bar', 'arc', 'value', 'words', 'bar'] as const),
]

const screen: ScreenRow = {
  ...{ id: 'dense', name: 'Dense', position: 0, widthPx: 1280, heightPx: 800 },
  settings: { ground: '#0d1214', widthMm: 217, pageBy: null },
}

const elements = Array.from({ length: ELEMENTS }, (_, i): ElementRow => {
  const kind = mix[i % mix.length] as ElementKindName
  const { settings } = elementKinds[kind].fresh()
  const [main] = elementKinds[kind].live(settings)
  const follows = main && kind !== 'words' ? { [main.property]: { variable: `v.n${i}`, show: 'input' } } : {}
  return {
    ...{ id: `e${i}`, screenId: screen.id, pageId: null, name: `Element ${i}`, position: i, angle: 0 },
    ...{
      x: (i % COLUMNS) * 64,
      y: Math.floor(i / COLUMNS) * 80,
      width: 56,
      height: kind === 'needle' ? 56 : 24,
    },
    settings: {
      ...settings,
      follows,
      ...('sizePx' in settings ? { sizePx: 16 } : {}),
    } as ElementRow['settings'],
  }
})

export const dense: ScreenContent = { screen, pages: [], pictures: {}, left: 0, elements }

/** Those that follow a value, in the order in which the hub numbers them. */
export const followers = elements.filter((e) => Object.keys(e.settings.follows).length > 0)
