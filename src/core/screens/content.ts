import { elementsOf, pagesOf, type Rig, rowsOf, screensOf } from '../rig/rig'
import type { ElementRow, PageRow, PictureRow, ScreenRow } from '../rig/rows'

/** All that is needed to draw a screen, but for what its values are now: what a device of its own is given of the rig. */
export interface ScreenContent {
  readonly screen: ScreenRow
  readonly pages: readonly PageRow[]
  /** The lowest first. */
  readonly elements: readonly ElementRow[]
  readonly pictures: Readonly<Record<string, PictureRow>>
}

const known = new WeakMap<object, Map<string, ScreenContent>>()

/** What a screen is made of, or null where it is not there; the same again while none of its tables has changed. */
export const contentOf = (rig: Rig, screenId: string): ScreenContent | null => {
  const screen = rig.screen[screenId]
  if (!screen) return null
  // Rows are never mutated: what was gathered holds for as long as its rows are the same.
  const of = known.get(rig.element) ?? new Map<string, ScreenContent>()
  known.set(rig.element, of)
  const kept = of.get(screenId)
  const pages = pagesOf(rig, screenId)
  const pictures = rowsOf(rig, 'picture').filter((p) => p.screenId === screenId)
  const isSame =
    kept?.screen === screen &&
    kept.pages === pages &&
    Object.keys(kept.pictures).length === pictures.length &&
    pictures.every((p) => kept.pictures[p.id] === p)
  if (kept && isSame) return kept
  const content: ScreenContent = {
    screen,
    pages,
    elements: elementsOf(rig, screenId),
    pictures: Object.fromEntries(pictures.map((p) => [p.id, p])),
  }
  of.set(screenId, content)
  return content
}

/** The screen that is called so, as in an address; by its id where none is. */
export const screenNamed = (rig: Rig, name: string): ScreenRow | null =>
  screensOf(rig).find((s) => s.name.toLowerCase() === name.trim().toLowerCase()) ?? rig.screen[name] ?? null

/** The page that is shown: the one that is named, or the first; and what is wrong where there is none of that name. */
export const pageShown = (
  { screen, pages }: ScreenContent,
  named: number | string | null | undefined,
): { readonly page: PageRow | null; readonly problem: string | null } => {
  const [first = null] = pages
  if (screen.settings.pageBy === null) return { page: first, problem: null }
  if (named === null || named === undefined) return { page: first, problem: null }
  const page = pages.find((p) => p.name === named)
  return page ? { page, problem: null } : { page: first, problem: `There is no page “${named}”.` }
}
