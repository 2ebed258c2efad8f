import { alongBands } from '../src/core/signal/bands'
import { alongCurve } from '../src/core/signal/curve'
import { needleAngle } from '../src/core/signal/needle'
import { App, pause } from '../tests/app'
import { Bench } from '../tests/browser'
import { inTurn, print } from './measure'

const TIMES = 1_000_000

/** Interpolation as one writes it for one list of points: two arrays of numbers, gone through by halves. */
const byHand = (xs: Float64Array, ys: Float64Array) => (x: number) => {
  const n = xs.length
  if (x <= (xs[0] as number)) return ys[0] as number
  if (x >= (xs[n - 1] as number)) return ys[n - 1] as number
  let low = 0
  let high = n - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if ((xs[middle] as number) <= x) low = middle
    else high = middle
  }
  const [x0, x1] = [xs[low] as number, xs[high] as number]
  const [y0, y1] = [ys[low] as number, ys[high] as number]
  return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0)
}

/** From values to angles and from travel to what a lever gives, against interpolation that was written for these points. */
const benchCurves = (): void => {
  const points = Array.from({ length: 12 }, (_, i) => ({ value: i * 10 + (i % 3), deg: -130 + 22 * i }))
  const reference = byHand(
    Float64Array.from(points, (p) => p.value),
    Float64Array.from(points, (p) => p.deg),
  )
  const curve = points.map((p) => ({ from: p.value, to: p.deg }))
  const bands = points.slice(1).map((p, i) => {
    const before = points[i] as (typeof points)[number]
    return { from: before.value, to: p.value, gives: [before.deg, p.deg] as const }
  })
  const kinds: readonly (readonly [string, (x: number) => number])[] = [
    ['needle points', needleAngle(points)],
    ['curve', (x) => alongCurve(curve, x)],
    ['bands', (x) => alongBands(bands, x)],
  ]
  let sum = 0
  const run = (f: (x: number) => number) => () => {
    for (let i = 0; i < TIMES; i++) sum += f((i * 7.3) % 115)
  }
  for (const [name, ours] of kinds) {
    for (let x = 0; x <= 112; x += 0.7)
      if (Math.abs(ours(x) - reference(x)) > 1e-9) throw new Error(`${name} give something else at ${x}`)
    const times = inTurn(run(ours), run(reference), 11)
    print({
      name: `${name}, twelve of them, against interpolation written by hand`,
      value: (times.ours / TIMES) * 1e6,
      unit: 'ns',
      ratio: times.ratio,
      limit: 2,
    })
  }
  if (!Number.isFinite(sum)) throw new Error('nothing was computed')
}

const WATCHED_MS = 6000
/** What a screen shows, but for a frame now and then. */
const FRAMES = 58

/** How smoothly a lever is drawn while its board notes it a thousand times a second. */
const benchChart = async (): Promise<void> => {
  const app = await App.make()
  await app.start()
  const bench = await Bench.open(`${app.address}/calibrate`)
  try {
    await bench.clickWords('Levers', '[role="radio"]')
    await bench.clickWords('Power lever left', 'ul[aria-label="Parts"] button')
    await bench.page.select('select[aria-label="What the simulated part is like"]', 'uneven ends')
    await bench.sees('now ', 'section[aria-label="Calibrate"]')
    // Starting is over, and the board is asked for its levels.
    await pause(4000)
    const seen = await bench.page.evaluate(
      (ms) =>
        new Promise<number>((done) => {
          const began = performance.now()
          let frames = 0
          const run = () => {
            frames++
            if (performance.now() - began < ms) requestAnimationFrame(run)
            else done((1000 * frames) / (performance.now() - began))
          }
          requestAnimationFrame(run)
        }),
      WATCHED_MS,
    )
    print({
      name: 'a lever while it is measured, a thousand samples a second, frames a second against 58',
      value: seen,
      unit: 'Hz',
      ratio: FRAMES / seen,
      limit: 1,
    })
  } finally {
    await bench.close()
    await app.remove()
  }
}

export const benchCalibrate = async (): Promise<void> => {
  benchCurves()
  await benchChart()
}
