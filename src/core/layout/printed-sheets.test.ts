import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { plate, plateRig } from '../../../tests/plates'
import { fontBytes } from '../../../tools/letters'
import { letteringFrom } from '../lettering/outlines'
import type { PanelRow } from '../rig/rows'
import { panelDrawing } from './cut-drawing'
import { tilesFor, writePdf } from './write-pdf'

const letters = letteringFrom((face) => fontBytes('.', face))
const folder = mkdtempSync(join(tmpdir(), 'clavik-sheets-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const DOTS_PER_MM = 10
/** What is left free around a sheet, and how far one reaches over the next: the crosses lie there. */
const [MARGIN, OVERLAP] = [12, 10]

/** A page as another program draws it: how dark it is near a place in millimetres of the page. */
const page = (file: string, number: number) => {
  const out = join(folder, `p${number}`)
  const dots = String(DOTS_PER_MM * 25.4)
  execFileSync('pdftoppm', [
    ...['-r', dots, '-f', String(number), '-l', String(number), '-singlefile', '-gray', file, out],
  ])
  const bytes = readFileSync(`${out}.pgm`)
  const head = /^P5\s+(\d+)\s+(\d+)\s+\d+\s/.exec(bytes.subarray(0, 60).toString('latin1'))
  const [width, from] = [Number(head?.[1]), head?.[0].length ?? 0]
  const dot = (x: number, y: number) => bytes[from + y * width + x] ?? 255
  return (x: number, y: number): boolean => {
    const [cx, cy] = [Math.round(x * DOTS_PER_MM), Math.round(y * DOTS_PER_MM)]
    const near = [-2, -1, 0, 1, 2]
    return near.some((dy) => near.some((dx) => dot(cx + dx, cy + dy) < 215))
  }
}

describe('a plate larger than paper', () => {
  it('is whole once its sheets lie on each other by their crosses', async () => {
    const holes = [
      [20, 30, 16],
      [175, 60, 24],
      [181, 244, 16],
      [300, 255, 22],
      [355, 130, 16],
      [470, 300, 30],
      [560, 380, 12],
    ].map(([xMm = 0, yMm = 0, diameterMm = 0]) => ({ xMm, yMm, diameterMm }))
    const large: PanelRow = {
      ...plate,
      widthMm: 600,
      heightMm: 400,
      settings: { ...plate.settings, holes },
    }
    const drawing = panelDrawing(plateRig([], [], large), large, letters, { kerfMm: 0 })
    const file = join(folder, 'large.pdf')
    writeFileSync(file, await writePdf(drawing, letters, 'A4'))
    const { pageMm, tiles } = tilesFor(600, 400, 'A4')
    expect(new Set(tiles.map((t) => t.row)).size).toBeGreaterThan(1)
    expect(new Set(tiles.map((t) => t.column)).size).toBeGreaterThan(1)
    const room = [pageMm[0] - 2 * MARGIN, pageMm[1] - 2 * MARGIN - 14] as const
    const sheets = tiles.map(({ column, row }, i) => {
      const dark = page(file, i + 1)
      // The left and upper cross of a sheet lies on the one of its neighbour that is an overlap from its end.
      const [left, top] = [column * (room[0] - OVERLAP), row * (room[1] - OVERLAP)]
      return {
        page: dark,
        has: (x: number, y: number) =>
          x > left + 1 && x < left + room[0] - 1 && y > top + 1 && y < top + room[1] - 1,
        dark: (x: number, y: number) => dark(MARGIN + x - left, MARGIN + y - top),
      }
    })
    const seen = (x: number, y: number): boolean[] =>
      sheets.filter((s) => s.has(x, y)).map((s) => s.dark(x, y))
    for (const { xMm, yMm, diameterMm } of holes)
      for (let turn = 0; turn < 12; turn++) {
        const [c, s] = [Math.cos((turn * Math.PI) / 6), Math.sin((turn * Math.PI) / 6)]
        const rim = seen(xMm + (c * diameterMm) / 2, yMm + (s * diameterMm) / 2)
        expect(rim.length, `${xMm} ${yMm}`).toBeGreaterThan(0)
        expect(rim, `rim of ${xMm} ${yMm} at ${turn * 30}°`).not.toContain(false)
        // Between its rim and its cross there is nothing.
        const within = seen(
          xMm + (Math.cos((turn * Math.PI) / 6 + 0.3) * diameterMm) / 2.6,
          yMm + (Math.sin((turn * Math.PI) / 6 + 0.3) * diameterMm) / 2.6,
        )
        expect(within, `within ${xMm} ${yMm} at ${turn * 30}°`).not.toContain(true)
      }
    for (const { page: dark } of sheets) {
      // A ruler laid to the bar tells whether the printer kept the size.
      const y = pageMm[1] - MARGIN
      for (const x of [0.3, 25, 50, 75, 99.7]) expect(dark(MARGIN + x, y), `bar at ${x} mm`).toBe(true)
      for (const x of [-1, 101]) expect(dark(MARGIN + x, y), `bar at ${x} mm`).toBe(false)
    }
    for (let x = 20; x < 590; x += 30) expect([...seen(x, 0), ...seen(x, 400)]).not.toContain(false)
  })

  it('lies on sheets that leave nothing out, whatever its size', () => {
    const size = fc.double({ min: 20, max: 1500, noNaN: true })
    fc.assert(
      fc.property(size, size, fc.constantFrom('A4' as const, 'A3' as const), (width, height, paper) => {
        const { roomMm, tiles } = tilesFor(width, height, paper)
        for (const [at, room, whole] of [
          ['x', roomMm[0], width],
          ['y', roomMm[1], height],
        ] as const) {
          const begins = [...new Set(tiles.map((t) => t[at]))].sort((a, b) => a - b)
          expect(begins[0]).toBeLessThanOrEqual(1e-9)
          expect((begins.at(-1) ?? 0) + room).toBeGreaterThanOrEqual(whole - 1e-9)
          for (const [i, b] of begins.slice(1).entries())
            expect((begins[i] ?? 0) + room - b).toBeCloseTo(OVERLAP, 6)
        }
        const places = new Set(tiles.map((t) => `${t.x} ${t.y}`))
        expect(places.size).toBe(tiles.length)
      }),
    )
  })
})
