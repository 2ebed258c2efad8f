import { z } from 'zod'
import { parseOutside } from '../plain-json'
import { addRow, type Diff } from '../rig/edit'
import { numbered } from '../rig/numbered'
import { type Rig, screensOf } from '../rig/rig'
import { type ElementRow, type PageRow, type PictureRow, type ScreenRow, tables } from '../rig/rows'
import { MOST_ELEMENTS, type ScreenContent } from './content'

/** The newest form of screen files that is understood. */
export const SCREEN_FORMAT = 1
export const MOST_SCREEN_BYTES = 12_000_000

const { screen, page, picture, element } = tables

const file = z.object({
  clavik: z.literal('screen'),
  format: z.number().int(),
  screen,
  pages: z.array(page).min(1).max(100),
  pictures: z.array(picture).max(200),
  elements: z.array(element),
})

const lines = (rows: readonly unknown[]): string => rows.map((r) => JSON.stringify(r)).join(',\n')

/** A screen with its pictures as one file, a line for each of its rows, always in the same order. */
export const writeScreenFile = ({ screen: own, pages, elements, pictures }: ScreenContent): string =>
  [
    `{"clavik":"screen","format":${SCREEN_FORMAT},`,
    `"screen":${JSON.stringify(own)},`,
    `"pages":[\n${lines(pages)}\n],`,
    `"elements":[\n${lines(elements)}\n],`,
    `"pictures":[\n${lines(Object.values(pictures).sort((a, b) => (a.id < b.id ? -1 : 1)))}\n]}`,
    '',
  ].join('\n')

export type ScreenFileRead = { readonly diff: Diff; readonly screenId: string } | { readonly problem: string }

const refusal = (words: string): ScreenFileRead => ({ problem: `${words} Nothing was changed.` })

/**
 * Reads a screen file into the changes that add it to a rig, under ids of its own and a name that is free; what is wrong with it is
 * said with its place. Nothing that is in it is ever run.
 */
export const readScreenFile = (text: string, rig: Rig, newId: () => string): ScreenFileRead => {
  if (text.length > MOST_SCREEN_BYTES)
    return refusal(`The file is larger than ${MOST_SCREEN_BYTES / 1e6} MB; that is no screen.`)
  const json = parseOutside(text.replace(/^\uFEFF/, ''))
  if ('problem' in json) return refusal(`This is not a screen file, or it is cut off: ${json.problem}.`)
  const count = (json.value as { elements?: unknown[] } | null)?.elements?.length ?? 0
  if (Array.isArray((json.value as { elements?: unknown } | null)?.elements) && count > MOST_ELEMENTS)
    return refusal(`It has ${count} elements; up to ${MOST_ELEMENTS} are drawn.`)
  const parsed = file.safeParse(json.value)
  if (!parsed.success) {
    const issue = parsed.error.issues[0]
    return refusal(`This is not a screen file: ${issue?.path.join(' ') || 'file'}: ${issue?.message}.`)
  }
  const { data } = parsed
  if (data.format > SCREEN_FORMAT)
    return refusal(`This screen file has format ${data.format}; this Clavik reads up to ${SCREEN_FORMAT}.`)
  return taken(data, rig, newId)
}

const taken = (data: z.infer<typeof file>, rig: Rig, newId: () => string): ScreenFileRead => {
  const ids = new Map<string, string>()
  const twice = [data.screen, ...data.pages, ...data.pictures, ...data.elements].find((r) => {
    const known = ids.has(r.id)
    ids.set(r.id, newId())
    return known
  })
  if (twice) return refusal(`“${twice.name}” is there twice (${twice.id}).`)
  const own = (id: string): string => ids.get(id) ?? ''
  const pageIds = new Set(data.pages.map((p) => p.id))
  const lost = data.elements.find((e) => e.pageId !== null && !pageIds.has(e.pageId))
  if (lost) return refusal(`The element “${lost.name}” lies on a page that is not there.`)
  const pictureIds = new Set(data.pictures.map((p) => p.id))
  const screens = screensOf(rig)
  const row: ScreenRow = {
    ...data.screen,
    id: own(data.screen.id),
    name: free(data.screen.name, new Set(screens.map((s) => s.name))),
    position: Math.max(-1, ...screens.map((s) => s.position)) + 1,
  }
  const pages = data.pages.map((p): PageRow => ({ ...p, id: own(p.id), screenId: row.id }))
  const pictures = data.pictures.map((p): PictureRow => ({ ...p, id: own(p.id), screenId: row.id }))
  const elements = data.elements.map((e): ElementRow => {
    const { settings } = e
    const shown = settings.kind === 'picture' ? settings.picture : null
    return {
      ...e,
      id: own(e.id),
      screenId: row.id,
      pageId: e.pageId === null ? null : own(e.pageId),
      settings:
        settings.kind === 'picture'
          ? { ...settings, picture: shown !== null && pictureIds.has(shown) ? own(shown) : null }
          : settings,
    }
  })
  return {
    screenId: row.id,
    diff: [
      addRow('screen', row),
      ...pages.map((p) => addRow('page', p)),
      ...pictures.map((p) => addRow('picture', p)),
      ...elements.map((e) => addRow('element', e)),
    ],
  }
}

const free = (name: string, names: ReadonlySet<string>): string =>
  names.has(name) ? numbered(name, names, 2) : name
