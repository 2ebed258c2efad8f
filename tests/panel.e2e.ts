import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import DxfParser, { type ICircleEntity } from 'dxf-parser'
import type { ElementHandle } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession, type Session } from './session'

let session: Session
let bench: Bench
const files = mkdtempSync(join(tmpdir(), 'clavik-files-'))

beforeAll(async () => {
  session = await borrowSession('/panel')
  bench = session.bench
})
afterAll(async () => {
  await endSession(session)
  rmSync(files, { recursive: true, force: true })
})

const canvas = '[role="application"]'

/** Where millimetres of the drawing are on the page, once a frame has been painted: as an eye would find it. */
const at = (x: number, y: number): Promise<{ x: number; y: number }> =>
  bench.page.evaluate(
    async (s, px, py) => {
      const frame = () => new Promise(requestAnimationFrame)
      await frame()
      await frame()
      const svg = document.querySelector(`${s} svg`) as SVGSVGElement
      const p = new DOMPoint(px, py).matrixTransform(svg.getScreenCTM() as DOMMatrix)
      return { x: p.x, y: p.y }
    },
    canvas,
    x,
    y,
  )

const clickAt = async (x: number, y: number): Promise<void> => {
  const p = await at(x, y)
  await bench.page.mouse.click(p.x, p.y)
}

const drag = async (from: [number, number], to: [number, number]): Promise<void> => {
  const [a, b] = [await at(...from), await at(...to)]
  await bench.page.mouse.move(a.x, a.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 6 })
  await bench.page.mouse.move(b.x, b.y, { steps: 6 })
  await bench.page.mouse.up()
}

const press = async (key: string, ...held: string[]): Promise<void> => {
  for (const h of held) await bench.page.keyboard.down(h as 'Shift')
  await bench.page.keyboard.press(key as 'a')
  for (const h of held) await bench.page.keyboard.up(h as 'Shift')
}

/** The field behind a word, as the page has it. */
const field = async (word: string, within = 'aside'): Promise<ElementHandle<HTMLInputElement>> => {
  let found: ElementHandle<HTMLInputElement> | null = null
  await until(`there is a field “${word}”`, async () => {
    const path = `xpath/.//label[span[normalize-space(.)="${word}"]]/input`
    const place = await bench.page.$(within)
    found = (await place?.$(path)) as ElementHandle<HTMLInputElement> | null
    return found !== null
  })
  return found as unknown as ElementHandle<HTMLInputElement>
}

const type = async (word: string, text: string, within?: string): Promise<void> => {
  const input = await field(word, within)
  await input.click({ count: 3 })
  await bench.page.keyboard.type(text)
  await bench.page.keyboard.press('Enter')
}

const stands = async (x: string, y: string): Promise<void> => {
  const read = async (word: string) => (await field(word)).evaluate((e) => e.value)
  await until(`it stands at ${x}, ${y}`, async () => (await read('x')) === x && (await read('y')) === y)
}

const drawer = (word: string) => bench.clickWords(word, '[role="tab"]')

/** A kind of part chosen by search and put down. */
const put = async (search: string, kind: string, x: number, y: number): Promise<void> => {
  await drawer('Parts')
  await bench.page.click('input[aria-label="Search parts"]', { count: 3 })
  await bench.page.keyboard.type(search)
  await bench.click(`[data-kind="${kind}"]`)
  await clickAt(x, y)
}

/** A file as it is taken away, by the link on the page. */
const takeAway = async (as: 'svg' | 'dxf' | 'pdf'): Promise<Buffer> => {
  await drawer('Files')
  await until(
    'nothing waits to be kept',
    async () => !(await bench.text('[role="tabpanel"]')).includes('not kept yet'),
  )
  const base64 = await bench.page.evaluate(async (kind) => {
    const link = [...document.querySelectorAll<HTMLAnchorElement>('a[download]')].find((a) =>
      a.href.includes(`/file?as=${kind}`),
    )
    const response = await fetch(link?.href ?? '')
    const bytes = new Uint8Array(await response.arrayBuffer())
    return btoa(Array.from(bytes, (b) => String.fromCharCode(b)).join(''))
  }, as)
  return Buffer.from(base64, 'base64')
}

describe('drawing a panel', () => {
  it('begins with an empty plate, named and sized', async () => {
    await bench.clickWords('New panel')
    const name = 'input[aria-label="Name of the panel"]'
    await bench.click(name)
    await bench.page.click(name, { count: 3 })
    await bench.page.keyboard.type('Dimmers')
    await bench.page.keyboard.press('Enter')
    await type('Width', '140', '[role="tabpanel"]')
    await type('Height', '90', '[role="tabpanel"]')
    await bench.sees('140 × 90 × 3 mm')
    await bench.clickWords('Four corners')
    await press('0')
  })

  it('has parts put down by search and click, moved by hand onto the lines of others', async () => {
    await put('toggle', 'toggle-2', 30, 40)
    await bench.sees('Toggle, 2 positions', 'aside')
    await stands('30', '40')
    await put('rotary 45', 'rotary-3-45deg', 100, 45)
    await stands('100', '45')
    await drag([30, 40], [36.3, 44.6])
    // Its middle has snapped to the middle of the other.
    await until('it has snapped', async () => (await (await field('y')).evaluate((e) => e.value)) === '45')
  })

  it('moves what is picked by keys: 1, 10 and a tenth of a millimetre', async () => {
    await type('x', '30')
    await type('y', '40')
    await stands('30', '40')
    await bench.focus(canvas)
    await press('ArrowRight')
    await stands('31', '40')
    await press('ArrowDown', 'Shift')
    await stands('31', '50')
    await press('ArrowLeft', 'Alt')
    await stands('30.9', '50')
    await press('z', 'Control')
    await stands('31', '50')
  })

  it('takes a part from the catalogue to the plate with keys alone', async () => {
    await drawer('Parts')
    await bench.page.click('input[aria-label="Search parts"]', { count: 3 })
    await bench.page.keyboard.type('lamp 3 mm red')
    await bench.page.waitForSelector('[data-kind="lamp-3-red"]')
    await bench.focus('[data-kind="lamp-3-red"]')
    await press('Enter')
    await bench.focus(canvas)
    await press('Enter')
    await stands('70', '45')
    await press('Delete')
    await press('[')
    await until('something else is picked', async () => (await bench.text('aside')).includes(' mm deep'))
    await clickAt(31, 50)
    await stands('31', '50')
  })

  it('holds one axis while Shift is held', async () => {
    const [a, b] = [await at(31, 50), await at(45, 53)]
    await bench.page.mouse.move(a.x, a.y)
    await bench.page.mouse.down()
    await bench.page.keyboard.down('Shift')
    await bench.page.mouse.move(b.x, b.y, { steps: 8 })
    await bench.page.mouse.up()
    await bench.page.keyboard.up('Shift')
    await until('y is as it was', async () => (await (await field('y')).evaluate((e) => e.value)) === '50')
    expect(Number(await (await field('x')).evaluate((e) => e.value))).toBeGreaterThan(40)
    await type('x', '30')
  })

  it('goes along with a quick hand while the page is busy, and not with one that trembles on a click', async () => {
    await bench.dragWhileBusy(await at(30, 50), await at(45, 60))
    await stands('45', '60')
    await bench.dragWhileBusy(await at(45, 60), await at(30, 50))
    await stands('30', '50')
    // A millimetre beside the middle of the other, which would catch it.
    await type('y', '44')
    await stands('30', '44')
    const { x, y } = await at(30, 44)
    await bench.page.mouse.move(x, y)
    await bench.page.mouse.down()
    await bench.page.mouse.move(x + 1, y + 1)
    await bench.page.mouse.up()
    // Held by keys of the drawing: what went before is told by then.
    await bench.focus(canvas)
    await press('ArrowRight')
    await stands('31', '44')
    await type('x', '30')
    await type('y', '50')
    await stands('30', '50')
  })

  it('is left as it was when Escape is pressed in the middle of a drag', async () => {
    await press('Escape')
    await clickAt(30, 50)
    await stands('30', '50')
    const [a, b] = [await at(30, 50), await at(60, 70)]
    await bench.page.mouse.move(a.x, a.y)
    await bench.page.mouse.down()
    await bench.page.mouse.move(b.x, b.y, { steps: 6 })
    await press('Escape')
    await bench.page.mouse.up()
    await stands('30', '50')
  })

  it('is zoomed at the pointer with the wheel, panned, and shown whole again', async () => {
    const before = await at(30, 50)
    const far = await at(100, 45)
    await bench.page.mouse.move(before.x, before.y)
    await bench.page.mouse.wheel({ deltaY: -300 })
    await until('it is larger', async () => (await at(100, 45)).x > far.x + 20)
    const after = await at(30, 50)
    expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1.5)
    await bench.page.mouse.down({ button: 'middle' })
    await bench.page.mouse.move(before.x + 40, before.y + 25, { steps: 4 })
    await bench.page.mouse.up({ button: 'middle' })
    const panned = await at(30, 50)
    expect(panned.x - after.x).toBeCloseTo(40, 0)
    expect(panned.y - after.y).toBeCloseTo(25, 0)
    await bench.focus(canvas)
    await press('0')
    await until('it is whole', async () => Math.abs((await at(30, 50)).x - before.x) < 1.5)
  })

  it('snaps to a guide put there by a click on the ruler, and measures between two things', async () => {
    const [p, box] = [await at(80, 0), await bench.middleOf(canvas)]
    await bench.page.mouse.click(p.x, box.y - box.height / 2 - 10)
    await drawer('Plate')
    await bench.page.waitForSelector('input[aria-label="Guide 1"]')
    const guide = Number(
      await bench.page.$eval('input[aria-label="Guide 1"]', (e) => (e as HTMLInputElement).value),
    )
    expect(Math.abs(guide - 80)).toBeLessThan(0.6)
    await drag([30, 50], [guide + 0.8, 50])
    await until(
      'it is on the guide',
      async () => Number(await (await field('x')).evaluate((e) => e.value)) === guide,
    )
    await press('z', 'Control')
    await stands('30', '50')
    await bench.page.keyboard.down('Shift')
    await clickAt(100, 45)
    await bench.page.keyboard.up('Shift')
    await bench.sees('2 things', 'aside')
    expect(await bench.text('dl[aria-label="Measure"]')).toContain('across, down 70, 5 mm')
    await bench.click('button[aria-label="Remove guide 1"]')
    await until('the guide is gone', async () => (await bench.page.$('input[aria-label="Guide 1"]')) === null)
    await press('Escape')
  })

  it('shows bodies, holes and screws behind as if the plate were glass', async () => {
    await press('b', 'Shift')
    await until('depths are written at the bodies', async () =>
      (await bench.page.$$eval(`${canvas} text`, (t) => t.map((e) => e.textContent))).includes('20'),
    )
    await press('b', 'Shift')
  })

  it('makes several of one, and evens and aligns them', async () => {
    await put('lamp 5 mm amber', 'lamp-5-amber', 25, 20)
    await bench.clickWords('Several of it', 'summary')
    await type('columns', '4')
    const across = await bench.page.$$('xpath/.//label[span[normalize-space(.)="every"]]/input')
    await across[0]?.click({ count: 3 })
    await bench.page.keyboard.type('12')
    await bench.page.keyboard.press('Enter')
    await bench.clickWords('Make 4 × 1')
    await bench.sees('3 things', 'aside')
    await drag([49, 20], [49, 24])
    await bench.page.keyboard.down('Shift')
    await clickAt(25, 20)
    await bench.page.keyboard.up('Shift')
    await bench.sees('4 things', 'aside')
    await bench.click('button[aria-label="Align upper edges"]')
    const tops = () =>
      bench.page.evaluate((s) => {
        const parts = [...document.querySelectorAll(`${s} [data-part]`)]
        return parts.map((p) => p.getAttribute('transform') ?? '').filter((t) => t.includes(' 20)'))
      }, canvas)
    await until('all four stand in a row', async () => (await tops()).length === 4)
    await bench.clickWords('Group')
    await press('Escape')
    await clickAt(37, 20)
    await bench.sees('4 things', 'aside')
    await bench.clickWords('Ungroup')
  })

  it('says what does not fit while it is drawn, and offers a way out', async () => {
    await press('Escape')
    await drag([30, 50], [38, 22])
    await drawer('Fit')
    await bench.page.waitForSelector('[data-finding="in front"]')
    expect(await bench.breaches()).toEqual([])
    await press('z', 'Control')
    await bench.sees('Everything fits')
    await clickAt(100, 45)
    await type('x', '131')
    await bench.page.waitForSelector('[data-finding="beyond"]')
    await bench.clickWords('Move', '[data-finding="beyond"] button.btn')
    await bench.seesNo('reaches beyond the panel')
    await press('z', 'Control')
    await press('z', 'Control')
    await stands('100', '45')
  })

  it('letters a knob where its switch really stops, and exchanges the switch in place', async () => {
    await bench.clickWords('Names of its positions', 'summary')
    for (const [id, word] of [
      ['1', 'LOW'],
      ['2', 'MID'],
      ['3', 'HIGH'],
    ]) {
      await bench.page.click(`input[aria-label="Position ${id} is called"]`)
      await bench.page.keyboard.type(word as string)
      await bench.page.keyboard.press('Enter')
    }
    await bench.clickWords('Legend round it')
    await until('the words stand round it', async () => {
      const words = await bench.page.$$eval(`${canvas} text`, (t) => t.map((e) => e.textContent))
      return ['LOW', 'MID', 'HIGH'].every((w) => words.includes(w))
    })
    await clickAt(100, 45)
    await bench.page.select('select[aria-label="Exchange for"]', 'rotary-4')
    await bench.sees('is now Rotary switch, 4 positions of 30°')
    await press('z', 'Control')
    await until('it is the other again', async () =>
      (await bench.text('select[aria-label="Exchange for"]')).startsWith('Rotary switch, 3 positions of 45°'),
    )
  })

  it('puts legends, which go with their part, and asks before it takes away what is wired', async () => {
    await clickAt(30, 50)
    await bench.clickWords('Legend below')
    await bench.page.click('input[aria-label="Text"]', { count: 3 })
    await bench.page.keyboard.type('FLOOD')
    await bench.page.keyboard.press('Enter')
    await until('it is drawn', () =>
      bench.page.$$eval(`${canvas} text`, (t) => t.some((e) => e.textContent === 'FLOOD')),
    )
    const place = () =>
      bench.page.$$eval(`${canvas} text`, (t) =>
        t.find((e) => e.textContent === 'FLOOD')?.getAttribute('transform'),
      )
    const before = await place()
    await clickAt(30, 50)
    await press('ArrowDown')
    await until('the legend went along', async () => (await place()) !== before)
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.sees('160 × 110')
    await clickAt(64, 23.5)
    await bench.sees('Bow left', 'aside')
    await press('Delete')
    await bench.sees('Remove “Bow left”, with 2 leads and 1 binding?')
    await bench.clickWords('Keep')
    expect(await bench.page.$('[data-part="bow-left"]')).not.toBeNull()
  })

  it('makes a part of its own from one in the catalogue, saves it as a file and takes it from there', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.sees('160 × 110')
    await drawer('Parts')
    await bench.clickWords('Make one')
    await bench.page.waitForSelector('[role="dialog"]')
    await type('Width', '18', '[role="dialog"]')
    await type('Depth', '33', '[role="dialog"]')
    await type('Diameter', '0', '[role="dialog"]')
    await bench.sees('has to be more than 0', '[role="alert"]')
    await type('Diameter', '16.4', '[role="dialog"]')
    const name = await field('Name', '[role="dialog"]')
    await name.click({ count: 3 })
    await bench.page.keyboard.type('Salvaged button')
    expect(await bench.breaches()).toEqual([])
    const file = await bench.page.$eval('a[download$=".part.json"]', (a) =>
      decodeURIComponent((a as HTMLAnchorElement).href.split(',').slice(1).join(',')),
    )
    writeFileSync(join(files, 'button.part.json'), file)
    await bench.clickWords('Put it on the plate')
    await bench.page.waitForSelector('[role="dialog"]', { hidden: true })
    await clickAt(148, 60)
    await bench.sees('18 × 14 mm, 33 mm deep', 'aside')
    await bench.page.waitForSelector('[data-kind="own Salvaged button"]')
    await press('z', 'Control')
    await until(
      'it is gone again',
      async () => (await bench.page.$('[data-kind="own Salvaged button"]')) === null,
    )
    const input = (await bench.page.$(
      'input[aria-label="Part from a file"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(files, 'button.part.json'))
    await bench.page.waitForSelector('[role="dialog"]')
    expect(await (await field('Name', '[role="dialog"]')).evaluate((e) => e.value)).toBe('Salvaged button')
    await press('Escape')
    await bench.page.waitForSelector('[role="dialog"]', { hidden: true })
    writeFileSync(join(files, 'odd.part.json'), '{"clavik":"part","format":9,"part":{}}')
    await input.uploadFile(join(files, 'odd.part.json'))
    await bench.sees('This part file has format 9')
  })

  it('goes to the panel of whatever is selected, from the palette or another view, and picks it', async () => {
    await press('k', 'Control')
    await bench.page.waitForSelector('[cmdk-input]')
    await bench.page.keyboard.type('bus tie switch lamp')
    await bench.sees('Bus tie switch lamp', '[cmdk-list]')
    await press('Enter')
    await bench.sees('380 × 238')
    await bench.sees('6.2 × 6.2 mm', 'aside')
    await bench.turnTo('m', '/mirror')
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.page.$eval('[data-part="water-rudder"] .worked', (e) => (e as SVGElement).focus())
    await bench.sees('Water rudder', 'aside h2')
    await bench.turnTo('d', '/panel')
    await bench.sees('160 × 110')
    await stands('131', '36')
  })

  it('is seen in other tabs as it is drawn', async () => {
    const other = await bench.browser.newPage()
    await other.goto(`${session.app.address}/panel`)
    const there = () =>
      other
        .$eval('[role="application"] [data-part="bow-left"]', (e) => e.getAttribute('transform'))
        .catch(() => null)
    await until('the other tab has the panel', async () => (await there())?.includes('translate(64 23.5)'))
    await bench.page.bringToFront()
    await clickAt(64, 23.5)
    await bench.sees('Bow left', 'aside')
    await press('ArrowUp')
    await until('the other tab has it at its new place', async () =>
      (await there())?.includes('translate(64 22.5)'),
    )
    await press('z', 'Control')
    await until('and back', async () => (await there())?.includes('translate(64 23.5)'))
    await other.close()
    await bench.page.bringToFront()
  })
})

describe('what is taken away', () => {
  it('DXF of the panel that was drawn from nothing has its holes where they were put', async () => {
    const id = await bench.page.$$eval(
      'select[aria-label="Panel"] option',
      (options) => options.find((o) => o.textContent === 'Dimmers')?.value ?? '',
    )
    await bench.page.select('select[aria-label="Panel"]', id)
    await bench.sees('140 × 90')
    const dxf = new DxfParser().parseSync((await takeAway('dxf')).toString())
    const circles = (dxf?.entities ?? []).filter(
      (e): e is ICircleEntity => e.type === 'CIRCLE' && e.layer !== 'reference',
    )
    const holes = (layer: string) =>
      circles
        .filter((c) => c.layer === layer)
        .map((c) => [c.center.x, 90 - c.center.y, c.radius * 2].map((n) => Math.round(n * 100) / 100))
        .sort((p, q) => (p[0] as number) - (q[0] as number) || (p[1] as number) - (q[1] as number))
    // Four lamps of 5 mm in a row, every 12 mm, and a hole in each corner.
    expect(holes('cut')).toEqual([25, 37, 49, 61].map((x) => [x, 20, 5.2]))
    expect(holes('drill')).toEqual([
      [6, 6, 4.2],
      [6, 84, 4.2],
      [134, 6, 4.2],
      [134, 84, 4.2],
    ])
  })

  it('SVG measures the same in a browser', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.sees('160 × 110')
    writeFileSync(join(files, 'wheels.svg'), await takeAway('svg'))
    const text = readFileSync(join(files, 'wheels.svg'), 'utf8')
    const measured = await bench.page.evaluate((source) => {
      const holder = document.createElement('div')
      holder.innerHTML = source.replace(/<\?xml.*?\?>/, '')
      document.body.append(holder)
      const path = holder.querySelector('#cut path') as SVGPathElement
      const box = path.getBBox()
      const size = [box.x, box.y, box.width, box.height]
      const corner = path.getPointAtLength(0)
      const width = holder.querySelector('svg')?.getAttribute('width')
      holder.remove()
      return { size, corner: [corner.x, corner.y], width }
    }, text)
    expect(measured.width).toBe('160mm')
    for (const [i, mm] of [0, 0, 160, 110].entries()) expect(measured.size[i]).toBeCloseTo(mm, 2)
    expect(measured.corner).toEqual([3, 0])
    expect(text).not.toContain('<text')
  })

  it('PDF is 1:1 on paper: its bar of 100 mm and its edges measure what they say', async () => {
    writeFileSync(join(files, 'wheels.pdf'), await takeAway('pdf'))
    execFileSync('pdftoppm', [
      '-r',
      '254',
      '-gray',
      '-singlefile',
      join(files, 'wheels.pdf'),
      join(files, 'page'),
    ])
    const { width, height, dark } = readPgm(readFileSync(join(files, 'page.pgm')))
    const rows = Array.from({ length: height }, (_, y) => {
      let [first, last, count] = [-1, -1, 0]
      for (let x = 0; x < width; x++)
        if (dark(x, y)) {
          if (first < 0) first = x
          last = x
          count++
        }
      return { length: last - first + 1, count }
    })
    // 254 dots an inch are ten a millimetre. The bar is the lowest line that is drawn through.
    const bar = rows.findLast((r) => r.count > 900 && r.count === r.length)
    expect(bar?.length).toBeGreaterThan(995)
    expect(bar?.length).toBeLessThan(1005)
    const plate = rows.find((r) => r.count > 1400)
    expect(plate?.length).toBeGreaterThan(1530)
    expect(Math.max(...rows.map((r) => r.length))).toBeGreaterThan(1595)
    expect(Math.max(...rows.map((r) => r.length))).toBeLessThan(1605)
  })

  it('comes in again as the same plate, on another panel', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'engines')
    await bench.sees('242 × 132')
    await drawer('Files')
    const input = (await bench.page.$(
      'input[aria-label="Plate from SVG or DXF"]',
    )) as ElementHandle<HTMLInputElement>
    writeFileSync(join(files, 'broken.svg'), '<svg><g></svg>')
    await input.uploadFile(join(files, 'broken.svg'))
    await bench.sees('The panel is as it was.')
    await input.uploadFile(join(files, 'wheels.svg'))
    await bench.sees('160 × 110 mm, a plain rectangle', '[role="dialog"]')
    await bench.sees('lies on a layer that is left out', '[role="dialog"]')
    await bench.clickWords('Take it for “')
    await bench.sees('160 × 110 × 3 mm')
    await press('z', 'Control')
    await bench.sees('242 × 132')
    expect(bench.errors).toEqual([])
  })

  it('a file without units is asked about', async () => {
    writeFileSync(join(files, 'bare.svg'), '<svg viewBox="0 0 4 3"><rect width="4" height="3"/></svg>')
    const input = (await bench.page.$(
      'input[aria-label="Plate from SVG or DXF"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(files, 'bare.svg'))
    await bench.sees('does not say what its numbers measure', '[role="dialog"]')
    expect(await takeIsOpen(bench)).toBe(false)
    await bench.page.select('select[aria-label="Unit of the file"]', '25.4')
    await bench.sees('101.6 × 76.2 mm, a plain', '[role="dialog"]')
    await until('it may be taken', () => takeIsOpen(bench))
    await bench.clickWords('Leave it')
    await bench.sees('242 × 132')
  })

  it('is looked at layer by layer, and what is wrong in it is found and cured', async () => {
    writeFileSync(
      join(files, 'layers.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">' +
        '<g id="plate"><rect width="120" height="80"/><rect x="110" y="30" width="20" height="20"/><rect x="30" y="30" width="20" height="20"/><circle cx="40" cy="40" r="4"/></g>' +
        '<g id="old" style="display:none"><circle cx="80" cy="40" r="5"/></g>' +
        '<g id="engrave"><path d="M10 10h50"/></g><g id="words"><text x="10" y="8" font-size="5">BRING ME</text></g>' +
        '<image width="5" height="5"/></svg>',
    )
    const input = (await bench.page.$(
      'input[aria-label="Plate from SVG or DXF"]',
    )) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(files, 'layers.svg'))
    const sheet = '[role="dialog"]'
    await bench.sees(
      '120 × 80 mm, a plain rectangle, 1 round hole, 2 other openings, lines to engrave',
      sheet,
    )
    for (const words of [
      'hidden in the file',
      '1 picture is no line',
      'runs across the edge',
      'lies within an opening',
    ])
      await bench.sees(words, sheet)
    await bench.click('fieldset[aria-label="Layer old"] button:nth-of-type(1)')
    await bench.sees('2 round holes, 2 other openings', sheet)
    await bench.click('fieldset[aria-label="Layer old"] button:nth-of-type(3)')
    await bench.sees('1 round hole, 2 other openings', sheet)
    await bench.clickWords('Take it for “')
    await bench.sees('120 × 80 × 3 mm')
    await drawer('Fit')
    await bench.sees('runs across the edge of the plate', '[aria-label="Fit"]')
    await bench.clickWords('Make it a notch of the edge')
    await bench.seesNo('runs across the edge of the plate')
    await bench.clickWords('Keep the outer one alone')
    await bench.seesNo('lies within an opening')
    await until('the text is a legend', async () =>
      bench.page.evaluate(() =>
        [...document.querySelectorAll('svg text')].some((t) => t.textContent === 'BRING ME'),
      ),
    )
    for (let i = 0; i < 3; i++) await press('z', 'Control')
    await bench.sees('242 × 132')
    await drawer('Files')
    expect(bench.errors).toEqual([])
  })
})

const takeIsOpen = (bench: Bench): Promise<boolean> =>
  bench.page.evaluate(() => {
    const take = [...document.querySelectorAll('button')].find((b) => b.innerText.startsWith('Take it for'))
    return take !== undefined && !take.disabled
  })

/** A grey picture as pdftoppm writes it (PGM, binary). */
const readPgm = (
  bytes: Buffer,
): { width: number; height: number; dark: (x: number, y: number) => boolean } => {
  const head = /^P5\s+(\d+)\s+(\d+)\s+\d+\s/.exec(bytes.subarray(0, 60).toString('latin1'))
  const [width, height] = [Number(head?.[1]), Number(head?.[2])]
  const from = head?.[0].length ?? 0
  return { width, height, dark: (x, y) => (bytes[from + y * width + x] ?? 255) < 200 }
}
