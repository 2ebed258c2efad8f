import DxfParser, { type ICircleEntity, type ILwpolylineEntity, type ISplineEntity } from 'dxf-parser'
import { PDFDocument } from 'pdf-lib'
import { describe, expect, it } from 'vitest'
import { partAt, plate, plateRig } from '../../../tests/plates'
import { demoRig } from '../../../tests/rigs'
import { fontBytes } from '../../../tools/letters'
import { partKind } from '../catalogue/parts'
import { MOST_BYTES } from '../drawings/drawing'
import type { ReadPlate } from '../drawings/plate-from'
import { readPlateFile } from '../drawings/read-file'
import { boundsOf } from '../geometry/boxes'
import { asCircle } from '../geometry/contour'
import { flattened } from '../geometry/flatten'
import { pathData } from '../geometry/path-data'
import { contoursOf } from '../geometry/read-path-data'
import { areaOf } from '../geometry/rings'
import { capHeight, textWidth } from '../lettering/lettering'
import { letteringFrom } from '../lettering/outlines'
import { legendFonts } from '../rig/legend-fonts'
import { panelsOf, partsOf, type Rig, rowsOf } from '../rig/rig'
import type { PanelRow } from '../rig/rows'
import { panelDrawing } from './cut-drawing'
import { dialDrawing } from './dial-drawing'
import { plateOf } from './plate'

import { writeDxf } from './write-dxf'
import { tilesFor, writePdf } from './write-pdf'
import { writeSvg } from './write-svg'

const letters = letteringFrom((face) => fontBytes('.', face))
const rig = demoRig()
const panels = panelsOf(rig)
const drawingOf = (panel: PanelRow, kerfMm = 0, of: Rig = rig) => panelDrawing(of, panel, letters, { kerfMm })

const read = (text: string, as: 'svg' | 'dxf'): ReadPlate => {
  const answer = readPlateFile({ text, name: `a.${as}`, choices: {} })
  if ('plate' in answer && answer.plate) return answer.plate
  throw new Error(answer.problem ?? 'no plate')
}

const problemOf = (text: string, as: 'svg' | 'dxf'): string => {
  return readPlateFile({ text, name: `a.${as}`, choices: {} }).problem ?? ''
}

/** Every round hole the rig asks for, from the catalogue alone. */
const roundHoles = (panel: PanelRow): { x: number; y: number; diameter: number }[] => [
  ...panel.settings.holes.map((h) => ({ x: h.xMm, y: h.yMm, diameter: h.diameterMm })),
  ...partsOf(rig, panel.id).flatMap((p) => {
    const mount = partKind(p.kind)?.mount
    const round = mount?.cutouts.flatMap((c) => (c.is === 'round' ? [c.diameterMm] : [])) ?? []
    return [
      ...round.map((diameter) => ({ x: p.xMm, y: p.yMm, diameter })),
      ...(mount?.screws ?? []).map((s) => ({ x: p.xMm + s.xMm, y: p.yMm + s.yMm, diameter: s.diameterMm })),
    ]
  }),
]

const near = (a: number, b: number) => Math.abs(a - b) < 0.01

describe('the DXF of a panel, read by another reader', () => {
  it.each(panels)('has every hole of $name where the rig has it', (panel) => {
    const dxf = new DxfParser().parseSync(writeDxf(drawingOf(panel)))
    expect(dxf?.header.$INSUNITS).toBe(4)
    const circles = (dxf?.entities ?? []).filter(
      (e): e is ICircleEntity => e.type === 'CIRCLE' && e.layer !== 'reference',
    )
    const wanted = roundHoles(panel)
    expect(circles).toHaveLength(wanted.length)
    for (const h of wanted) {
      const found = circles.filter(
        (c) =>
          near(c.center.x, h.x) && near(panel.heightMm - c.center.y, h.y) && near(c.radius * 2, h.diameter),
      )
      expect(found.length, `${h.x} ${h.y}`).toBeGreaterThan(0)
    }
    const layers = new Set(dxf?.entities.map((e) => e.layer))
    expect([...layers].sort()).toEqual(['cut', 'drill', 'engrave', 'reference'])
  })

  it('closes what is cut, keeps arcs as bulges and letters as splines of degree 3', () => {
    const [panel] = panels
    const dxf = new DxfParser().parseSync(writeDxf(drawingOf(panel as PanelRow)))
    const cut = (dxf?.entities ?? []).filter(
      (e) => e.layer === 'cut' && e.type === 'LWPOLYLINE',
    ) as ILwpolylineEntity[]
    expect(cut.length).toBeGreaterThan(0)
    for (const line of cut) expect(line.shape).toBe(true)
    const edge = cut.find((l) => l.vertices.length === 8)
    expect(edge?.vertices.filter((v) => near(Math.abs(v.bulge ?? 0), Math.tan(Math.PI / 8)))).toHaveLength(4)
    const splines = (dxf?.entities ?? []).filter((e) => e.type === 'SPLINE') as ISplineEntity[]
    expect(splines.length).toBeGreaterThan(20)
    for (const s of splines) {
      expect(s.degreeOfSplineCurve).toBe(3)
      expect(s.knotValues).toHaveLength((s.controlPoints?.length ?? 0) + 4)
    }
    expect(dxf?.entities.some((e) => e.type === 'TEXT' || e.type === 'MTEXT')).toBe(false)
  })
})

describe.each(['svg', 'dxf'] as const)('a panel through %s and back', (as) => {
  const write = as === 'svg' ? writeSvg : writeDxf

  it.each(panels)('is the same plate: $name', (panel) => {
    const back = read(write(drawingOf(panel)), as)
    expect([back.widthMm, back.heightMm, back.cornerMm]).toEqual([
      panel.widthMm,
      panel.heightMm,
      panel.cornerMm,
    ])
    expect(back.outline).toBeUndefined()
    const wanted = roundHoles(panel)
    expect(back.holes).toHaveLength(wanted.length)
    for (const h of wanted)
      expect(
        back.holes.some((b) => near(b.xMm, h.x) && near(b.yMm, h.y) && near(b.diameterMm, h.diameter)),
      ).toBe(true)
    const openings = plateOf(rig, panel).holes.filter((h) => asCircle(h.contour) === null)
    expect(back.windows).toHaveLength(openings.length)
    const boxes = back.windows.map((d) => boundsOf(contoursOf(d)[0] as never))
    for (const { contour } of openings) {
      const own = boundsOf(contour)
      expect(
        boxes.some(
          (b) =>
            near(b.minX, own.minX) &&
            near(b.minY, own.minY) &&
            near(b.maxX, own.maxX) &&
            near(b.maxY, own.maxY),
        ),
      ).toBe(true)
    }
  })

  it('keeps an edge of its own, with curves within 0.02 mm', () => {
    const outline = 'M0 20C0 5 5 0 20 0L120 0A30 30 0 0 1 150 30L150 80L0 80Z'
    const own: PanelRow = { ...plate, widthMm: 150, heightMm: 80, settings: { holes: [], outline } }
    const back = read(write(drawingOf(own, 0, plateRig([], [], own))), as)
    const [wanted, found] = [contoursOf(outline)[0], contoursOf(back.outline ?? '')[0]]
    expect(found?.segments.filter((s) => s.is !== 'line').length).toBeGreaterThanOrEqual(2)
    const ring = flattened(wanted as never, 0.001)
    for (const p of flattened(found as never, 0.001))
      expect(Math.min(...ring.map((q, i) => lineGap(p, q, ring[(i + 1) % ring.length] ?? q)))).toBeLessThan(
        0.02,
      )
  })
})

const lineGap = (
  p: { x: number; y: number },
  a: { x: number; y: number },
  b: { x: number; y: number },
): number => {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const t = Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)))
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy)
}

describe('kerf', () => {
  it('makes the outline larger and holes smaller by half of it on every side', () => {
    const one = plateRig([
      partAt('w', 'text-16x2', 100, 50),
      partAt('l', 'lamp-8-green', 30, 50),
      partAt('e', 'encoder', 160, 50),
    ])
    const sizes = (kerf: number) =>
      drawingOf(plate, kerf, one).cut.map((c) => {
        const { minX, maxX, minY, maxY } = boundsOf(c)
        return [maxX - minX, maxY - minY]
      })
    const [none, some] = [sizes(0), sizes(0.2)]
    expect(some[0]?.[0]).toBeCloseTo(200.2, 6)
    expect(some[0]?.[1]).toBeCloseTo(100.2, 6)
    for (let i = 1; i < none.length; i++)
      for (const k of [0, 1]) expect(some[i]?.[k]).toBeCloseTo((none[i]?.[k] ?? 0) - 0.2, 6)
  })

  it('of an imported edge moves it everywhere, corners too', () => {
    const own: PanelRow = { ...plate, settings: { holes: [], outline: 'M0 0L100 0L100 50L40 50L0 30Z' } }
    const area = (kerf: number) =>
      Math.abs(areaOf(flattened(drawingOf(own, kerf, plateRig([], [], own)).cut[0] as never)))
    const around = 100 + 50 + 60 + Math.hypot(40, 20) + 30
    expect(area(0.2) - area(0)).toBeCloseTo(around * 0.1, 0)
  })
})

describe('letters', () => {
  it('are as wide as the drawing on screen counts with', () => {
    for (const face of legendFonts)
      for (const text of ['WHEEL POSITION', 'COM 1', 'ALT 100 ft', 'Åsa Ø'])
        expect(letters.outlines(text, 3.4, face).widthMm).toBeCloseTo(textWidth(text, 3.4, face), 1)
  })

  it('stand on the base line and are closed', () => {
    for (const face of legendFonts.filter((f) => f !== 'single')) {
      const { contours } = letters.outlines('HE', 10, face)
      for (const c of contours) expect(c.closed).toBe(true)
      const box = contours.map(boundsOf)
      expect(Math.max(...box.map((b) => b.maxY))).toBeCloseTo(0, 3)
      expect(Math.min(...box.map((b) => b.minY))).toBeCloseTo(-10 * capHeight(face), 2)
    }
  })
})

describe('the PDF', () => {
  it('takes one sheet where it fits, turned if need be, and several with an overlap where not', () => {
    expect(tilesFor(160, 110, 'A4').tiles).toHaveLength(1)
    expect(tilesFor(242, 132, 'A4')).toMatchObject({ pageMm: [297, 210] })
    const large = tilesFor(600, 400, 'A4')
    const xs = [...new Set(large.tiles.map((t) => t.x))]
    expect((xs[1] ?? 0) - (xs[0] ?? 0)).toBeCloseTo(large.roomMm[0] - 10, 6)
    const reach = Math.max(...large.tiles.map((t) => t.x)) + large.roomMm[0]
    expect(reach).toBeGreaterThanOrEqual(600)
  })

  it('has the size of its paper and as many pages as sheets', async () => {
    const wide: PanelRow = { ...plate, widthMm: 500, heightMm: 150 }
    const bytes = await writePdf(drawingOf(wide, 0, plateRig([], [], wide)), letters, 'A4')
    const pdf = await PDFDocument.load(bytes)
    expect(pdf.getPageCount()).toBe(tilesFor(500, 150, 'A4').tiles.length)
    expect(pdf.getPage(0).getWidth()).toBeCloseTo((297 / 25.4) * 72, 1)
  })
})

describe('a dial face', () => {
  it('has its marks where the needle points', () => {
    const gauge = rowsOf(rig, 'part').find((p) => p.name === 'Torque left')
    const dial = gauge && dialDrawing(gauge, letters)
    const needle = gauge?.settings.aspects?.needle
    const points = needle?.kind === 'needle' ? needle.points : []
    expect(points.length).toBeGreaterThan(1)
    const outer = 18 * 0.94
    for (const { deg } of points) {
      const a = (deg * Math.PI) / 180
      const [x, y] = [18 + outer * Math.sin(a), 18 - outer * Math.cos(a)]
      expect(
        dial?.engrave.some((c) => near(c.start.x, x) && near(c.start.y, y)),
        `${deg}°`,
      ).toBe(true)
    }
    expect(dial?.cut.map((c) => asCircle(c)?.radius)).toEqual([18, 2.5])
    const lamp = rowsOf(rig, 'part').find((p) => p.name === 'Bow left')
    expect(lamp && dialDrawing(lamp, letters)).toBeNull()
  })
})

const svg = (inside: string, head = 'width="100mm" height="50mm" viewBox="0 0 100 50"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inside}</svg>`
const plainEdge = '<rect width="100" height="50"/>'

describe('files from elsewhere', () => {
  it('in inches or with scaled groups come in at their real size', () => {
    const inches = read(
      svg(
        '<rect width="4" height="2"/><circle cx="1" cy="1" r=".25"/>',
        'width="4in" height="2in" viewBox="0 0 4 2"',
      ),
      'svg',
    )
    expect([inches.widthMm, inches.heightMm]).toEqual([101.6, 50.8])
    expect(inches.holes).toEqual([{ xMm: 25.4, yMm: 25.4, diameterMm: 12.7 }])
    const scaled = read(
      svg(`${plainEdge}<g transform="translate(50 25) scale(2) rotate(90)"><circle cx="5" r="3"/></g>`),
      'svg',
    )
    expect(scaled.holes).toEqual([{ xMm: 50, yMm: 35, diameterMm: 12 }])
  })

  it('that do not say their unit are not guessed', () => {
    const text = svg(plainEdge, 'viewBox="0 0 100 50"')
    expect(readPlateFile({ text, name: 'a.svg', choices: {} })).toMatchObject({ saidMm: null, unitMm: 1 })
    expect(readPlateFile({ text, name: 'a.svg', choices: { unitMm: 25.4 } })).toMatchObject({
      plate: { widthMm: 2540, heightMm: 1270 },
    })
  })

  it('have their lines joined into closed ones', () => {
    const lines = ['0 0 100 0', '100 50 100 0', '0 50 100 50', '0 50 0 0'].map((l) => {
      const [x1, y1, x2, y2] = l.split(' ')
      return `<line x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}"/>`
    })
    expect(read(svg(lines.join('')), 'svg')).toMatchObject({ widthMm: 100, heightMm: 50, cornerMm: 0 })
  })

  it('with scripts, pictures and references are cleaned, and what was left out is said', () => {
    const hostile = svg(
      `${plainEdge}<script>alert(1)</script><image href="http://example.invalid/a.png"/><use href="other.svg#x"/>` +
        '<text>HELLO</text><g id="engrave"><path d="M10 10h5"/></g><circle cx="200" cy="25" r="3"/>',
    )
    const answer = readPlateFile({ text: hostile, name: 'a.svg', choices: {} })
    if (!('layers' in answer)) throw new Error(answer.problem)
    expect(answer.plate?.holes).toEqual([])
    expect(answer.plate?.letters.map((l) => l.text)).toEqual(['HELLO'])
    expect(answer.plate?.engraved).toEqual([{ layer: 'engrave', d: 'M10 10L15 10' }])
    expect(answer.left.map((l) => [l.what, l.why, l.count])).toEqual([
      ['script', 'kind', 1],
      ['picture', 'kind', 1],
      ['use', 'elsewhere', 1],
      ['line', 'outside', 1],
    ])
  })

  it.each([
    ['svg', '<svg><g></svg>', 'broken at line 1'],
    ['svg', '<!DOCTYPE svg [<!ENTITY a "b">]><svg/>', 'entities'],
    ['svg', '<html/>', 'no svg element'],
    ['svg', svg('<path d="M0 0 L hello"/>'), 'no closed line'],
    ['svg', svg('<path d="M0 0h10"/>'), 'no closed line'],
    ['svg', svg('<rect width="9000" height="10"/>'), 'at most 5000 mm'],
    ['svg', svg(`${'<g>'.repeat(80)}${'</g>'.repeat(80)}`), 'too deeply'],
    ['svg', ' '.repeat(MOST_BYTES + 1), 'larger than 8 MB'],
    ['svg', svg('<g transform="wobble(3)"><rect width="9" height="9"/></g>'), 'no closed line'],
    ['dxf', 'this is a letter', 'DXF'],
    ['dxf', 'head\0body', 'binary'],
    ['dxf', '0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n', 'nothing drawn'],
  ] as const)('%s that cannot be read are refused with a sentence: %.40s', (as, text, words) => {
    expect(problemOf(text, as)).toContain(words)
  })

  it('names in drawings do not break the file', () => {
    const odd: PanelRow = { ...plate, name: 'A <b> & "c"' }
    expect(read(writeSvg(drawingOf(odd, 0, plateRig([], [], odd))), 'svg').widthMm).toBe(200)
  })

  it('path data of every contour can be kept in the rig', () => {
    for (const panel of panels)
      for (const { contour } of plateOf(rig, panel).holes)
        expect(contoursOf(pathData(contour))).toHaveLength(1)
  })
})
