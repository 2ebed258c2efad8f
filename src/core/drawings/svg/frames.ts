import type { Matrix } from '../../geometry/matrix'
import { NotRead } from './lengths'

export interface SvgFrame {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** The four numbers of a view box; null where there is none. */
export const viewBoxOf = (text: string | undefined): SvgFrame | null => {
  if (text === undefined) return null
  const box = text
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const [x, y, width, height] = box
  if (box.length !== 4 || x === undefined || y === undefined || !width || !height) return null
  return box.every(Number.isFinite) && width > 0 && height > 0 ? { x, y, width, height } : null
}

const places = { min: 0, mid: 0.5, max: 1 } as const
type Place = keyof typeof places

/** How a view box is laid into the frame it is shown in (SVG 2, 8.2 and 8.7). */
export const fitted = (box: SvgFrame, frame: SvgFrame, aspect: string | undefined): Matrix => {
  let [sx, sy] = [frame.width / box.width, frame.height / box.height]
  const [how = 'xMidYMid', scale = 'meet'] = (aspect ?? '').trim().split(/\s+/).filter(Boolean)
  let [alongX, alongY] = [0, 0]
  if (how !== 'none') {
    const m = /^x(Min|Mid|Max)Y(Min|Mid|Max)$/.exec(how)
    if (!m) throw new NotRead('measure')
    const s = scale === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy)
    alongX = (frame.width - s * box.width) * places[(m[1] ?? '').toLowerCase() as Place]
    alongY = (frame.height - s * box.height) * places[(m[2] ?? '').toLowerCase() as Place]
    ;[sx, sy] = [s, s]
  }
  return {
    a: sx,
    b: 0,
    c: 0,
    d: sy,
    e: frame.x + alongX - sx * box.x,
    f: frame.y + alongY - sy * box.y,
  }
}
