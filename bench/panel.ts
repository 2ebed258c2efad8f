import { fitFindings } from '../src/core/layout/fit/fit'
import { addRow, type Diff } from '../src/core/rig/edit'
import { emptyRig } from '../src/core/rig/rig'
import type { PanelRow, PartRow } from '../src/core/rig/rows'
import { App, CraftSide, until } from '../tests/app'
import { Bench } from '../tests/browser'
import { print, quantile } from './measure'

const PARTS = 500
const DRAGGED = 50
const COLUMNS = 25
const FRAME_50_HZ_MS = 20

const panel: PanelRow = {
  id: 'wall',
  name: 'Wall',
  position: 0,
  widthMm: 900,
  heightMm: 640,
  cornerMm: 3,
  thicknessMm: 3,
  settings: { holes: [], material: 'aluminium' },
}

/** Toggles, lamps, buttons, encoders and digit windows in rows, as on a large overhead panel. */
const parts: PartRow[] = Array.from({ length: PARTS }, (_, i) => {
  const kinds = ['toggle-2', 'lamp-5-amber', 'lit-button-12-green', 'encoder', 'lamp-8-green'] as const
  return {
    id: `wall-${i}`,
    panelId: panel.id,
    name: `Wall ${i}`,
    kind: kinds[i % kinds.length] as string,
    xMm: 25 + (i % COLUMNS) * 35,
    yMm: 25 + Math.floor(i / COLUMNS) * 31,
    rotationDeg: 0,
    settings: {},
  }
})

const median = (times: readonly number[]): number => quantile([...times], 0.5)

const benchFit = (): void => {
  const rig = {
    ...emptyRig(),
    panel: { [panel.id]: panel },
    part: Object.fromEntries(parts.map((p) => [p.id, p])),
  }
  const times: number[] = []
  for (let i = 0; i < 40; i++) {
    const start = performance.now()
    fitFindings(rig, panel)
    times.push(performance.now() - start)
  }
  const value = median(times)
  print({ name: 'fit check of 500 parts', value, unit: 'ms', ratio: value / 20, limit: 1 })
}

/** Opens a panel of 500 parts in a real browser and drags 50 of them about. */
export const benchPanel = async (): Promise<void> => {
  benchFit()
  const app = await App.make()
  await app.start()
  const craft = await new CraftSide(app.craftPort()).open()
  const diff: Diff = [addRow('panel', panel), ...parts.map((p) => addRow('part', p))]
  const response = await fetch(`${app.address}/api/edits`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ editId: crypto.randomUUID(), sentence: 'Built a wall', diff }),
  })
  if (!response.ok) throw new Error(await response.text())
  const bench = await Bench.open(`${app.address}/bench`)
  const openings: number[] = []
  for (let i = 0; i < 5; i++) {
    await bench.page.goto(`${app.address}/panel`)
    await until('all parts are drawn', () => drawn(bench))
    openings.push(
      await bench.page.evaluate(() => performance.getEntriesByName('all drawn')[0]?.startTime ?? 0),
    )
  }
  const opening = median(openings)
  print({
    name: 'opening a panel of 500 parts, from asking for the page until all are drawn',
    value: opening,
    unit: 'ms',
    ratio: opening / 1000,
    limit: 1,
  })
  const frames = await dragAbout(bench)
  const frame = median(frames)
  print({
    name: 'a frame while 50 of 500 parts are dragged, against 50 a second',
    value: frame,
    unit: 'ms',
    ratio: frame / FRAME_50_HZ_MS,
    limit: 1,
  })
  print({
    name: 'the same: one frame in twenty takes longer than',
    value: quantile(frames, 0.95),
    unit: 'ms',
  })
  await bench.close()
  craft.close()
  await app.remove()
}

const drawn = (bench: Bench): Promise<boolean> =>
  bench.page.evaluate((count) => {
    const there = document.querySelectorAll('[role="application"] [data-part]').length >= count
    if (there && performance.getEntriesByName('all drawn').length === 0) performance.mark('all drawn')
    return there
  }, PARTS)

/** Times between frames, as the page itself sees them, while the mouse moves. */
const dragAbout = async (bench: Bench): Promise<number[]> => {
  const at = (x: number, y: number) =>
    bench.page.evaluate(
      (px, py) => {
        const svg = document.querySelector('[role="application"] svg') as SVGSVGElement
        const p = new DOMPoint(px, py).matrixTransform(svg.getScreenCTM() as DOMMatrix)
        return { x: p.x, y: p.y }
      },
      x,
      y,
    )
  const corner = await at(5, 5)
  const end = await at(25 + (COLUMNS - 1) * 35 + 16, 25 + (DRAGGED / COLUMNS - 1) * 31 + 15)
  await bench.page.mouse.move(corner.x, corner.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move(end.x, end.y, { steps: 4 })
  await bench.page.mouse.up()
  await bench.sees(`${DRAGGED} things`, 'aside')
  const from = await at(25, 25)
  await bench.page.mouse.move(from.x, from.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move(from.x + 10, from.y + 10, { steps: 4 })
  await bench.page.evaluate(() => {
    const times: number[] = []
    Object.assign(window, { times })
    const frame = (t: number) => {
      times.push(t)
      requestAnimationFrame(frame)
    }
    requestAnimationFrame(frame)
  })
  const end_ = Date.now() + 4000
  for (let i = 0; Date.now() < end_; i++)
    await bench.page.mouse.move(from.x + 40 + 30 * Math.sin(i / 12), from.y + 60 + 40 * Math.cos(i / 12))
  const times = await bench.page.evaluate(() => (window as unknown as { times: number[] }).times)
  await bench.page.mouse.up()
  return times.slice(1).map((t, i) => t - (times[i] as number))
}
