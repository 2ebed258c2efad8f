import { coinciding } from '../../geometry/coinciding'
import { united, without } from '../../geometry/combined-rings'
import { type Contour, circle, type Point, point, polygon } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { pathData } from '../../geometry/path-data'
import { contoursOf } from '../../geometry/read-path-data'
import { gapBetween, isInside } from '../../geometry/rings'
import type { PanelRow } from '../../rig/rows'
import { formatNumber } from '../../signal/format'
import { outlineOf, type PlateShape } from '../plate'
import type { Add } from './finding'
import { common, indexed, pairs, type Region, region } from './regions'

type Settings = PanelRow['settings']

/** An opening or hole of the plate itself. */
interface Opening extends Region {
  readonly contour: Contour
}

/** A plate without some of its openings and holes. */
const withoutThese = (settings: Settings, gone: readonly Opening[]): Settings => {
  const keys = new Set(gone.map((o) => o.key))
  return {
    ...settings,
    holes: settings.holes.filter((_, i) => !keys.has(`hole/${i}`)),
    windows: (settings.windows ?? []).filter((_, i) => !keys.has(`opening/${i}`)),
  }
}

/** A curve becomes chords that stray so far where openings are joined or cut off. */
const CHORD_MM = 0.005

const openingsOf = ({ settings }: PlateShape): Opening[] => {
  const windows = (settings.windows ?? []).flatMap((d, i) =>
    contoursOf(d).map((contour) => ({ key: `opening/${i}`, contour, name: 'an opening' })),
  )
  const holes = settings.holes.map((h, i) => ({
    key: `hole/${i}`,
    contour: circle(point(h.xMm, h.yMm), h.diameterMm / 2),
    name: `a hole of ${formatNumber(h.diameterMm)} mm`,
  }))
  return [...windows, ...holes].map((o) => ({
    ...o,
    ...region(o.key, o.name, flattened(o.contour, CHORD_MM)),
  }))
}

/** What is wrong with the openings and holes of the plate itself: across its edge, drawn twice, one in another. */
export const lineFindings = (plate: PlateShape, add: Add): void => {
  const { settings } = plate
  const edge = flattened(outlineOf(plate), CHORD_MM)
  const all = openingsOf(plate)
  const twice = coinciding(all.map((o) => o.contour))
  for (const [i, first] of twice) {
    const [o, other] = [all[i] as Opening, all[first] as Opening]
    add({
      kind: 'twice',
      keys: [o.key, other.key],
      words: `${capital(o.name)} is drawn twice at the same place; a tool would run along it twice.`,
      box: o,
      cure: { words: 'Keep it once', settings: withoutThese(settings, [o]) },
    })
  }
  const once = all.filter((_, i) => !twice.has(i))
  for (const o of once) acrossEdge(o, edge, plate, add)
  pairs(once, indexed(once), (a, b) => inEachOther(a as Opening, b as Opening, settings, add))
}

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1)

const acrossEdge = (o: Opening, edge: readonly Point[], { settings }: PlateShape, add: Add): void => {
  const crosses = gapBetween(o.outline, edge) === 0
  const [first = point(0, 0)] = o.outline
  if (!crosses && isInside(first, edge)) return
  const finding = { kind: 'across' as const, keys: [o.key], box: o }
  if (!crosses) {
    const cure = { words: 'Remove it', settings: withoutThese(settings, [o]) }
    add({ ...finding, words: `${capital(o.name)} lies outside the plate.`, cure })
    return
  }
  const [left] = without(edge, o.outline)
  add({
    ...finding,
    words: `${capital(o.name)} runs across the edge of the plate.`,
    cure: left
      ? {
          words: 'Make it a notch of the edge',
          settings: { ...withoutThese(settings, [o]), outline: pathData(polygon(left)) },
        }
      : { words: 'Remove it', settings: withoutThese(settings, [o]) },
  })
}

const inEachOther = (a: Opening, b: Opening, settings: Settings, add: Add): void => {
  const cross = gapBetween(a.outline, b.outline) === 0
  const box = common(a, b)
  if (!cross) {
    const inner = isInside(a.outline[0] ?? point(0, 0), b.outline) ? a : b
    const outer = inner === a ? b : a
    add({
      kind: 'within',
      keys: [inner.key, outer.key],
      words: `${capital(inner.name)} lies within ${outer.name}: what is between them falls out with it.`,
      box,
      cure: { words: 'Keep the outer one alone', settings: withoutThese(settings, [inner]) },
    })
    return
  }
  const [both] = united(a.outline, b.outline)
  const bare = withoutThese(settings, both ? [a, b] : [b])
  add({
    kind: 'within',
    keys: [a.key, b.key],
    words: `${capital(a.name)} and ${b.name} of the plate run into each other.`,
    box,
    cure: both
      ? {
          words: 'Make one opening of both',
          settings: { ...bare, windows: [...(bare.windows ?? []), pathData(polygon(both))] },
        }
      : { words: 'Keep the first alone', settings: bare },
  })
}
