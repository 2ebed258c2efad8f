import { build } from 'esbuild'
import type { Page } from 'puppeteer-core'
import { Engine } from '../src/core/engine/engine'
import { addRow, apply } from '../src/core/rig/edit'
import { emptyRig } from '../src/core/rig/rig'
import { ScreenFeed } from '../src/hub/screens/screen-feed'
import { App } from '../tests/app'
import { Bench } from '../tests/browser'
import { craft } from '../tests/rigs'
import { manyVariables } from './big-rig'
import { coreMs, median, print, quietMs, quietMsInPage } from './measure'
import { CHANGING, dense, ELEMENTS } from './screen-elements'

const HZ = 60
const SECONDS = 5
const VARIABLES = 4000
const LEAST_HZ = 58
const MOST_MS = 8
const FIRST_MS = 1500

const what = `${ELEMENTS} elements, ${CHANGING} values changing at ${HZ} Hz`

/** What the hub takes to tell a device of one screen, beside the frames themselves. */
const benchHub = async (): Promise<void> => {
  const secondsWith = async (looksOn: boolean): Promise<number> => {
    const engine = new Engine()
    const rig = apply(emptyRig(), [
      addRow('screen', dense.screen),
      ...dense.elements.map((e) => addRow('element', e)),
    ])
    engine.step({ is: 'sources', sources: [craft(manyVariables(VARIABLES))] }, 0)
    engine.step({ is: 'rig', rig, diff: null }, 0)
    engine.step({ is: 'source', source: 'craft', up: true }, 0)
    const feed = new ScreenFeed(engine)
    let told = 0
    const leave = looksOn
      ? feed.join(
          { send: (text: string) => (told += text.length), isFull: () => false } as never,
          dense.screen.name,
        )
      : () => {}
    const ms = await coreMs(async () => {
      for (let turn = 0; turn < HZ * SECONDS; turn++) {
        const indexes = Array.from({ length: CHANGING }, (_, k) => (turn * 7 + k) % ELEMENTS)
        engine.step(
          { is: 'frame', source: 'craft', indexes, values: indexes.map((i) => turn + i / 7) },
          turn * 17,
        )
        feed.stepped()
        await new Promise((resolve) => setTimeout(resolve, 1000 / HZ))
      }
    })
    leave()
    if (looksOn && told < 100_000) throw new Error('the screen was not told')
    return ms
  }
  await secondsWith(true)
  const without = await secondsWith(false)
  const ours = Math.max(0, (await secondsWith(true)) - without)
  const quiet = await coreMs(() => quietMs(SECONDS * 1000 * 0.03))
  print({
    name: `the hub for a screen with ${what}, against 3% of a quiet core`,
    value: ours / (SECONDS * 1000),
    unit: 'of a core',
    ratio: ours / quiet,
    limit: 1,
  })
}

/** How long so much work takes in the page just now, for each millisecond on a quiet core. */
const slownessOf = async (page: Page): Promise<number> =>
  Number(
    await page.evaluate(
      `(() => { const began = performance.now(); (${quietMsInPage})(200); return (performance.now() - began) / 200 })()`,
    ),
  )

const pageScript = async (): Promise<string> => {
  const { outputFiles } = await build({
    entryPoints: ['bench/screen-page.ts'],
    bundle: true,
    format: 'iife',
    write: false,
    alias: { zod: './src/screen/no-schemas.ts' },
    logLevel: 'error',
  })
  return outputFiles[0]?.text ?? ''
}

/** How a screen is drawn in a browser: pictures a second, the main thread, and script against joins of a charting library. */
const benchBrowser = async (): Promise<void> => {
  const bench = await Bench.open('about:blank')
  await bench.page.setContent('<!doctype html><body style="margin:0;background:#000"></body>')
  await bench.page.evaluate(await pageScript())
  const page = bench.page
  await page.evaluate('benchLive(1500)')
  const before = await page.metrics()
  const { frames, ms } = (await page.evaluate(`benchLive(${SECONDS * 1000})`)) as {
    frames: number
    ms: number
  }
  const after = await page.metrics()
  const rate = (frames * 1000) / ms
  print({
    name: `pictures a second of a screen with ${what}, below ${LEAST_HZ} against them`,
    value: rate,
    unit: '/s',
    ratio: LEAST_HZ / rate,
    limit: 1,
  })
  const task = (((after.TaskDuration ?? 0) - (before.TaskDuration ?? 0)) * 1000) / frames
  print({
    name: `main thread for a picture of it, against ${MOST_MS} ms of work in the same page`,
    value: task,
    unit: 'ms',
    ratio: task / (MOST_MS * (await slownessOf(page))),
    limit: 1,
  })
  const { ours, joins } = (await page.evaluate('benchScript(150)')) as { ours: number; joins: number }
  print({
    name: 'script for a picture of it, against a fifth of plain joins',
    value: ours,
    unit: 'ms',
    ratio: ours / (joins / 5),
    limit: 1,
  })
  await bench.close()
}

/** How long it takes from asking for a screen to its first picture, with nothing known of it yet. */
const benchFirstPicture = async (): Promise<void> => {
  const app = await App.make()
  await app.start()
  const bench = await Bench.open('about:blank')
  const times: number[] = []
  for (let i = 0; i < 7; i++) {
    const page = await bench.browser.newPage()
    await page.setCacheEnabled(false)
    await page.goto(`${app.address}/screen/Fuel%20page`)
    await page.waitForSelector('[data-element] text')
    times.push(
      await page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            requestAnimationFrame(() => resolve(performance.now()))
          }),
      ),
    )
    await page.close()
  }
  const slowness = await slownessOf(bench.page)
  await bench.close()
  await app.remove()
  const first = median(times)
  print({
    name: `the first picture of a screen, against ${FIRST_MS} ms of work in the same page`,
    value: first,
    unit: 'ms',
    ratio: first / (FIRST_MS * slowness),
    limit: 1,
  })
}

export const benchScreens = async (): Promise<void> => {
  await benchHub()
  await benchBrowser()
  await benchFirstPicture()
}
