import RBush from 'rbush'
import { type Box, boundsOf, boxAround, boxOf } from '../geometry/boxes'
import { coinciding } from '../geometry/coinciding'
import { asCircle, type Contour, distance, type Point, point } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { placedAt, through, transformed } from '../geometry/matrix'
import { pathData } from '../geometry/path-data'
import { areaOf, gapBetween, isInside } from '../geometry/rings'
import type { Degrees, Millimetres } from '../units-of-measure'
import type { Drawing, FoundLayer, FoundLetters, FoundLine } from './drawing'
import { joined } from './joined'
import { LeftList, type LeftOut } from './left-out'

/** What becomes of a layer. */
export const roles = ['cut', 'engrave', 'leave'] as const
export type Role = (typeof roles)[number]

/** What the builder has chosen; layers that are not named have the role that their name and the file suggest. */
export interface Choices {
  readonly unitMm: number
  readonly roles: ReadonlyMap<string, Role>
  /** So many of the largest closed lines are frames around the plate, not its edge. */
  readonly frames: number
}

/** Words out of a file, in millimetres on the plate. */
export interface ReadLetters extends Omit<FoundLetters, 'capHeight' | 'layer'> {
  readonly capHeightMm: Millimetres
}

/** A plate that was read: its size, its edge where that is no plain rectangle, openings, holes, and what is engraved. */
export interface ReadPlate {
  readonly widthMm: Millimetres
  readonly heightMm: Millimetres
  readonly cornerMm: Millimetres
  readonly outline?: string
  readonly windows: readonly string[]
  readonly holes: readonly {
    readonly xMm: Millimetres
    readonly yMm: Millimetres
    readonly diameterMm: Millimetres
  }[]
  /** Lines to engrave, as path data, by their layer. */
  readonly engraved: readonly { readonly layer: string; readonly d: string }[]
  readonly letters: readonly ReadLetters[]
}

/** What a line of the picture is taken for. */
export type PictureRole = 'edge' | 'opening' | 'hole' | 'engraved' | 'left'

/** What was read, to be looked at: in millimetres, where the plate will have it. */
export interface Picture {
  readonly box: Box
  readonly lines: readonly { readonly is: PictureRole; readonly d: string }[]
  readonly letters: readonly ReadLetters[]
}

export interface FromDrawing {
  readonly plate: ReadPlate | null
  /** Why there is no plate in it. */
  readonly problem: string | null
  readonly left: readonly LeftOut[]
  readonly picture: Picture
}

const MOST_MM = 5000
/** What a plate keeps at most. */
const MOST_WINDOWS = 500
const MOST_HOLES = 2000
/** The most lines of one kind that the picture shows. */
const MOST_SHOWN = 20_000
/** Closed lines around less than this are no openings. */
const TINY_MM2 = 0.01
const tidy = (mm: Millimetres): Millimetres => Math.round(mm * 1e4) / 1e4

/** What becomes of a layer where nobody has said: by what its program does with it, and by the usual names. */
export const usualRole = ({ name, unseen }: FoundLayer): Role => {
  if (unseen !== null || /^(reference|dimension|defpoints|guides?|notes?|frame|border|title)/i.test(name))
    return 'leave'
  return /^(engrav|etch|scribe|text|legend|letter|mark)/i.test(name) ? 'engrave' : 'cut'
}

/** Whether every number of a contour is one. */
const isSound = ({ start, segments }: Contour): boolean =>
  [
    start,
    ...segments.flatMap((s) =>
      s.is === 'cubic' ? [s.c1, s.c2, s.to] : s.is === 'arc' ? [s.centre, s.to] : [s.to],
    ),
  ].every((p) => Number.isFinite(p.x) && Number.isFinite(p.y))

/**
 * The plate in a drawing: the largest closed line to be cut is its edge, closed lines inside are openings, round ones
 * holes. Its top left corner becomes the origin. Whatever is not taken is in the list of what is left out.
 */
export const plateFrom = (drawing: Drawing, { unitMm, roles: chosen, frames }: Choices): FromDrawing => {
  const left = new LeftList()
  for (const l of drawing.left) left.add(l.layer, l.what, l.why, l.count)
  const role = new Map(drawing.layers.map((l) => [l.name, chosen.get(l.name) ?? usualRole(l)]))
  const roleOf = (layer: string): Role => role.get(layer) ?? 'cut'
  const lines = soundLines(drawing, unitMm, left)
  const cut = lines.filter((f) => roleOf(f.layer) === 'cut')
  const engraved = lines.filter((f) => roleOf(f.layer) === 'engrave')
  const leave = lines.filter((f) => roleOf(f.layer) === 'leave')
  for (const f of leave) left.add(f.layer, 'line', 'layer')
  const shapes = closedShapes(cut, left)
  const [edge, ...inner] = shapes.closed.slice(frames)
  const home = edge ? { x: -edge.box.minX, y: -edge.box.minY } : { x: 0, y: 0 }
  const letters = readLetters(drawing, unitMm, home, roleOf, left)
  const at = placedAt(home.x, home.y)
  const drawn = (fs: readonly FoundLine[]): string[] =>
    fs.slice(0, MOST_SHOWN).map((f) => pathData(transformed(f.contour, at)))
  const around = shapes.closed.slice(0, frames).map((f) => f.line)
  for (const f of around) left.add(f.layer, 'line', 'frame')
  const away: FoundLine[] = [...leave, ...shapes.left, ...around]
  const lined = { engraved: drawn(engraved), left: [] as string[] }
  let plate: ReadPlate | null = null
  let problem: string | null = null
  if (!edge)
    problem = left.list.some((l) => l.why === 'tiny')
      ? 'The closed lines in it enclose next to nothing. Is the unit right?'
      : 'There is no closed line in it that could be the edge of a plate.'
  else {
    const made = openingsOf(edge, inner, left)
    away.push(...made.outside.map((f) => f.line))
    const size = {
      widthMm: tidy(edge.box.maxX - edge.box.minX),
      heightMm: tidy(edge.box.maxY - edge.box.minY),
    }
    const { windows, holes } = asOpenings(made.inside, at)
    problem = whatIsTooMuch(size, windows.length, holes.length)
    const corner = cornerOf(edge.line.contour, edge.box, edge.area)
    if (problem === null)
      plate = {
        ...size,
        cornerMm: corner ?? 0,
        ...(corner === null ? { outline: pathData(transformed(edge.line.contour, at)) } : {}),
        windows,
        holes,
        engraved: byLayer(engraved, at),
        letters,
      }
  }
  lined.left = drawn(away)
  const all = [...lines.map((f) => f.contour)].map(boundsOf)
  const picture: Picture = {
    box: moved(all.length > 0 ? all.reduce(boxAround) : { minX: 0, minY: 0, maxX: 1, maxY: 1 }, home),
    lines: [
      ...lined.left.map((d) => ({ is: 'left' as const, d })),
      ...(edge ? [{ is: 'edge' as const, d: pathData(transformed(edge.line.contour, at)) }] : []),
      ...(plate?.windows ?? []).map((d) => ({ is: 'opening' as const, d })),
      ...(plate?.holes ?? []).map((h) => ({ is: 'hole' as const, d: circlePath(h) })),
      ...lined.engraved.map((d) => ({ is: 'engraved' as const, d })),
    ],
    letters,
  }
  return { plate, problem, left: left.list, picture }
}

const moved = (b: Box, { x, y }: Point): Box => ({
  minX: b.minX + x,
  minY: b.minY + y,
  maxX: b.maxX + x,
  maxY: b.maxY + y,
})

const circlePath = ({ xMm, yMm, diameterMm: d }: ReadPlate['holes'][number]): string =>
  `M${xMm - d / 2} ${yMm}a${d / 2} ${d / 2} 0 1 1 ${d} 0a${d / 2} ${d / 2} 0 1 1 ${-d} 0Z`

/** The lines in millimetres, without those whose numbers are none and those that lie on others. */
const soundLines = (drawing: Drawing, unitMm: number, left: LeftList): FoundLine[] => {
  const scale = { ...placedAt(0, 0), a: unitMm, d: unitMm }
  const scaled = drawing.lines.map((f) => ({ ...f, contour: transformed(f.contour, scale) }))
  const sound = scaled.filter((f) => isSound(f.contour))
  for (const f of scaled) if (!isSound(f.contour)) left.add(f.layer, 'line', 'numbers')
  const doubled = new Set<FoundLine>()
  for (const [layer, list] of byName(sound)) {
    const same = coinciding(list.map((f) => f.contour))
    for (const i of same.keys()) doubled.add(list[i] as FoundLine)
    left.add(layer, 'line', 'twice', same.size)
  }
  return sound.filter((f) => !doubled.has(f))
}

const byName = (lines: readonly FoundLine[]): Map<string, FoundLine[]> => {
  const lists = new Map<string, FoundLine[]>()
  for (const f of lines) {
    const list = lists.get(f.layer)
    if (list) list.push(f)
    else lists.set(f.layer, [f])
  }
  return lists
}

interface Shape {
  readonly line: FoundLine
  readonly ring: readonly Point[]
  readonly area: number
  readonly box: Box
}

/** The closed lines, the largest first, each once. */
const closedShapes = (
  cut: readonly FoundLine[],
  left: LeftList,
): { closed: readonly Shape[]; left: FoundLine[] } => {
  const all = joined(cut)
  const away: FoundLine[] = []
  const leave = (f: FoundLine, why: 'open' | 'tiny' | 'twice') => {
    left.add(f.layer, 'line', why)
    away.push(f)
  }
  const shapes: Shape[] = []
  const same = coinciding(all.map((f) => f.contour))
  for (const [i, line] of all.entries()) {
    if (!line.contour.closed) {
      leave(line, 'open')
      continue
    }
    if (same.has(i)) {
      leave(line, 'twice')
      continue
    }
    const ring = flattened(line.contour, 0.01)
    const area = Math.abs(areaOf(ring))
    if (area < TINY_MM2) leave(line, 'tiny')
    else shapes.push({ line, ring, area, box: boundsOf(line.contour) })
  }
  return { closed: shapes.sort((a, b) => b.area - a.area), left: away }
}

/** Pieces of an edge by where they lie. */
const edgeIndex = (ring: readonly Point[]): RBush<Box & { readonly ends: readonly Point[] }> =>
  new RBush<Box & { readonly ends: readonly Point[] }>().load(
    ring.map((p, i) => {
      const ends = [p, ring[(i + 1) % ring.length] as Point]
      return { ...boxOf(ends), ends }
    }),
  )

/** What lies within the edge or across it, and what lies beyond. */
const openingsOf = (edge: Shape, inner: readonly Shape[], left: LeftList) => {
  const index = edgeIndex(edge.ring)
  const inside: Shape[] = []
  const outside: Shape[] = []
  for (const f of inner) {
    const crosses = index.search(f.box).some((piece) => gapBetween(piece.ends, f.ring) === 0)
    if (crosses || isInside(f.ring[0] ?? point(0, 0), edge.ring)) inside.push(f)
    else {
      outside.push(f)
      left.add(f.line.layer, 'line', 'outside')
    }
  }
  return { inside, outside }
}

const asOpenings = (inside: readonly Shape[], at: ReturnType<typeof placedAt>) => {
  const holes: ReadPlate['holes'][number][] = []
  const windows: string[] = []
  for (const f of inside) {
    const contour = transformed(f.line.contour, at)
    const round = asCircle(contour)
    if (round)
      holes.push({
        xMm: tidy(round.centre.x),
        yMm: tidy(round.centre.y),
        diameterMm: tidy(round.radius * 2),
      })
    else windows.push(pathData(contour))
  }
  return { windows, holes }
}

const whatIsTooMuch = (
  { widthMm, heightMm }: { widthMm: Millimetres; heightMm: Millimetres },
  windows: number,
  holes: number,
): string | null => {
  if (Math.max(widthMm, heightMm) > MOST_MM)
    return `The plate would be ${widthMm} × ${heightMm} mm; at most ${MOST_MM} mm can be drawn. Is the unit right?`
  if (Math.min(widthMm, heightMm) < 1)
    return `The plate would be ${widthMm} × ${heightMm} mm. Is the unit right?`
  if (windows > MOST_WINDOWS || holes > MOST_HOLES)
    return `It has ${windows} openings and ${holes} round holes; a plate takes ${MOST_WINDOWS} and ${MOST_HOLES}. Are layers in it that are to be engraved?`
  return null
}

/** The most path data that one legend keeps. */
const MOST_PATH = 190_000

const byLayer = (lines: readonly FoundLine[], at: ReturnType<typeof placedAt>): ReadPlate['engraved'] =>
  [...byName(lines)].flatMap(([layer, list]) => {
    const pieces: { layer: string; d: string }[] = []
    let d = ''
    for (const f of list) {
      const own = pathData(transformed(f.contour, at))
      if (d.length + own.length > MOST_PATH && d !== '') {
        pieces.push({ layer, d })
        d = ''
      }
      if (own.length <= MOST_PATH) d += own
    }
    return d === '' ? pieces : [...pieces, { layer, d }]
  })

const readLetters = (
  drawing: Drawing,
  unitMm: number,
  home: Point,
  roleOf: (layer: string) => Role,
  left: LeftList,
): ReadLetters[] =>
  drawing.letters.flatMap(({ capHeight, layer, ...l }) => {
    if (roleOf(layer) === 'leave') {
      left.add(layer, 'text', 'layer')
      return []
    }
    const at = through({ ...placedAt(home.x, home.y), a: unitMm, d: unitMm }, l.at)
    const capHeightMm = tidy(capHeight * unitMm)
    if (!Number.isFinite(at.x + at.y + capHeightMm + l.deg) || capHeightMm <= 0) {
      left.add(layer, 'text', 'numbers')
      return []
    }
    return [
      {
        ...l,
        text: l.text.slice(0, 200),
        at: point(tidy(at.x), tidy(at.y)),
        deg: degrees(l.deg),
        capHeightMm,
      },
    ]
  })

/** From above −180 to 180. */
const degrees = (deg: Degrees): Degrees => tidy((((deg % 360) + 540) % 360) - 180) + 0

/** The corner radius of what is a plain rectangle with four equal corners; null for any other edge. */
const cornerOf = (c: Contour, box: Box, area: number): Millimetres | null => {
  if (c.segments.some((s) => s.is === 'cubic')) return null
  let from = c.start
  const radii = new Set<number>()
  for (const s of c.segments) {
    if (s.is === 'arc') radii.add(tidy(distance(from, s.centre)))
    else if (Math.abs(s.to.x - from.x) > 1e-3 && Math.abs(s.to.y - from.y) > 1e-3) return null
    from = s.to
  }
  const sorted = [...radii].sort((a, b) => a - b)
  const [radius = 0] = sorted
  if ((sorted.at(-1) ?? 0) - radius > 1e-3) return null
  const whole = (box.maxX - box.minX) * (box.maxY - box.minY) - (4 - Math.PI) * radius * radius
  return Math.abs(whole - area) < 0.002 * whole ? Math.round(radius * 1e3) / 1e3 : null
}
