import { fitFindings } from '../src/core/layout/fit/fit'
import { addRow, type Diff } from '../src/core/rig/edit'
import { emptyRig } from '../src/core/rig/rig'
import type { PanelRow, PartRow } from '../src/core/rig/rows'
import { App, CraftSide, until } from '../tests/app'
import { Bench } from '../tests/browser'
import { inTurn, print, quantile, quietMs, quietMsInPage } from './measure'

const PARTS = 500
const DRAGGED = 50
const COLUMNS = 25
/** What opening a large panel may take on a quiet core. */
const OPENING_MS = 1000

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
  const { ours, ratio } = inTurn(
    () => void fitFindings(rig, panel),
    () => quietMs(20),
    40,
  )
  print({
    name: 'fit check of 500 parts, against 20 ms of work',
    value: ours,
    unit: 'ms',
    ratio,
    limit: 1,
  })
}

/** How long so much work takes in the page just now, for each millisecond on a quiet core. */
const slownessOf = (bench: Bench): Promise<number> =>
  bench.page.evaluate((work) => {
    const began = performance.now()
    const done = (new Function(`return ${work}`)() as (ms: number) => number)(100)
    return (performance.now() - began) / 100 + (done === 42 ? 1e-9 : 0)
  }, quietMsInPage)

/** Opens a panel of 500 parts in a real browser and drags 50 of them about. */
export const benchPanel = async (): Promise<void> => {
  benchFit()
  const app = await App.make()
  await app.start()
  const craft = await new CraftSide(await app.craftPort()).open()
  const diff: Diff = [addRow('panel', panel), ...parts.map((p) => addRow('part', p))]
  const response = await fetch(`${app.address}/api/edits`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ editId: crypto.randomUUID(), sentence: 'Built a wall', diff }),
  })
  if (!response.ok) throw new Error(await response.text())
  const bench = await Bench.open(`${app.address}/bench`)
  const openings: number[] = []
  const shares: number[] = []
  for (let i = 0; i < 7; i++) {
    await bench.page.goto(`${app.address}/panel`)
    await until('all parts are drawn', () => drawn(bench))
    openings.push(
      await bench.page.evaluate(() => performance.getEntriesByName('all drawn')[0]?.startTime ?? 0),
    )
    shares.push((openings.at(-1) ?? 0) / ((await slownessOf(bench)) * OPENING_MS))
  }
  const opening = median(openings)
  print({
    name: 'opening a panel of 500 parts, from asking for the page until all are drawn, against a second of work',
    value: opening,
    unit: 'ms',
    ratio: median(shares),
    limit: 1,
  })
  const { idle, frames } = await dragAbout(bench)
  print({
    name: 'a frame while 50 of 500 parts are dragged, against one while the mouse only moves over them',
    value: median(frames),
    unit: 'ms',
    ratio: median(frames) / median(idle),
    limit: 1.2,
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
const dragAbout = async (bench: Bench): Promise<{ idle: number[]; frames: number[] }> => {
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
  const idle = await framesWhileMoving(bench, from)
  await bench.page.mouse.move(from.x, from.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move(from.x + 10, from.y + 10, { steps: 4 })
  const frames = await framesWhileMoving(bench, from)
  await bench.page.mouse.up()
  return { idle, frames }
}

const framesWhileMoving = async (bench: Bench, from: { x: number; y: number }): Promise<number[]> => {
  await bench.page.evaluate(() => {
    const times: number[] = []
    Object.assign(window, { times })
    const frame = (t: number) => {
      times.push(t)
      if ((window as unknown as { times: number[] }).times === times) requestAnimationFrame(frame)
    }
    requestAnimationFrame(frame)
  })
  const end = Date.now() + 4000
  for (let i = 0; Date.now() < end; i++)
    await bench.page.mouse.move(from.x + 40 + 30 * Math.sin(i / 12), from.y + 60 + 40 * Math.cos(i / 12))
  const times = await bench.page.evaluate(() => (window as unknown as { times: number[] }).times)
  return times.slice(1).map((t, i) => t - (times[i] as number))
}
