import { partsListCsv, wireListCsv } from '../core/harness/papers/csv'
import { labelSheets } from '../core/harness/papers/labels'
import { marksPdf, marksSvg } from '../core/harness/papers/marks'
import type { HarnessPaper } from '../core/harness/papers/names'
import { panelPartsList, partsList } from '../core/harness/papers/parts-list'
import { wireList } from '../core/harness/papers/wire-list'
import { wiringSheets } from '../core/harness/papers/wiring-sheets'
import { type CutDrawing, panelDrawing } from '../core/layout/cut-drawing'
import { dialDrawing, printedFace } from '../core/layout/dial-drawing'
import { faceSvg, printFaces } from '../core/layout/print-faces'
import { writeDxf } from '../core/layout/write-dxf'
import { writePdf } from '../core/layout/write-pdf'
import { writeSvg } from '../core/layout/write-svg'
import type { Lettering } from '../core/lettering/outlines'
import type {
  DrawingAsked,
  HarnessAsked,
  MadePaper,
  NotMade,
  PaperAsked,
  PrintAsked,
} from '../core/paper-asked'
import { boardsOf, partsOf, type Rig, rigRow } from '../core/rig/rig'
import { lettering, paperFonts } from './fonts'

type Made = Pick<MadePaper, 'type' | 'body'>
interface Of {
  readonly rig: Rig
  readonly asked: HarnessAsked
  readonly block: { readonly date: string; readonly revision: number }
}

const CSV = 'text/csv; charset=utf-8'
const PDF = 'application/pdf'

/** The papers of the harness by the name of their file. */
const harnessPapers: Readonly<Record<HarnessPaper, (of: Of) => Promise<Made | null>>> = {
  'wires.csv': async ({ rig }: Of) => ({ type: CSV, body: wireListCsv(wireList(rig)) }),
  'parts.csv': async ({ rig, asked: { panelId } }: Of) => ({
    type: CSV,
    body: partsListCsv(panelId === null ? partsList(rig) : panelPartsList(rig, panelId)),
  }),
  'labels.pdf': async ({ rig }: Of) => ({
    type: PDF,
    body: await marksPdf(labelSheets(wireList(rig)), 'Wire labels', paperFonts()),
  }),
  'wiring.svg': async ({ rig, asked, block }: Of) => {
    const sheets = wiringSheets(rig, asked.boardId ?? boardsOf(rig)[0]?.id ?? null, asked.paper, block)
    return sheets.length > 0 ? { type: 'image/svg+xml', body: marksSvg(sheets, 'Wiring') } : null
  },
  'wiring.pdf': async ({ rig, asked, block }: Of) => {
    const sheets = wiringSheets(rig, asked.boardId, asked.paper, block)
    return sheets.length > 0 ? { type: PDF, body: await marksPdf(sheets, 'Wiring', paperFonts()) } : null
  },
}

const types = { svg: 'image/svg+xml', dxf: 'application/dxf', pdf: PDF } as const

const drawingOf = (rig: Rig, { is, id, as, kerf }: DrawingAsked, letters: Lettering): CutDrawing | null => {
  if (is === 'dial') {
    const part = Object.hasOwn(rig.part, id) ? rig.part[id] : undefined
    return part ? dialDrawing(part, letters) : null
  }
  const panel = Object.hasOwn(rig.panel, id) ? rig.panel[id] : undefined
  // Paper is held against the part: it shows what is wanted, not where the tool runs.
  return panel ? panelDrawing(rig, panel, letters, { kerfMm: as === 'pdf' ? 0 : kerf }) : null
}

const written = async (drawing: CutDrawing, { as, paper }: DrawingAsked, letters: Lettering) => {
  if (as === 'svg') return writeSvg(drawing)
  if (as === 'dxf') return writeDxf(drawing)
  return await writePdf(drawing, letters, paper)
}

const fileName = (name: string): string => name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'drawing'

const printed = async (rig: Rig, { of, id, as, paper }: PrintAsked): Promise<MadePaper | NotMade | null> => {
  const letters = lettering()
  const isOne = of === 'part'
  const parts = isOne ? (Object.hasOwn(rig.part, id) ? [rig.part[id]] : []) : partsOf(rig, id)
  const faces = parts.flatMap((p) => (p && printedFace(p, letters)) ?? [])
  const [first] = faces
  if (!first) return null
  const title = isOne ? first.name : `${Object.hasOwn(rig.panel, id) ? rig.panel[id]?.name : ''}, dials`
  if (as === 'svg' && !isOne) return { refused: 'An SVG holds one face: ask for that of a part.' }
  if (as === 'svg') return { type: types.svg, body: faceSvg(first), name: `${fileName(title)}.svg` }
  const made = await printFaces(title, faces, letters, paper)
  if ('tooLarge' in made)
    return { refused: `${made.tooLarge.join(', ')}: larger than ${paper}. Choose larger paper.` }
  return { type: PDF, body: made, name: `${fileName(title)}.pdf` }
}

/** Makes a file of a rig; null where there is nothing of that in it. */
export const makePaper = async ({
  rig,
  revision,
  date,
  asked,
}: PaperAsked): Promise<MadePaper | NotMade | null> => {
  if (asked.is === 'harness') {
    const made: Made | null = await harnessPapers[asked.file]({ rig, asked, block: { revision, date } })
    const name = `${rigRow(rig)?.name ?? 'rig'} ${asked.file}`.replace(/[^\p{L}\p{N} ._-]+/gu, '')
    return made && { ...made, name }
  }
  if (asked.is === 'printed') return printed(rig, asked)
  const letters = lettering()
  const drawing = drawingOf(rig, asked, letters)
  if (!drawing) return null
  const body = await written(drawing, asked, letters)
  return { type: types[asked.as], body, name: `${fileName(drawing.name)}.${asked.as}` }
}
