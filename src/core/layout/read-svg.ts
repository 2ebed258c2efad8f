import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { type Contour, circle, point, polygon, rectangle } from '../geometry/contour'
import { combined, type Matrix, placedAt, transformed, unmoved } from '../geometry/matrix'
import { contoursOf } from '../geometry/read-path-data'
import type { Found, ReadDrawing } from './read-plate'

/** The largest file that is read; drawings of panels are a hundredth of it. */
export const MOST_BYTES = 8_000_000
const MOST_DEPTH = 60

const unitsMm: Record<string, number> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6 }

type Node = { readonly [tag: string]: unknown; readonly ':@'?: Readonly<Record<string, string>> }

/** Elements that are only containers. */
const containers = new Set(['svg', 'g', 'a'])
/** Said by name when they are left out. */
const known = new Map(
  Object.entries({
    text: 'texts (make them curves to bring them along)',
    image: 'pictures',
    use: 'repeated symbols',
    script: 'scripts',
    style: 'style sheets',
    foreignObject: 'embedded documents',
  }),
)

/**
 * Reads the lines of an SVG file. Nothing in it is run or fetched: entities are refused, scripts and references to
 * other files are left out and listed. A sentence where it cannot be read.
 */
export const readSvg = (text: string): ReadDrawing | { problem: string } => {
  if (text.length > MOST_BYTES) return { problem: 'The file is larger than 8 MB.' }
  if (definesEntities(text)) return { problem: 'The file defines entities of its own, which are not read.' }
  try {
    return readSound(text)
  } catch (error) {
    return { problem: `The file cannot be read: ${(error as Error).message}` }
  }
}

/** One pass for each: a file that says it again and again costs no more than its length. */
const definesEntities = (text: string): boolean => {
  const lower = text.toLowerCase()
  if (lower.includes('<!entity')) return true
  const at = lower.indexOf('<!doctype')
  if (at < 0) return false
  const [bracket, end] = [lower.indexOf('[', at), lower.indexOf('>', at)]
  return (bracket >= 0 && (end < 0 || bracket < end)) || lower.indexOf('<!doctype', at + 1) >= 0
}

const readSound = (text: string): ReadDrawing | { problem: string } => {
  const valid = XMLValidator.validate(text)
  if (valid !== true) return { problem: `The file is broken at line ${valid.err.line}: ${valid.err.msg}` }
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    preserveOrder: true,
    processEntities: false,
    removeNSPrefix: true,
  })
  const root = (parser.parse(text) as Node[]).find((n) => 'svg' in n)
  if (!root) return { problem: 'This is no SVG file: it has no svg element.' }
  const found: Found[] = []
  const left = new Map<string, number>()
  try {
    walk(root, 'svg', unmoved, '', found, left, 0)
  } catch (error) {
    return { problem: (error as Error).message }
  }
  const frame = frameOf(root[':@'] ?? {})
  if (frame.m !== unmoved)
    for (const [i, f] of found.entries()) found[i] = { ...f, contour: transformed(f.contour, frame.m) }
  return {
    found,
    unitMm: frame.unitMm,
    ignored: [...left].map(([what, n]) => `${n} ${what}`),
  }
}

const lengthMm = (text: string | undefined): number | null => {
  const m = /^\s*([\d.eE+-]+)\s*(mm|cm|in|pt|pc)\s*$/.exec(text ?? '')
  const unit = unitsMm[m?.[2] ?? '']
  return m && unit !== undefined ? Number(m[1]) * unit : null
}

/** How the file's own numbers become millimetres: by its size in real units against its view box. */
const frameOf = (a: Readonly<Record<string, string>>): { m: Matrix; unitMm: number | null } => {
  const [width, height] = [lengthMm(a.width), lengthMm(a.height)]
  const box = (a.viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const [x, y, w, h] = box
  if (width === null || height === null) return { m: unmoved, unitMm: null }
  if (
    box.length !== 4 ||
    !w ||
    !h ||
    x === undefined ||
    y === undefined ||
    box.some((n) => !Number.isFinite(n))
  )
    // Without a view box the numbers are pixels of 1/96 inch, whatever the size says.
    return { m: { ...unmoved, a: 25.4 / 96, d: 25.4 / 96 }, unitMm: 1 }
  const [sx, sy] = [width / w, height / h]
  return { m: { a: sx, b: 0, c: 0, d: sy, e: -x * sx, f: -y * sy }, unitMm: 1 }
}

const walk = (
  node: Node,
  tag: string,
  m: Matrix,
  layer: string,
  found: Found[],
  left: Map<string, number>,
  depth: number,
): void => {
  if (depth > MOST_DEPTH) throw new Error('The file is nested too deeply.')
  for (const child of node[tag] as Node[]) {
    const name = Object.keys(child).find((k) => k !== ':@')
    if (name === undefined || name.startsWith('#') || name.startsWith('?')) continue
    const a = child[':@'] ?? {}
    if (name === 'title' || name === 'desc' || name === 'metadata' || name === 'namedview') continue
    if (a.display === 'none' || a.visibility === 'hidden') {
      count(left, 'hidden things')
      continue
    }
    const there = combined(m, matrixOf(a.transform))
    if (containers.has(name)) {
      walk(child, name, there, layer || (a.label ?? a.id ?? ''), found, left, depth + 1)
      continue
    }
    const contours = shapeOf(name, a)
    if (contours === null) count(left, known.get(name) ?? `things called ${name.slice(0, 30)}`)
    else for (const contour of contours) found.push({ contour: transformed(contour, there), layer })
  }
}

const count = (left: Map<string, number>, what: string): void => {
  left.set(what, (left.get(what) ?? 0) + 1)
}

const shapeOf = (name: string, a: Readonly<Record<string, string>>): Contour[] | null => {
  const n = (key: string): number => Number.parseFloat(a[key] ?? '0') || 0
  switch (name) {
    case 'path':
      return contoursOf(a.d ?? '')
    case 'rect': {
      const [w, h] = [n('width'), n('height')]
      const r = n('rx') || n('ry')
      return w > 0 && h > 0 ? [rectangle(point(n('x') + w / 2, n('y') + h / 2), w, h, r)] : []
    }
    case 'circle':
      return n('r') > 0 ? [circle(point(n('cx'), n('cy')), n('r'))] : []
    case 'ellipse': {
      if (n('rx') <= 0 || n('ry') <= 0) return []
      const stretch = { ...placedAt(n('cx'), n('cy')), a: n('rx'), d: n('ry') }
      return [transformed(circle(point(0, 0), 1), stretch)]
    }
    case 'line':
      return [polygon([point(n('x1'), n('y1')), point(n('x2'), n('y2'))], false)]
    case 'polyline':
    case 'polygon': {
      const numbers = (a.points ?? '')
        .trim()
        .split(/[\s,]+/)
        .map(Number)
      const points = Array.from({ length: Math.floor(numbers.length / 2) }, (_, i) =>
        point(numbers[2 * i] ?? 0, numbers[2 * i + 1] ?? 0),
      )
      return points.length > 1 && numbers.every(Number.isFinite) ? [polygon(points, name === 'polygon')] : []
    }
    default:
      return null
  }
}

/** What is called in a transform, with what stands in brackets; read from left to right, once. */
function* callsIn(text: string): Generator<readonly [string, string]> {
  const call = /[\s,]*([A-Za-z]+)\s*\(([^()]*)\)/y
  while (call.lastIndex < text.length) {
    const rest = call.lastIndex
    const m = call.exec(text)
    if (m === null) {
      if (text.slice(rest).trim() === '') return
      throw new Error(`There is a transform in it that is not understood: ${text.slice(rest, rest + 30)}.`)
    }
    yield [m[1] ?? '', m[2] ?? '']
  }
}

/** A transform attribute (SVG 1.1, 7.6) as one matrix. */
const matrixOf = (text: string | undefined): Matrix => {
  let m = unmoved
  for (const [name, inside] of callsIn(text ?? '')) {
    const n = (inside ?? '')
      .trim()
      .split(/[\s,]+/)
      .map(Number)
    const [a = 0, b, c = 0, d = 0, e = 0, f = 0] = n
    const turn = (a * Math.PI) / 180
    if (name === 'translate') m = combined(m, placedAt(a, b ?? 0))
    else if (name === 'scale') m = combined(m, { ...unmoved, a, d: b ?? a })
    else if (name === 'rotate') m = combined(m, combined(placedAt(b ?? 0, c, a), placedAt(-(b ?? 0), -c)))
    else if (name === 'skewX') m = combined(m, { ...unmoved, c: Math.tan(turn) })
    else if (name === 'skewY') m = combined(m, { ...unmoved, b: Math.tan(turn) })
    else if (name === 'matrix') m = combined(m, { a, b: b ?? 0, c, d, e, f })
    else throw new Error(`There is a transform in it that is not understood: ${name}.`)
  }
  return m
}
