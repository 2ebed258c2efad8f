import { combined, type Matrix, placedAt, transformed, unmoved } from '../../geometry/matrix'
import {
  type Drawing,
  type FoundLayer,
  type FoundLetters,
  type FoundLine,
  MOST_BYTES,
  MOST_DEPTH,
  MOST_THINGS,
  type ReadDrawing,
  type Unseen,
} from '../drawing'
import { LeftList, type Reason } from '../left-out'
import { planeOf, pointOf } from './flat'
import { type DxfBlock, type Entity, numberOf, type Sections, sectionsOf, textOf } from './groups'
import { lettersOf } from './letters'
import { shapes } from './shapes'

/** $INSUNITS of the DXF reference, as far as panels are drawn in them. */
const unitsMm: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 0.0000254,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
}

/** Reads the lines of a DXF file (as text). A sentence where it cannot be read. */
export const readDxf = (text: string): ReadDrawing => {
  if (text.length > MOST_BYTES) return { problem: 'The file is larger than 8 MB.' }
  if (text.includes('\0')) return { problem: 'This is a binary DXF file; save it as text.' }
  const sections = sectionsOf(text)
  if ('problem' in sections) return { problem: `This is no DXF file, or it is broken: ${sections.problem}` }
  if (sections.entities.length === 0) return { problem: 'There is nothing drawn in this DXF file.' }
  const reading = new Reading(sections)
  reading.all(sections.entities, { m: unmoved, layer: null, gone: null, within: [] })
  if (reading.tooMany) return { problem: `There are more than ${MOST_THINGS} things drawn in it.` }
  return reading.drawing(unitsMm[Number(sections.header.get('$INSUNITS') ?? 0)] ?? null)
}

/** Where things lie: placed by the blocks they are in. */
interface There {
  readonly m: Matrix
  /** The layer that things of layer 0 take on; null in the drawing itself. */
  readonly layer: string | null
  /** Why nothing of it is seen. */
  readonly gone: Unseen | null
  readonly within: readonly string[]
}

/** DXF's y runs upwards, a panel's downwards. */
const downwards: Matrix = { ...unmoved, d: -1 }

/** Kinds that are left out for a reason of their own. */
const neverLines: Readonly<Record<string, Reason>> = {
  HATCH: 'filling',
  SOLID: 'filling',
  TRACE: 'filling',
  WIPEOUT: 'filling',
  DIMENSION: 'dimension',
  ARC_DIMENSION: 'dimension',
  LARGE_RADIAL_DIMENSION: 'dimension',
  TOLERANCE: 'dimension',
  LEADER: 'dimension',
  MULTILEADER: 'dimension',
  TEXT: 'letters',
  MTEXT: 'letters',
  ATTRIB: 'letters',
}

class Reading {
  private readonly lines: FoundLine[] = []
  private readonly letters: FoundLetters[] = []
  private readonly left = new LeftList()
  /** By name in small letters, as names are compared. */
  private readonly unseen = new Map<string, Unseen>()
  private readonly seen = new Map<string, FoundLayer>()
  private things = 0

  constructor(private readonly sections: Sections) {
    for (const layer of sections.layers) {
      const name = textOf(layer, 2)?.toLowerCase() ?? ''
      if ((numberOf(layer, 70, 0) & 1) !== 0) this.unseen.set(name, 'frozen')
      else if (numberOf(layer, 62, 7) < 0) this.unseen.set(name, 'off')
      else if (numberOf(layer, 290, 1) === 0) this.unseen.set(name, 'not plotted')
    }
  }

  get tooMany(): boolean {
    return this.things > MOST_THINGS
  }

  drawing(unitMm: number | null): Drawing {
    return {
      lines: this.lines,
      letters: this.letters,
      layers: [...this.seen.values()],
      left: this.left.list,
      unitMm,
      pixelMm: null,
    }
  }

  all(entities: readonly Entity[], there: There): void {
    for (const e of entities) {
      if (this.tooMany) return
      this.things++
      this.one(e, there)
    }
  }

  private one(e: Entity, there: There): void {
    const own = textOf(e, 8) ?? '0'
    const layer = there.layer !== null && own === '0' ? there.layer : own
    const why =
      numberOf(e, 67, 0) !== 0
        ? 'paper'
        : numberOf(e, 60, 0) !== 0
          ? 'invisible'
          : e.type === 'INSERT'
            ? this.insert(e, layer, there)
            : this.drawn(e, this.layerName(layer, there.gone), there.m)
    const what = e.type === 'INSERT' ? `block ${textOf(e, 2) ?? ''}` : e.type
    if (why !== null) this.left.add(layer, what, why)
  }

  /** Takes words and lines of one thing; why not, where it is neither. */
  private drawn(e: Entity, layer: string, m: Matrix): Reason | null {
    const letters = lettersOf(e, m, layer)
    if (letters) {
      this.letters.push(...letters)
      return null
    }
    const shape = shapes[e.type]?.(e) ?? { why: neverLines[e.type] ?? 'kind' }
    if ('why' in shape) return shape.why
    const there = combined(downwards, m)
    for (const c of shape.contours) this.lines.push({ contour: transformed(c, there), layer })
    return null
  }

  /** A block put where the insert says, once or in rows and columns. */
  private insert(e: Entity, layer: string, there: There): Reason | null {
    const unseen = this.unseen.get(layer.toLowerCase())
    // A frozen insert takes all of its block along; one that is only off leaves other layers to be seen.
    const gone = there.gone ?? (unseen === 'frozen' ? unseen : null)
    const name = textOf(e, 2) ?? ''
    const block = this.sections.blocks.get(name.toLowerCase())
    const plane = planeOf(e)
    const why = whyNot(block, name, there, plane)
    if (why !== null || !block || !plane) return why ?? 'missing'
    const base = pointOf(block.head, 10)
    const [columns, rows] = [Math.max(1, numberOf(e, 70, 1)), Math.max(1, numberOf(e, 71, 1))]
    const at = pointOf(e, 10)
    const [sx, sy] = [numberOf(e, 41, 1), numberOf(e, 42, 1)]
    const stood = combined(there.m, combined(plane, placedAt(at.x, at.y, numberOf(e, 50, 0))))
    for (let row = 0; row < rows && !this.tooMany; row++)
      for (let column = 0; column < columns && !this.tooMany; column++) {
        this.things++
        const moved = placedAt(column * numberOf(e, 44, 0), row * numberOf(e, 45, 0))
        const scaled: Matrix = { a: sx, b: 0, c: 0, d: sy, e: -sx * base.x, f: -sy * base.y }
        const m = combined(stood, combined(moved, scaled))
        this.all(block.entities, { m, layer, gone, within: [...there.within, name.toLowerCase()] })
      }
    this.all(e.parts, { ...there, layer, gone })
    return null
  }

  /** Notes a layer when something is first found on it. What a frozen insert holds lies apart from its layer's rest. */
  private layerName(layer: string, gone: Unseen | null): string {
    const unseen = gone ?? this.unseen.get(layer.toLowerCase()) ?? null
    const name = gone === null ? layer : `${layer} (${gone})`
    const key = name.toLowerCase()
    const known = this.seen.get(key)
    if (known) return known.name
    this.seen.set(key, { name, unseen })
    return name
  }
}

const whyNot = (
  block: DxfBlock | undefined,
  name: string,
  there: There,
  plane: Matrix | null,
): Reason | null => {
  if (!block) return 'missing'
  // Bits 4 and 8: kept in another file.
  if ((numberOf(block.head, 70, 0) & (4 | 8)) !== 0) return 'elsewhere'
  if (there.within.includes(name.toLowerCase())) return 'itself'
  if (there.within.length > MOST_DEPTH) return 'itself'
  return plane === null ? 'tilted' : null
}
