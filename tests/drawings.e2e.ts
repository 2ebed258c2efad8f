import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readSvg } from '../src/core/drawings/svg/read-svg'
import { pathData } from '../src/core/geometry/path-data'
import { Bench } from './browser'
import { svgCases } from './drawings/svg-cases'

/** As the browser paints it: which points of a fine grid are dark. */
const painted = async (page: Page, svg: string): Promise<string> =>
  page.evaluate(async (text) => {
    const image = new Image()
    image.src = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }))
    await image.decode()
    const [w, h] = [1000, 600]
    const canvas = document.createElement('canvas')
    canvas.width = w
    canvas.height = h
    const pen = canvas.getContext('2d') as CanvasRenderingContext2D
    pen.drawImage(image, 0, 0, w, h)
    const { data } = pen.getImageData(0, 0, w, h)
    let dark = ''
    for (let i = 3; i < data.length; i += 4) dark += (data[i] as number) > 127 ? '1' : '0'
    return dark
  }, svg)

describe('a browser paints what was read', () => {
  let bench: Bench
  beforeAll(async () => {
    bench = await Bench.open('about:blank')
  })
  afterAll(async () => {
    await bench?.close()
  })

  it.each(Object.entries(svgCases))('with %s', async (_name, svg) => {
    const read = readSvg(svg)
    if ('problem' in read) throw new Error(read.problem)
    const shown = new Set(read.layers.filter((l) => l.unseen === null).map((l) => l.name))
    const mm = read.unitMm ?? 0
    const paths = read.lines
      .filter((l) => shown.has(l.layer))
      .map((l) => `<path d="${pathData(l.contour)}"/>`)
    const own = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 ${100 / mm} ${60 / mm}">${paths.join('')}</svg>`
    const [theirs, ours] = [await painted(bench.page, svg), await painted(bench.page, own)]
    let [dark, differs] = [0, 0]
    for (let i = 0; i < theirs.length; i++) {
      if (theirs[i] === '1') dark++
      if (theirs[i] !== ours[i]) differs++
    }
    expect(dark).toBeGreaterThan(1000)
    expect(differs / dark).toBeLessThan(0.004)
  })
})
