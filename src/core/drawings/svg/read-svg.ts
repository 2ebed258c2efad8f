import type { Element } from 'domhandler'
import { boundsOf } from '../../geometry/boxes'
import { point, rectangle } from '../../geometry/contour'
import { flattened } from '../../geometry/flatten'
import { combined, type Matrix, placedAt, transformed, unmoved } from '../../geometry/matrix'
import {
  type FoundLayer,
  type FoundLetters,
  type FoundLine,
  MOST_BYTES,
  MOST_DEPTH,
  MOST_THINGS,
  type ReadDrawing,
  type Unseen,
} from '../drawing'
import { LeftList } from '../left-out'
import { type Clip, isWhole } from './clips'
import { fitted, type SvgFrame, viewBoxOf } from './frames'
import { type Along, type Measures, NotRead, PIXEL_MM, realMm, unitsOf } from './lengths'
import { lettersOf } from './letters'
import { type ShapeOf, shapes } from './shapes'
import { byId, type StyleProperty, Styles } from './styles'
import { transformOf } from './transforms'
import { elementsIn, treeOf } from './tree'

/**
 * Reads the lines of an SVG file. Nothing in it is run or fetched: entities are refused, scripts and references to
 * other files are left out and listed. A sentence where it cannot be read.
 */
export const readSvg = (text: string): ReadDrawing => {
  if (text.length > MOST_BYTES) return { problem: 'The file is larger than 8 MB.' }
  try {
    const root = treeOf(text)
    return 'problem' in root ? root : new Reading(root).drawing()
  } catch (error) {
    return { problem: `The file cannot be read: ${(error as Error).message}` }
  }
}

/** What something takes from those that it lies in. */
interface There {
  readonly m: Matrix
  readonly layer: string
  readonly unseen: Unseen | null
  /** How deep it lies; 1 for what lies in the file's own svg element. */
  readonly depth: number
  readonly visible: boolean
  readonly fill: string
  readonly stroke: string
  readonly fontSize: number
  readonly anchor: string
  readonly frame: { readonly width: number; readonly height: number }
  readonly clips: readonly Clip[]
  /** The ids that it was repeated by. */
  readonly uses: readonly string[]
}

/** Nothing of these is drawn where they stand. */
const notDrawn = new Set([
  ...['defs', 'title', 'desc', 'metadata', 'namedview', 'style', 'symbol', 'clipPath', 'mask', 'marker'],
  ...['pattern', 'linearGradient', 'radialGradient', 'filter', 'view', 'cursor', 'font', 'font-face'],
  ...[
    'animate',
    'animateTransform',
    'animateMotion',
    'set',
    'tspan',
    'color-profile',
    'page',
    'grid',
    'guide',
  ],
])
const containers = new Set(['g', 'a', 'switch'])
/** What else is said by name when it is left out. */
const strange: Readonly<Record<string, string>> = {
  image: 'picture',
  script: 'script',
  foreignObject: 'embedded document',
}

/** A file without a size is shown this large (CSS 2, 10.3.2). */
const NO_SIZE = { width: 300, height: 150 }

class Reading {
  private readonly lines: FoundLine[] = []
  private readonly letters: FoundLetters[] = []
  private readonly left = new LeftList()
  private readonly layers = new Map<string, FoundLayer>()
  private readonly ids: ReadonlyMap<string, Element>
  private readonly styles: Styles
  private things = 0
  private saysUnits = false

  constructor(private readonly root: Element) {
    this.ids = byId(root)
    this.styles = new Styles(root)
  }

  drawing(): ReadDrawing {
    const { attribs } = this.root
    const said = this.styles.of(this.root)
    const [width, height] = [said.get('width'), said.get('height')]
    const own = viewBoxOf(attribs.viewBox)
    const mm = { width: realMm(width), height: realMm(height) }
    const isReal = mm.width !== null && mm.height !== null
    // In pixels: from a real size, from one in pixels, or from the view box.
    const pixels = {
      width: rootLength(width) ?? own?.width ?? NO_SIZE.width,
      height: rootLength(height) ?? own?.height ?? NO_SIZE.height,
    }
    const laid = own ? fitted(own, { x: 0, y: 0, ...pixels }, attribs.preserveAspectRatio) : unmoved
    const scale = isReal ? PIXEL_MM : 1
    // Without a size that says millimetres, the file's own numbers are what is kept, and asked about.
    const m: Matrix = isReal ? combined({ ...unmoved, a: scale, d: scale }, laid) : unmoved
    const there = this.inherited(this.root, {
      m,
      layer: '',
      unseen: null,
      depth: 1,
      visible: true,
      fill: 'black',
      stroke: 'none',
      fontSize: 16,
      anchor: 'start',
      frame: own ?? pixels,
      clips: [],
      uses: [],
    })
    for (const child of elementsIn(this.root)) this.one(child, there)
    this.left.add('', 'style sheet', 'style', this.styles.unread)
    if (this.things > MOST_THINGS)
      return { problem: `There are more than ${MOST_THINGS} things drawn in it.` }
    const pixelMm = laid.a * PIXEL_MM
    return {
      lines: this.lines,
      letters: this.letters,
      layers: [...this.layers.values()],
      left: this.left.list,
      // A file whose lengths have units and whose numbers are its pixels says by that what they are.
      unitMm: isReal ? 1 : this.saysUnits && laid.a === 1 ? PIXEL_MM : null,
      pixelMm: isReal || laid.a !== laid.d ? null : pixelMm,
    }
  }

  /** What is said of an element, with what it takes from where it lies. */
  private inherited(e: Element, there: There): There {
    const said = this.styles.of(e)
    const inherit = (p: StyleProperty, from: string): string => {
      const value = said.get(p)
      return value === undefined || value === 'inherit' ? from : value
    }
    const visible = said.get('visibility')
    return {
      ...there,
      visible: visible === undefined || visible === 'inherit' ? there.visible : visible === 'visible',
      fill: inherit('fill', there.fill),
      stroke: inherit('stroke', there.stroke),
      anchor: inherit('text-anchor', there.anchor),
      fontSize: this.fontSize(said.get('font-size'), there),
    }
  }

  private fontSize(text: string | undefined, there: There): number {
    if (text === undefined || text === 'inherit') return there.fontSize
    try {
      const hundredths = /^([\d.]+)%$/.exec(text)
      if (hundredths) return (there.fontSize * Number(hundredths[1])) / 100
      return unitsOf(text, 'both', { ...this.measures(there), onUnit: () => {} }, there.fontSize)
    } catch {
      return Number.NaN
    }
  }

  private measures(there: There): Measures {
    return {
      frame: there.frame,
      fontSize: there.fontSize,
      onUnit: () => {
        this.saysUnits = true
      },
    }
  }

  /** One element, where it lies; whatever cannot be read of it is left out and noted. */
  private one(e: Element, outer: There): void {
    if (++this.things > MOST_THINGS || notDrawn.has(e.name)) return
    const layer =
      outer.depth === 1 && containers.has(e.name) ? (e.attribs.label ?? e.attribs.id ?? '') : outer.layer
    try {
      this.drawn(e, { ...outer, layer })
    } catch (error) {
      if (!(error instanceof NotRead)) throw error
      this.left.add(layer, strange[e.name] ?? e.name, error.why)
    }
  }

  private drawn(e: Element, outer: There): void {
    const said = this.styles.of(e)
    let { unseen } = outer
    if (said.get('display') === 'none' || Number(said.get('opacity') ?? 1) === 0) {
      // A hidden layer is one that can be switched on; anything else that is hidden is none.
      if (outer.depth !== 1 || !containers.has(e.name)) throw new NotRead('invisible')
      unseen = 'hidden'
    }
    if (isSaid(said.get('mask'))) throw new NotRead('masked')
    const inner = this.inherited(e, { ...outer, unseen })
    const origin = said.get('transform-origin')
    if (isSaid(said.get('transform')) && origin !== undefined && !/^0(px|%)?(\s+0(px|%)?)?$/.test(origin))
      throw new NotRead('transform')
    const m = combined(outer.m, transformOf(said.get('transform'), this.measures(inner)))
    const there = this.clipped(said.get('clip-path'), { ...inner, m })
    if (containers.has(e.name)) this.group(e, there)
    else if (e.name === 'svg') this.embedded(e, there)
    else if (e.name === 'use') this.repeated(e, there)
    else if (e.name === 'text') this.text(e, there)
    else this.shape(e, there)
  }

  private shape(e: Element, there: There): void {
    const draw = Object.hasOwn(shapes, e.name) ? shapes[e.name] : undefined
    if (!draw) throw new NotRead('kind')
    if (!there.visible) throw new NotRead('invisible')
    if (isNone(there.fill) && isNone(there.stroke)) throw new NotRead('unpainted')
    for (const c of draw(this.shapeOf(e, there))) {
      const contour = transformed(c, there.m)
      if (isWhole(contour, there.clips)) this.lines.push({ contour, layer: this.layerOf(there) })
      else this.left.add(there.layer, e.name, 'clipped')
    }
  }

  private layerOf({ layer, unseen }: There): string {
    const known = this.layers.get(layer)
    // The same name twice, once hidden: hidden only where both are.
    if (!known || (known.unseen !== null && unseen === null)) this.layers.set(layer, { name: layer, unseen })
    return layer
  }

  private group(e: Element, there: There): void {
    this.deeper(there)
    const children = elementsIn(e)
    const shown =
      e.name === 'switch'
        ? children.filter((c) => c.name !== 'foreignObject' && !c.attribs.requiredExtensions).slice(0, 1)
        : children
    for (const child of shown) this.one(child, { ...there, depth: there.depth + 1 })
  }

  private deeper(there: There): void {
    if (there.depth + there.uses.length > MOST_DEPTH) throw new Error('it is nested too deeply')
  }

  /** A drawing within the drawing: a frame of its own, with what lies beyond it cut off. */
  private embedded(
    e: Element,
    there: There,
    size?: { width: string | undefined; height: string | undefined },
  ): void {
    this.deeper(there)
    const said = this.styles.of(e)
    const measures = this.measures(there)
    const isSymbol = e.name === 'symbol'
    const length = (name: 'x' | 'y' | 'width' | 'height', otherwise: number): number =>
      unitsOf(said.get(name), name === 'x' || name === 'width' ? 'x' : 'y', measures, otherwise)
    const own = { width: size?.width ?? said.get('width'), height: size?.height ?? said.get('height') }
    const frame: SvgFrame = {
      x: isSymbol ? 0 : length('x', 0),
      y: isSymbol ? 0 : length('y', 0),
      width: unitsOf(own.width, 'x', measures, there.frame.width),
      height: unitsOf(own.height, 'y', measures, there.frame.height),
    }
    if (!(frame.width > 0 && frame.height > 0)) throw new NotRead('empty')
    const box = viewBoxOf(e.attribs.viewBox)
    const laid = box ? fitted(box, frame, e.attribs.preserveAspectRatio) : placedAt(frame.x, frame.y)
    const overflow = said.get('overflow')
    const edge = rectangle(
      point(frame.x + frame.width / 2, frame.y + frame.height / 2),
      frame.width,
      frame.height,
    )
    const clip: Clip = { rings: [flattened(transformed(edge, there.m))] }
    const inner: There = {
      ...there,
      m: combined(there.m, laid),
      depth: there.depth + 1,
      frame: box ?? frame,
      clips: overflow === 'visible' || overflow === 'auto' ? there.clips : [...there.clips, clip],
    }
    for (const child of elementsIn(e)) this.one(child, inner)
  }

  /** Something that stands elsewhere in the file, drawn here once more (SVG 2, 5.5). */
  private repeated(e: Element, there: There): void {
    const href = e.attribs.href ?? ''
    if (!href.startsWith('#')) throw new NotRead(href === '' ? 'missing' : 'elsewhere')
    const id = href.slice(1)
    const target = this.ids.get(id)
    if (!target) throw new NotRead('missing')
    if (there.uses.includes(id) || isWithin(e, target)) throw new NotRead('itself')
    this.deeper(there)
    const said = this.styles.of(e)
    const measures = this.measures(there)
    const moved = placedAt(unitsOf(said.get('x'), 'x', measures, 0), unitsOf(said.get('y'), 'y', measures, 0))
    const here: There = {
      ...there,
      m: combined(there.m, moved),
      depth: there.depth + 1,
      uses: [...there.uses, id],
    }
    if (target.name !== 'symbol' && target.name !== 'svg') {
      this.one(target, here)
      return
    }
    const style = this.styles.of(target)
    if (style.get('display') === 'none') throw new NotRead('invisible')
    const placed = {
      ...this.inherited(target, here),
      m: combined(here.m, transformOf(style.get('transform'), measures)),
    }
    this.embedded(target, placed, { width: said.get('width'), height: said.get('height') })
  }

  private text(e: Element, there: There): void {
    // Those that a text has hold what its elements take from it.
    const seen = new Map<unknown, There>([[e, there]])
    const letters = lettersOf(e, there.m, there.layer, (t) => {
      const outer = seen.get(t.parent) ?? there
      const own = t === e ? there : this.inherited(t, outer)
      seen.set(t, own)
      const said = this.styles.of(t)
      if (isSaid(t.attribs.rotate) || /^(tb|vertical)/.test(said.get('writing-mode') ?? ''))
        throw new NotRead('letters')
      if (!Number.isFinite(own.fontSize)) throw new NotRead('measure')
      return {
        fontSize: own.fontSize,
        anchor: own.anchor === 'middle' || own.anchor === 'end' ? own.anchor : 'start',
        isSeen: own.visible && said.get('display') !== 'none' && !(isNone(own.fill) && isNone(own.stroke)),
        place: (name) => {
          const value = t.attribs[name]
          if (value === undefined || value.trim() === '') return undefined
          const list = value.trim().split(/[\s,]+/)
          if (list.length > 1) throw new NotRead('letters')
          return unitsOf(list[0], name.endsWith('x') ? 'x' : 'y', this.measures(own))
        },
      }
    })
    if (letters.length > 0) this.layerOf(there)
    this.letters.push(...letters)
  }

  private shapeOf(e: Element, there: There): ShapeOf {
    const said = this.styles.of(e)
    const value = (name: string) => said.get(name as StyleProperty) ?? e.attribs[name]
    return {
      attribute: (name) => e.attribs[name],
      length: (name: string, along: Along) => {
        const text = value(name)
        return text === undefined || text === 'auto' ? undefined : unitsOf(text, along, this.measures(there))
      },
    }
  }

  /** What a clip path leaves to be seen: within one of its shapes, each taken as it is drawn. */
  private clipped(reference: string | undefined, there: There): There {
    if (!isSaid(reference)) return there
    const id = /^url\(\s*["']?#([^"')]+)["']?\s*\)$/.exec(reference ?? '')?.[1]
    const path = this.ids.get(id ?? '')
    // A reference to nothing clips nothing.
    if (id !== undefined && !path) return there
    if (path?.name !== 'clipPath' || path.attribs.clipPathUnits === 'objectBoundingBox')
      throw new NotRead('clipped')
    const said = this.styles.of(path)
    if (isSaid(said.get('clip-path'))) throw new NotRead('clipped')
    const m = combined(there.m, transformOf(said.get('transform'), this.measures(there)))
    const rings = elementsIn(path).flatMap((shape) => {
      const draw = Object.hasOwn(shapes, shape.name) ? shapes[shape.name] : undefined
      if (!draw) return []
      const own = combined(m, transformOf(this.styles.of(shape).get('transform'), this.measures(there)))
      const contours = draw(this.shapeOf(shape, there)).map((c) => transformed(c, own))
      // With holes in it, what lies in a hole would count as seen.
      return contours.length === 1 ? contours.map((c) => flattened(c, sizeOf(c) * 1e-4)) : []
    })
    return { ...there, clips: [...there.clips, { rings }] }
  }
}

const sizeOf = (c: FoundLine['contour']): number => {
  const b = boundsOf(c)
  return Math.max(b.maxX - b.minX, b.maxY - b.minY, 1e-9)
}

const isNone = (paint: string): boolean => paint === 'none' || paint === 'transparent'
const isSaid = (value: string | undefined): boolean =>
  value !== undefined && value.trim() !== '' && value !== 'none'

/** The file's own size in pixels; hundredths are of a window that is not there. */
const rootLength = (text: string | undefined): number | null => {
  const mm = realMm(text)
  if (mm !== null) return mm > 0 ? mm / PIXEL_MM : null
  const m = /^\s*(\d+\.?\d*|\.\d+)(px)?\s*$/.exec(text ?? '')
  return m && Number(m[1]) > 0 ? Number(m[1]) : null
}

const isWithin = (e: Element, outer: Element): boolean => {
  for (let at: unknown = e; at; at = (at as Element).parent) if (at === outer) return true
  return false
}
