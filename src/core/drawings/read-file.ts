import { z } from 'zod'
import type { FitFinding } from '../layout/fit/finding'
import { lineFindings } from '../layout/fit/lines'
import type { Millimetres } from '../units-of-measure'
import type { Drawing, Unseen } from './drawing'
import { readDxf } from './dxf/read-dxf'
import type { LeftOut } from './left-out'
import {
  type Choices,
  type Picture,
  plateFrom,
  type ReadPlate,
  type Role,
  roles,
  usualRole,
} from './plate-from'
import { readSvg } from './svg/read-svg'
import { settingsOf } from './taken'

/** What the builder has chosen so far; the rest is as the file and the names of its layers suggest. */
export const plateChoices = z.strictObject({
  /** What one number of the file measures, in millimetres. */
  unitMm: z.number().gt(0).max(10_000).optional(),
  roles: z
    .array(z.tuple([z.string().max(300), z.enum(roles)]))
    .max(5000)
    .optional(),
  frames: z.number().int().min(0).max(20).optional(),
})
export type PlateChoices = z.infer<typeof plateChoices>

/** A file that is to become a plate: its text, what it is called, and what the builder has chosen so far. */
export interface PlateFile {
  readonly text: string
  readonly name: string
  readonly choices: PlateChoices
}

/** A layer of the file: what is on it and what becomes of it. */
export interface LayerRead {
  readonly name: string
  readonly unseen: Unseen | null
  readonly lines: number
  readonly texts: number
  readonly role: Role
}

/** What one number of the file may measure, and how large the drawing would be then. */
export interface UnitChoice {
  readonly id: 'mm' | 'cm' | 'in' | 'px' | 'pt'
  readonly mm: Millimetres
}

/** What was read, for the builder to look at before anything is taken. */
export interface PlateReading {
  readonly layers: readonly LayerRead[]
  readonly units: readonly UnitChoice[]
  /** What the file itself says; null where it says nothing, and it has to be chosen. */
  readonly saidMm: Millimetres | null
  /** By what the picture and the plate are measured. */
  readonly unitMm: Millimetres
  readonly plate: ReadPlate | null
  readonly problem: string | null
  readonly left: readonly LeftOut[]
  readonly picture: Picture
  /** What will be found once it is taken. */
  readonly findings: readonly Pick<FitFinding, 'id' | 'words' | 'box'>[]
}

export type PlateAnswer = PlateReading | { readonly problem: string }

const unitsOf = (drawing: Drawing): UnitChoice[] => [
  { id: 'mm', mm: 1 },
  { id: 'cm', mm: 10 },
  { id: 'in', mm: 25.4 },
  ...(drawing.pixelMm === null ? [] : [{ id: 'px' as const, mm: drawing.pixelMm }]),
  { id: 'pt', mm: 25.4 / 72 },
]

/** Reads a plate out of an SVG or DXF file. Whatever is in it, this gives an answer or throws, and changes nothing. */
export const readPlateFile = ({ text, name, choices }: PlateFile): PlateAnswer => {
  const isDxf =
    /\.dxf$/i.test(name) ||
    !text
      .replace(/^\uFEFF/, '')
      .trimStart()
      .startsWith('<')
  const drawing = isDxf ? readDxf(text) : readSvg(text.replace(/^\uFEFF/, ''))
  if ('problem' in drawing) return drawing
  const saidMm = drawing.unitMm
  const unitMm = choices.unitMm ?? saidMm ?? 1
  const chosen = new Map(choices.roles)
  const made = plateFrom(drawing, { unitMm, roles: chosen, frames: choices.frames ?? 0 })
  return {
    layers: layersOf(drawing, chosen),
    units: unitsOf(drawing),
    saidMm,
    unitMm,
    ...made,
    findings: made.plate === null ? [] : findingsOf(made.plate),
  }
}

const layersOf = (drawing: Drawing, chosen: Choices['roles']): LayerRead[] => {
  const count = (list: readonly { layer: string }[]) => {
    const counts = new Map<string, number>()
    for (const { layer } of list) counts.set(layer, (counts.get(layer) ?? 0) + 1)
    return counts
  }
  const [lines, texts] = [count(drawing.lines), count(drawing.letters)]
  return drawing.layers.map((l) => ({
    ...l,
    lines: lines.get(l.name) ?? 0,
    texts: texts.get(l.name) ?? 0,
    role: chosen.get(l.name) ?? usualRole(l),
  }))
}

const findingsOf = (plate: ReadPlate): PlateReading['findings'] => {
  const findings: FitFinding[] = []
  lineFindings({ ...plate, settings: settingsOf(plate) }, (f) =>
    findings.push({ ...f, id: `${f.kind}: ${f.keys.join(' ')}` }),
  )
  return findings.map(({ id, words, box }) => ({ id, words, box }))
}
