import { type ElementKindName, elementKinds } from '@/core/elements/elements'
import type { Point } from '@/core/geometry/contour'
import { keyOf } from '@/core/layout/things'
import { addRow, changeRow, type Diff, removeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { elementsOf, pagesOf, type Rig, rowsOf, screensOf } from '@/core/rig/rig'
import type { ElementRow, PageRow, ScreenRow } from '@/core/rig/rows'
import { addingTouch } from '@/core/screens/touch'
import type { UsualSize } from '@/core/screens/usual-sizes'
import { edit } from '../live/edits'
import { newIdentity } from '../live/simulate'
import { notify } from '../live/store'
import { pick, useSurface } from '../surface/view-store'
import { useScreens } from './screens-store'

/** Begins a screen of some size, with one page. */
export const newScreen = (rig: Rig, { widthPx, heightPx, widthMm }: UsualSize): void => {
  const others = screensOf(rig)
  const screen: ScreenRow = {
    id: crypto.randomUUID(),
    name: numbered('Screen', new Set(others.map((s) => s.name))),
    position: Math.max(-1, ...others.map((s) => s.position)) + 1,
    widthPx,
    heightPx,
    settings: { ground: '#0d1214', widthMm, pageBy: null },
  }
  const page: PageRow = { id: crypto.randomUUID(), screenId: screen.id, name: 'PAGE 1', position: 0 }
  edit(`Began the screen “${screen.name}”`, [addRow('screen', screen), addRow('page', page)])
  useScreens.setState({ screenId: screen.id, pageId: page.id, drawer: 'screen' })
}

export const newPage = (rig: Rig, screen: ScreenRow): void => {
  const pages = pagesOf(rig, screen.id)
  const page: PageRow = {
    id: crypto.randomUUID(),
    screenId: screen.id,
    name: numbered('PAGE', new Set(pages.map((p) => p.name)), pages.length + 1),
    position: Math.max(-1, ...pages.map((p) => p.position)) + 1,
  }
  edit(`Added a page to “${screen.name}”`, [addRow('page', page)])
  useScreens.setState({ pageId: page.id })
}

/** A page goes, with what lies on it alone. */
export const removingPage = (rig: Rig, page: PageRow): Diff => [
  ...elementsOf(rig, page.screenId)
    .filter((e) => e.pageId === page.id)
    .map((e) => removeRow('element', e)),
  removeRow('page', page),
]

/** A screen goes, with all that lies on it; parts of panels that show it are dark from then on. */
export const removingScreen = (rig: Rig, screen: ScreenRow): Diff => [
  ...rowsOf(rig, 'part').flatMap((p) => {
    if (p.settings.screen !== screen.id) return []
    const { screen: _, ...settings } = p.settings
    return changeRow('part', p, { ...p, settings }) ?? []
  }),
  ...elementsOf(rig, screen.id).map((e) => removeRow('element', e)),
  ...rowsOf(rig, 'picture')
    .filter((p) => p.screenId === screen.id)
    .map((p) => removeRow('picture', p)),
  ...pagesOf(rig, screen.id).map((p) => removeRow('page', p)),
  removeRow('screen', screen),
]

const within = (at: number, most: number): number => Math.round(Math.max(0, Math.min(Math.max(0, most), at)))

/** An element as it is put down; one for fingers is a control of the rig from the beginning. */
const placed = (rig: Rig, screen: ScreenRow, row: ElementRow): Diff => {
  const { settings } = row
  if (settings.kind !== 'touch') return [addRow('element', row)]
  const made = addingTouch(rig, screen, settings.is, row.name, () => crypto.randomUUID(), newIdentity)
  if ('problem' in made) {
    notify(made.problem)
    return [addRow('element', row)]
  }
  return [...made.diff, addRow('element', { ...row, settings: { ...settings, part: made.part.id } })]
}

/** Puts an element of a kind down with its middle at a place, and picks it. */
export const placeElement = (
  rig: Rig,
  screen: ScreenRow,
  pageId: string | null,
  kind: ElementKindName,
  at: Point,
  more: boolean,
): void => {
  const { width, height, settings } = elementKinds[kind].fresh()
  const others = elementsOf(rig, screen.id)
  const row: ElementRow = {
    id: crypto.randomUUID(),
    screenId: screen.id,
    pageId,
    name: numbered(elementKinds[kind].word, new Set(others.map((e) => e.name))),
    position: Math.max(0, ...others.map((e) => e.position)) + 1,
    // Beyond its edges nothing of a screen is seen.
    x: within(at.x - width / 2, screen.widthPx - width),
    y: within(at.y - height / 2, screen.heightPx - height),
    ...{ width, height, angle: 0, settings },
  }
  if (!more) useSurface.setState({ tool: { is: 'pick' } })
  edit(`Put “${row.name}” on “${screen.name}”`, placed(rig, screen, row))
  pick(new Set([keyOf('element', row.id)]))
  useScreens.setState({ drawer: 'element' })
}
