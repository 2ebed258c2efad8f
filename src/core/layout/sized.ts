import { type Point, point } from '../geometry/contour'
import { placedAt, through } from '../geometry/matrix'
import type { ElementRow } from '../rig/rows'

/** A corner or an edge of an element's box by which it is made larger: −1 and 1 are its sides, 0 its middle. */
export interface Handle {
  readonly sx: -1 | 0 | 1
  readonly sy: -1 | 0 | 1
}

export const handles: readonly Handle[] = [
  { sx: -1, sy: -1 },
  { sx: 0, sy: -1 },
  { sx: 1, sy: -1 },
  { sx: 1, sy: 0 },
  { sx: 1, sy: 1 },
  { sx: 0, sy: 1 },
  { sx: -1, sy: 1 },
  { sx: -1, sy: 0 },
]

type Boxed = Pick<ElementRow, 'x' | 'y' | 'width' | 'height' | 'angle'>

const middleOf = ({ x, y, width, height }: Boxed): Point => point(x + width / 2, y + height / 2)

/** Where a handle of an element is. */
export const placeOfHandle = (row: Boxed, { sx, sy }: Handle): Point => {
  const { x, y } = middleOf(row)
  return through(placedAt(x, y, row.angle), point((sx * row.width) / 2, (sy * row.height) / 2))
}

/** The handle of an element within reach of a place, corners before edges; null where there is none. */
export const handleAt = (row: Boxed, p: Point, reach: number): Handle | null => {
  // Of something small there has to be left something to hold it by.
  const within = Math.min(reach, Math.max(row.width, row.height) / 5)
  const near = handles.filter((h) => {
    if ((row.height === 0 && h.sy !== 0) || (row.width === 0 && h.sx !== 0)) return false
    const at = placeOfHandle(row, h)
    return Math.hypot(at.x - p.x, at.y - p.y) <= within
  })
  return near.find((h) => h.sx !== 0 && h.sy !== 0) ?? near[0] ?? null
}

const LEAST = 1

/**
 * An element whose handle was moved by so much: what lies opposite stays where it is, however it is turned. With `keepsShape` its
 * sides keep their proportion. No side becomes shorter than a dot.
 */
export const sizedBy = (
  row: Boxed,
  { sx, sy }: Handle,
  dx: number,
  dy: number,
  keepsShape = false,
): Pick<ElementRow, 'x' | 'y' | 'width' | 'height'> => {
  const own = through(placedAt(0, 0, -row.angle), point(dx, dy))
  let width = Math.max(sx === 0 ? 0 : LEAST, row.width + sx * own.x)
  let height = Math.max(sy === 0 ? 0 : LEAST, row.height + sy * own.y)
  if (keepsShape && row.width > 0 && row.height > 0) {
    const by =
      sx === 0
        ? height / row.height
        : sy === 0
          ? width / row.width
          : Math.max(width / row.width, height / row.height)
    width = row.width * by
    height = row.height * by
  }
  // The middle moves by half of what was gained, in the direction of the handle, as the element is turned.
  const { x, y } = middleOf(row)
  const gained = point((sx * (width - row.width)) / 2, (sy * (height - row.height)) / 2)
  const middle = through(placedAt(x, y, row.angle), gained)
  const tidy = (n: number) => Math.round(n * 1000) / 1000
  return {
    x: tidy(middle.x - width / 2),
    y: tidy(middle.y - height / 2),
    width: tidy(width),
    height: tidy(height),
  }
}
