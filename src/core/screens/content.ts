import { elementsOf, pagesOf, type Rig, rowsOf, screensOf } from '../rig/rig'
import type { ElementRow, PageRow, PictureRow, ScreenRow } from '../rig/rows'

/** More elements than this no screen shows, nor any device draws in time. */
export const MOST_ELEMENTS = 2000

/** All that is needed to draw a screen, but for what its values are now: what a device of its own is given of the rig. */
export interface ScreenContent {
  readonly screen: ScreenRow
  readonly pages: readonly PageRow[]
  /** The lowest first, and as many as are drawn at most. */
  readonly elements: readonly ElementRow[]
  /** How many more there are. */
  readonly left: number
  readonly pictures: Readonly<Record<string, PictureRow>>
}

/** What was gathered last for each version of a screen's row: rows are never mutated. */
const known = new WeakMap<ScreenRow, ScreenContent>()

const sameRows = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((row, i) => row === b[i])

/** What a screen is made of, or null where it is not there; the same again while none of its own rows has changed. */
export const contentOf = (rig: Rig, screenId: string): ScreenContent | null => {
  const screen = rig.screen[screenId]
  if (!screen) return null
  const kept = known.get(screen)
  const pages = pagesOf(rig, screenId)
  const all = elementsOf(rig, screenId)
  const elements = all.length > MOST_ELEMENTS ? all.slice(0, MOST_ELEMENTS) : all
  const left = all.length - elements.length
  const pictures = rowsOf(rig, 'picture').filter((p) => p.screenId === screenId)
  if (
    kept &&
    kept.left === left &&
    sameRows(kept.pages, pages) &&
    sameRows(kept.elements, elements) &&
    sameRows(Object.values(kept.pictures), pictures)
  )
    return kept
  const own = Object.fromEntries(pictures.map((p) => [p.id, p]))
  const content: ScreenContent = { screen, pages, elements, left, pictures: own }
  known.set(screen, content)
  return content
}

/** The screen that is called so, as in an address; by its id where none is. */
export const screenNamed = (rig: Rig, name: string): ScreenRow | null =>
  screensOf(rig).find((s) => s.name.toLowerCase() === name.trim().toLowerCase()) ?? rig.screen[name] ?? null

/** The page that is shown: the one that is named, or the first; and what is wrong where there is none of that name. */
export const pageShown = (
  { screen, pages, left }: ScreenContent,
  named: number | string | null | undefined,
): { readonly page: PageRow | null; readonly problem: string | null } => {
  const [first = null] = pages
  const leftOut = left > 0 ? `${left} elements more than ${MOST_ELEMENTS} are not drawn.` : null
  if (screen.settings.pageBy === null) return { page: first, problem: leftOut }
  if (named === null || named === undefined) return { page: first, problem: leftOut }
  const page = pages.find((p) => p.name === named)
  return page ? { page, problem: leftOut } : { page: first, problem: `There is no page “${named}”.` }
}
