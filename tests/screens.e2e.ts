import { networkInterfaces } from 'node:os'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import WebSocket from 'ws'
import { type App, type CraftSide, pause, until } from './app'
import { Bench } from './browser'
import { beginSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide
/** A tablet somewhere in the house: another browser, that reaches Clavik by its address in the network. */
let tablet: Bench

const houseAddress = Object.values(networkInterfaces())
  .flatMap((i) => i ?? [])
  .find((i) => !i.internal && i.family === 'IPv4')?.address

beforeAll(async () => {
  ;({ app, craft, bench } = await beginSession('/screens', '--lan'))
})
afterAll(async () => {
  await tablet?.close()
  await endSession({ app, craft, bench })
})

/** Where a place of the screen, in its own dots, lies in the window. */
const placeOf = (x: number, y: number): Promise<{ x: number; y: number }> =>
  bench.page.evaluate(
    (dx, dy) => {
      const svg = document.querySelector<SVGSVGElement>('[aria-label="Screen drawing"] svg[data-screen]')
      const at = svg?.getScreenCTM()
      if (!at) throw new Error('no screen is drawn')
      // The drawing lies within another: its own dots go through both.
      const p = new DOMPoint(dx, dy).matrixTransform(at)
      return { x: p.x, y: p.y }
    },
    x,
    y,
  )

const drag = async (from: [number, number], to: [number, number]): Promise<void> => {
  const [a, b] = [await placeOf(...from), await placeOf(...to)]
  await bench.page.mouse.move(a.x, a.y)
  await bench.page.mouse.down()
  await bench.page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 4 })
  await bench.page.mouse.move(b.x, b.y, { steps: 4 })
  await bench.page.mouse.up()
}

const field = (label: string): Promise<string> =>
  bench.page.$eval(`input[aria-label="${label}"]`, (e) => (e as HTMLInputElement).value)

const put = async (word: string, at: [number, number]): Promise<void> => {
  await bench.clickWords(word, '[aria-label="Elements to put down"] button')
  const { x, y } = await placeOf(...at)
  await bench.page.mouse.click(x, y)
  await until(`a ${word} is picked`, async () =>
    (await field('Name of the element').catch(() => '')).startsWith(word),
  )
}

const bind = async (property: string, search: string, variable: string): Promise<void> => {
  await bench.page.select('select[aria-label="Let another property follow a value"]', property)
  await bench.page.waitForSelector('[role="combobox"]')
  await bench.page.keyboard.type(search)
  await bench.click(`[role="option"][data-name="${variable}"]`)
  await bench.page.waitForSelector(`[data-follows="${property}"]`)
}

/** The colour of a dot of what a page shows. */
const dot = async (page: Page, x: number, y: number): Promise<string> => {
  const png = await page.screenshot({ encoding: 'base64' })
  return page.evaluate(
    async (data, px, py) => {
      const image = new Image()
      image.src = `data:image/png;base64,${data}`
      await image.decode()
      const canvas = document.createElement('canvas')
      canvas.width = image.width
      canvas.height = image.height
      const pen = canvas.getContext('2d')
      pen?.drawImage(image, 0, 0)
      const [r = 0, g = 0, b = 0] = pen?.getImageData(px, py, 1, 1).data ?? []
      return `#${[r, g, b].map((c) => c.toString(16).padStart(2, '0')).join('')}`
    },
    png,
    x,
    y,
  )
}

describe('a screen is drawn from nothing', () => {
  it('begins with a size, and has a name', async () => {
    await bench.clickWords('New screen')
    await bench.page.waitForSelector('input[aria-label="Name of the screen"]')
    await bench.click('input[aria-label="Name of the screen"]')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('a')
    await bench.page.keyboard.up('Control')
    await bench.page.keyboard.type('Engine strip')
    await bench.page.keyboard.press('Enter')
    await bench.page.select('select[aria-label="Usual size"]', '2')
    await until('it is called so, and as large', async () => {
      const chosen = await bench.page.$eval('select[aria-label="Screen"]', (e) => {
        const select = e as HTMLSelectElement
        return select.selectedOptions[0]?.textContent ?? ''
      })
      return chosen === 'Engine strip'
    })
    expect(await bench.text('[aria-label="Outline"]')).toContain('Nothing lies on this page yet')
  })

  it('a value is put down with the mouse, bound, and lives', async () => {
    await put('Value', [200, 100])
    await bind('value', 'torque left', 'engine.left.torque')
    await until('it shows what the craft tells', async () => {
      const shows = Number((await bench.text('[data-follows="value"]')).match(/[\d.]+$/)?.[0] ?? Number.NaN)
      return Math.abs(shows - craft.value('engine.left.torque')) < 3
    })
  })

  it('it is dragged to the dot, made larger by its corner, and nudged with keys', async () => {
    const [x, y] = [Number(await field('x of it')), Number(await field('y of it'))]
    expect([x, y]).toEqual([130, 78])
    await drag([200, 100], [320, 180])
    await until('it has moved in whole dots, to the grid', async () => Number(await field('x of it')) === 252)
    expect(Number(await field('y of it'))).toBe(160)
    const [width, height] = [Number(await field('width of it')), Number(await field('height of it'))]
    await drag([252 + width, 160 + height], [452, 240])
    await until('it is larger', async () => Number(await field('width of it')) === 200)
    expect(Number(await field('height of it'))).toBe(80)
    await bench.focus('[aria-label="Drawing of Engine strip"]')
    await bench.page.keyboard.press('ArrowLeft')
    await bench.page.keyboard.press('ArrowLeft')
    await until('it has moved by two dots', async () => (await field('x of it')) === '250')
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('z')
    await bench.page.keyboard.up('Control')
    await until('one of them is taken back', async () => (await field('x of it')) === '251')
  })

  it('a bar beside it is typed to its place, bound with a shaping, and coloured', async () => {
    await put('Bar', [150, 400])
    for (const [label, to] of [
      ['x of it', '40'],
      ['y of it', '300'],
      ['width of it', '400'],
      ['height of it', '40'],
    ] as const) {
      await bench.click(`input[aria-label="${label}"]`)
      await bench.page.keyboard.down('Control')
      await bench.page.keyboard.press('a')
      await bench.page.keyboard.up('Control')
      await bench.page.keyboard.type(to)
      await bench.page.keyboard.press('Enter')
      await until(`${label} is ${to}`, async () => (await field(label)) === to)
    }
    await bind('value', 'flaps lever', 'flaps.lever')
    await until('it is an element', async () =>
      (await bench.text('[aria-label="Outline"]')).includes('flaps.lever'),
    )
  })

  it('two are changed at once where they have the same', async () => {
    await put('Value', [600, 400])
    await bench.click('[data-outline="Value 1"]')
    await bench.page.keyboard.down('Shift')
    await bench.click('[data-outline="Value 2"]')
    await bench.page.keyboard.up('Shift')
    await bench.sees('All of them')
    const sizes = () =>
      bench.page.$$eval('[aria-label="Screen drawing"] [data-element] text', (all) =>
        all.map((t) => t.getAttribute('font-size')),
      )
    expect((await sizes()).filter((n) => n === '34')).toHaveLength(2)
    const label = await bench.page.evaluateHandle(() =>
      [...document.querySelectorAll('[aria-label="All of them"] label')].find((l) =>
        l.textContent?.startsWith('size'),
      ),
    )
    await (label.asElement() as ElementHandle<Element> | null)?.click()
    await bench.page.keyboard.down('Control')
    await bench.page.keyboard.press('a')
    await bench.page.keyboard.up('Control')
    await bench.page.keyboard.type('50')
    await bench.page.keyboard.press('Enter')
    await until('both are larger', async () => (await sizes()).filter((n) => n === '50').length === 2)
    await bench.click('[data-outline="Value 2"]')
    await bench.focus('[aria-label="Drawing of Engine strip"]')
    await bench.page.keyboard.press('Delete')
    await until(
      'one of them is gone',
      async () => !(await bench.text('[aria-label="Outline"]')).includes('Value 2'),
    )
    await bench.click('[data-outline="Bar 1"]')
  })

  it('shows samples that are typed, and sweeps', async () => {
    await bench.clickWords('Samples', '[aria-label="Try it"] [role="radio"]')
    await bench.click('input[aria-label="Sample for value of Bar 1"]')
    await bench.page.keyboard.type('50')
    await bench.page.keyboard.press('Enter')
    const width = () =>
      bench.page.evaluate(() => {
        const bars = [
          ...document.querySelectorAll<SVGRectElement>('[aria-label="Screen drawing"] [data-element] rect'),
        ]
        return Number(bars.find((r) => r.getAttribute('fill') === '#7fd1a8')?.getAttribute('width'))
      })
    await until('half of the bar is filled', async () => (await width()) === 200)
    await bench.clickWords('Sweep', '[aria-label="Try it"] [role="radio"]')
    const seen = new Set<number>()
    await until('it sweeps', async () => {
      seen.add(await width())
      return seen.size > 8
    })
    await bench.clickWords('Live', '[aria-label="Try it"] [role="radio"]')
  })

  it('a mistake is said where it is, and nothing else stops', async () => {
    await bench.click('[data-follows="value"] button')
    await bench.clickWords('Shaping', '[role="radio"]')
    await bench.typeExpression('Expression for value', 'input * 10 + nonsense')
    await bench.sees('nonsense', '[role="dialog"]')
    for (const [width, height] of [
      [1024, 640],
      [1920, 1080],
      [1280, 800],
    ] as const) {
      await bench.page.setViewport({ width, height })
      await until('it lies within the window', async () => (await bench.beyondWindow()).length === 0, 4000)
    }
    await bench.page.keyboard.press('Escape')
    await bench.page.keyboard.press('Escape')
  })

  it('and nobody is shut out who works without a mouse, or sees little', async () => {
    expect(await bench.breaches()).toEqual([])
    expect(bench.errors).toEqual([])
  })
})

describe('a screen on a device of its own', () => {
  it('is let in once it is paired by the code on Bench, and shows that screen alone', async () => {
    if (houseAddress === undefined) throw new Error('this machine has no address in a network to try with')
    const house = `http://${houseAddress}:${app.port}`
    tablet = await Bench.open(`${house}/screen/Engine%20strip`)
    await tablet.sees('Show screens on this device')
    const say = async (code: string) => {
      await tablet.page.type('input[name=code]', code)
      await Promise.all([tablet.page.waitForNavigation(), tablet.page.click('button')])
    }
    await say('000000')
    await tablet.sees('no code is offered just now')

    await bench.turnTo('b', '/bench')
    await bench.clickWords('Devices')
    await bench.clickWords('Offer a code')
    await bench.page.waitForSelector('[data-code]')
    const code = await bench.page.$eval('[data-code]', (e) => (e as HTMLElement).dataset.code ?? '')
    expect(code).toMatch(/^\d{6}$/)
    await say(code === '111111' ? '222222' : '111111')
    await tablet.sees('that is another code')
    await say(`${code.slice(0, 3)} ${code.slice(3)}`)
    await tablet.sees('Engine strip')
    await Promise.all([tablet.page.waitForNavigation(), tablet.clickWords('Engine strip', 'a')])
    await tablet.page.waitForSelector('[data-element]')
    await bench.sees('shows Engine strip', '[aria-label="Paired devices"]')
    await bench.page.keyboard.press('Escape')
  })

  it('shows what the craft tells, by its dots', async () => {
    await tablet.page.setViewport({ width: 800, height: 480 })
    craft.set('flaps.lever', 2)
    await until('the bar is as long as the lever says', async () => {
      const lever = craft.value('flaps.lever')
      const end = Math.round(40 + (400 * lever) / 100)
      return (
        (await dot(tablet.page, end - 3, 320)) === '#7fd1a8' &&
        (await dot(tablet.page, end + 6, 320)) === '#2a3337'
      )
    })
  })

  it('and nothing else is given to it: neither the rig nor the interface nor a line of another kind', async () => {
    const house = `http://${houseAddress}:${app.port}`
    const asked = await tablet.page.evaluate(async () => {
      const ask = async (path: string, method = 'GET') =>
        (await fetch(path, { method, redirect: 'manual' }).catch(() => ({ status: 0 }))).status
      return {
        edits: await ask('/api/edits', 'POST'),
        health: await ask('/api/health'),
        devices: await ask('/api/devices'),
        rigs: await ask('/api/rigs'),
        files: await ask('/screen-files/device.js'),
      }
    })
    expect(asked).toEqual({ edits: 403, health: 403, devices: 403, rigs: 403, files: 200 })
    const mark = (await tablet.browser.cookies()).map((c) => `${c.name}=${c.value}`).join('; ')
    const line = (path: string, headers: Record<string, string>) =>
      new Promise<string>((resolve) => {
        const socket = new WebSocket(`ws://${houseAddress}:${app.port}${path}`, { headers })
        socket.on('open', () => {
          resolve('open')
          socket.close()
        })
        socket.on('error', () => resolve('refused'))
      })
    expect(await line('/screen?name=Engine%20strip', { cookie: mark, origin: house })).toBe('open')
    expect(await line('/live', { cookie: mark, origin: house })).toBe('refused')
    expect(await line('/screen?name=Engine%20strip', { origin: house })).toBe('refused')
    expect(await line('/screen?name=Engine%20strip', { cookie: mark, origin: 'http://evil.example' })).toBe(
      'refused',
    )
    expect(await line('/screen?name=Engine%20strip', { cookie: mark, host: 'evil.example' })).toBe('refused')
    expect(mark).toMatch(/clavik_device=/)
    expect(await tablet.page.evaluate(() => document.cookie)).toBe('')
  })

  it('follows what is edited, while it is edited', async () => {
    await bench.turnTo('e', '/screens')
    await bench.page.select(
      'select[aria-label="Screen"]',
      await bench.page.$$eval(
        'select[aria-label="Screen"] option',
        (all) => (all as HTMLOptionElement[]).find((o) => o.textContent === 'Engine strip')?.value ?? '',
      ),
    )
    await put('Words', [600, 60])
    await until('its words are on the tablet', async () =>
      (await tablet.page.evaluate(() => document.querySelector('svg')?.textContent ?? '')).includes('WORDS'),
    )
  })

  it('a button on it is a control like any other, and works where the builder lets it be touched', async () => {
    await put('Touch', [650, 250])
    await bench.clickWords('Bind it')
    await bench.page.waitForSelector('[role="combobox"]')
    await bench.page.keyboard.type('crossfeed')
    await bench.click('[role="option"][data-name="fuel.crossfeed.switch"]')
    await until('its path lies at the bottom', async () =>
      (await bench.text('#strip')).includes('fuel.crossfeed.switch'),
    )
    const [before] = [craft.value('fuel.crossfeed.switch')]
    const push = async () => {
      const at = await tablet.middleOf('[data-touch="button"]')
      await tablet.page.mouse.click(at.x, at.y, { delay: 60 })
    }
    await push()
    await tablet.sees('This device may not touch anything')
    expect(craft.value('fuel.crossfeed.switch')).toBe(before)
    await bench.turnTo('b', '/bench')
    await bench.clickWords('Devices')
    await bench.page.waitForSelector('[aria-label="Paired devices"] input[type="checkbox"]')
    await bench.click('[aria-label="Paired devices"] input[type="checkbox"]')
    await bench.page.keyboard.press('Escape')
    await bench.page.waitForFunction(() => !document.querySelector('[role="dialog"]'))
    await until('a finger on it reaches the craft', async () => {
      if (craft.value('fuel.crossfeed.switch') !== before) return true
      await push()
      await pause(400)
      return craft.value('fuel.crossfeed.switch') !== before
    })
  })

  it('says plainly when the hub is away, greys what it shows, and comes back by itself', async () => {
    app.signal('supervisor', 'SIGSTOP')
    try {
      app.signal('hub', 'SIGKILL')
      await tablet.sees('Clavik is away')
      expect(Number(await tablet.page.$eval('svg', (e) => e.getAttribute('opacity')))).toBeLessThan(0.6)
    } finally {
      app.signal('supervisor', 'SIGCONT')
    }
    await until('it is back', async () => {
      const sign = await tablet.page.$eval('#sign', (e) => (e as HTMLElement).hidden)
      const strength = await tablet.page.$eval('svg', (e) => e.getAttribute('opacity'))
      return sign && strength === '1'
    })
    await until('with live values', async () =>
      (await tablet.page.evaluate(() => document.querySelector('svg')?.textContent ?? '')).includes('WORDS'),
    )
    expect(tablet.errors).toEqual([])
  })

  it('shows what a recording says, while one is played', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${app.port}/live`, { origin: app.address })
    const heard: string[] = []
    socket.on('message', (m) => heard.push(String(m)))
    await new Promise((resolve) => socket.on('open', resolve))
    const recordings = (await (await fetch(`${app.address}/api/recordings`)).json()) as {
      recordings: { id: string; name: string }[]
    }
    const { id } = recordings.recordings.find((r) => /mail run/i.test(r.name)) ?? { id: '' }
    socket.send(JSON.stringify({ say: 'replay open', id }))
    socket.send(JSON.stringify({ say: 'replay change', playing: false, at: 60_000 }))
    const torque = () =>
      tablet.page.evaluate(() => document.querySelector('[data-element] text')?.textContent ?? '')
    await until('the replay is open', () => heard.some((m) => m.includes('"say":"replay"') && m.includes(id)))
    await pause(500)
    const paused = await torque()
    await pause(700)
    expect(await torque()).toBe(paused)
    expect(paused).toMatch(/^\d+$/)
    socket.send(JSON.stringify({ say: 'replay close' }))
    await until('the craft speaks again', async () => {
      const now = Number(await torque())
      return Math.abs(now - craft.value('engine.left.torque')) < 3
    })
    socket.close()
  })

  it('is taken back by the builder, and shut out at once', async () => {
    await bench.turnTo('b', '/bench')
    await bench.clickWords('Devices')
    await bench.clickWords('Take back')
    await bench.sees('No device is paired')
    await tablet.sees('Clavik is away')
    await tablet.page.reload({ waitUntil: 'load' })
    await tablet.sees('Show screens on this device')
    await bench.page.keyboard.press('Escape')
  })
})

describe('in a browser of five years ago', () => {
  it('the screen is drawn all the same, without what browsers have learnt since, and the device is kept awake', async () => {
    const page = await bench.browser.newPage()
    const errors: string[] = []
    page.on('pageerror', (e) => errors.push(String(e)))
    await page.evaluateOnNewDocument(() => {
      const forget = (of: object | undefined, ...names: string[]) => {
        for (const name of names) if (of) delete (of as Record<string, unknown>)[name]
      }
      forget(
        Array.prototype,
        'at',
        'findLast',
        'findLastIndex',
        'toSorted',
        'toSpliced',
        'toReversed',
        'with',
      )
      forget(String.prototype, 'at', 'isWellFormed', 'toWellFormed')
      forget(Object, 'hasOwn', 'groupBy')
      forget(Map, 'groupBy')
      forget(Promise, 'withResolvers', 'try')
      forget(window, 'structuredClone', 'documentPictureInPicture', 'Iterator')
      forget(
        Set.prototype,
        'union',
        'intersection',
        'difference',
        'isSubsetOf',
        'isSupersetOf',
        'symmetricDifference',
      )
      const iterators = Object.getPrototypeOf(Object.getPrototypeOf([][Symbol.iterator]()))
      forget(
        iterators,
        'map',
        'filter',
        'take',
        'drop',
        'flatMap',
        'reduce',
        'toArray',
        'forEach',
        'some',
        'every',
        'find',
      )
      const { wakeLock } = navigator as unknown as { wakeLock: { request: unknown } }
      const asked: string[] = []
      Object.assign(window, { asked })
      wakeLock.request = (kind: string) => {
        asked.push(kind)
        return Promise.resolve({ addEventListener: () => {} })
      }
    })
    const began = Date.now()
    await page.goto(`${app.address}/screen/Fuel%20page`)
    await page.waitForSelector('[data-element] text')
    // It is there quickly, also where two others are busy beside it.
    expect(Date.now() - began).toBeLessThan(6000)
    await until('it shows the fuel there is', async () => {
      const text = await page.evaluate(() => document.querySelector('svg')?.textContent ?? '')
      return text.includes(`${Math.round(craft.value('fuel.total.quantity'))} kg`)
    })
    expect(await page.evaluate(() => (window as unknown as { asked: string[] }).asked)).toEqual(['screen'])
    expect(await page.evaluate(() => document.documentElement.scrollHeight <= innerHeight)).toBe(true)
    expect(errors).toEqual([])
    await page.close()
  })

  it('a screen that is not there is said, with those that are', async () => {
    const page = await bench.browser.newPage()
    await page.goto(`${app.address}/screen/Nowhere`)
    await until('it is said', async () =>
      (await page.evaluate(() => document.body.innerText)).includes(
        'There is no screen “Nowhere”. There are: Fuel page, Engine strip.',
      ),
    )
    await page.close()
  })
})

describe('a screen floats over other programs', () => {
  it('in a window that stays on top, sized as it was left', async () => {
    await bench.turnTo('e', '/screens')
    const canFloat = await bench.page.evaluate(() => 'documentPictureInPicture' in window)
    const [opened] = await Promise.all([
      new Promise<Page | null>((resolve) => bench.page.once('popup', resolve)).catch(() => null),
      bench.clickWords('Float'),
    ])
    expect(canFloat).toBe(true)
    expect(opened).not.toBeNull()
    await opened?.waitForSelector('[data-element]')
    expect(await opened?.evaluate(() => document.title)).toBeTruthy()
  })
})
