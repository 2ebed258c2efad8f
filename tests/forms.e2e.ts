import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { borrowOnMirror, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowOnMirror())
})

afterAll(() => endSession({ app, craft, bench }))

const choosePart = async (panel: string, part: string): Promise<void> => {
  await bench.page.select('select[aria-label="Panel"]', panel)
  await bench.click(`[data-part="${part}"] .worked`)
  await bench.page.waitForSelector('[data-station="shaping"]')
}
const openStation = async (station: string, nth = 0): Promise<void> => {
  await bench.page.waitForSelector(`[data-station="${station}"]`)
  await (await bench.page.$$(`[data-station="${station}"]`))[nth]?.click()
  await bench.page.waitForSelector('[role="dialog"]')
}
const away = async (): Promise<void> => {
  await bench.page.keyboard.press('Escape')
  await bench.page.waitForSelector('[role="dialog"]', { hidden: true })
}
const undo = async (): Promise<void> => {
  await bench.page.keyboard.down('Control')
  await bench.page.keyboard.press('z')
  await bench.page.keyboard.up('Control')
}
const shows = (part: string): Promise<string> =>
  bench.page.$eval(`[data-part="${part}"] [data-shows]`, (e) => (e as SVGElement).dataset.shows ?? '')
const expression = (label: string): Promise<string> => bench.text(`[data-expression="${label}"] .cm-content`)
/** Types a number into the field behind a word, in the form that is open. */
const put = async (label: string, value: string): Promise<void> => {
  const field = await bench.page.waitForSelector(
    `xpath/.//*[@role="dialog"]//label[span[normalize-space()="${label}"]]/input`,
  )
  await field?.click({ count: 3 })
  await bench.page.keyboard.type(value)
  await bench.page.keyboard.press('Enter')
}

describe('shaping', () => {
  it('is set by simple steps, which are the expression underneath', async () => {
    await choosePart('flight-director', 'altitude-window')
    craft.set('ap.altitude.target', 2340)
    await until('the window shows hundreds', async () => (await shows('altitude-window')).trim() === '2300')
    await openStation('shaping')
    await put('multiples of', '500')
    await until(
      'the window shows five hundreds',
      async () => (await shows('altitude-window')).trim() === '2500',
    )
    expect(await expression('Shaping')).toBe('round(to(input, "ft"), 500)')
    await bench.page.select('select[aria-label="Add a step"]', 'offset')
    await bench.page.waitForSelector('[data-step="offset"]')
    await bench.click('input[aria-label="add"]')
    await bench.page.click('input[aria-label="add"]', { count: 3 })
    await bench.page.keyboard.type('25')
    await bench.page.keyboard.press('Enter')
    await until('the window shows the sum', async () => (await shows('altitude-window')).trim() === '2525')
    expect(await expression('Shaping')).toBe('round(to(input, "ft"), 500) + 25')
    expect(await bench.breaches()).toEqual([])
  })

  it('can be written instead: names are completed, the result is shown, and the steps follow', async () => {
    await bench.typeExpression('Shaping', 'round(inp')
    await bench.page.waitForSelector('.cm-tooltip-autocomplete')
    // The list takes no key in its first moment, so that none is taken by accident.
    await pause(200)
    await bench.page.keyboard.press('Enter')
    await bench.page.keyboard.type(' * 2, 100)')
    await until(
      'the result is shown',
      async () =>
        (await bench.text('[data-result]')).startsWith('4,700') ||
        (await bench.text('[data-result]')).startsWith('4700'),
    )
    await bench.page.keyboard.press('Enter')
    await until('the window shows it', async () => (await shows('altitude-window')).trim() === '4700')
    await openStation('shaping')
    await bench.page.waitForSelector('[data-step="scale"]')
    await away()
  })

  it('with a unit that does not fit says so where it is typed, and nothing changes', async () => {
    await openStation('shaping')
    await bench.typeExpression('Shaping', 'to(input, "kg") ')
    await bench.sees('do not measure the same')
    await bench.page.keyboard.press('Enter')
    await away()
    expect((await shows('altitude-window')).trim()).toBe('4700')
    for (let i = 0; i < 4; i++) await undo()
    await until('all is as it was', async () => (await shows('altitude-window')).trim() === '2300')
  })
})

describe('a function with a memory', () => {
  it('is found by its name, says how it is called, and remembers what the craft has said since', async () => {
    await openStation('shaping')
    await bench.typeExpression('Shaping', 'highe')
    await bench.page.waitForSelector('.cm-tooltip-autocomplete')
    await bench.sees('the highest so far', '.cm-tooltip-autocomplete')
    await bench.typeExpression('Shaping', 'round(highest(to(input, "ft"))) ')
    await bench.page.keyboard.press('Enter')
    await bench.sees('highest', '[data-station="shaping"]', 4000)
    await away()
    const before = craft.value('ap.altitude.target')
    craft.set('ap.altitude.target', 5200)
    await until('the window follows up', async () => (await shows('altitude-window')).trim() === '5200')
    craft.set('ap.altitude.target', before)
    await until('the craft has come down', () => craft.value('ap.altitude.target') === before)
    await pause(300)
    expect((await shows('altitude-window')).trim()).toBe('5200')
    await undo()
    await until('it forgets with the undo', async () => (await shows('altitude-window')).trim() === '2300')
  })
})

describe('layers', () => {
  it('are made, named and timed on their sheet', async () => {
    await bench.page.keyboard.press('l')
    await bench.clickWords('New layer set')
    const section = 'section[aria-label="Layer set Layers 1"]'
    const name = await bench.page.waitForSelector(`${section} input[aria-label="Name of the layer set"]`)
    await name?.click({ count: 3 })
    await bench.page.keyboard.type('Knob job')
    await bench.page.keyboard.press('Enter')
    await bench.page.waitForSelector('section[aria-label="Layer set Knob job"]')
    expect(await bench.breaches()).toEqual([])
    await away()
    await bench.sees('Knob job', 'section[aria-label="Active layers"]')
  })

  it('give a binding its turn', async () => {
    await choosePart('flight-director', 'vertical-knob')
    await openStation('onlyWhile')
    const option = await bench.page.$eval(
      '[role="dialog"] select',
      (e) => [...(e as HTMLSelectElement).options].find((o) => o.text === 'Knob job · Two')?.value,
    )
    await bench.page.select('[role="dialog"] select', option ?? '')
    await pause(150)
    await away()
    await bench.page.waitForSelector('[data-idle="vertical-knob-1"]')
    await bench.sees('layer is One, this is for Two')
    await undo()
    await bench.page.waitForSelector('[data-path="vertical-knob-1"]')
  })
})

describe('what a control does', () => {
  it('may be several things in order, with pauses', async () => {
    await choosePart('flight-director', 'caution')
    await openStation('simulator')
    await bench.page.select('select[aria-label="Then it also"]', 'pause')
    await bench.page.waitForSelector('[data-action="pause"]')
    await put('waits', '600')
    await bench.page.select('select[aria-label="Then it also"]', 'another')
    await bench.page.waitForSelector('li[data-action="event"]:nth-child(3)')
    await bench.click('input[role="combobox"]')
    await bench.page.keyboard.type('anchor toggle')
    await bench.sees('lights.anchor.toggle', '[role="option"]')
    await bench.page.keyboard.press('Enter')
    await until('the path says so', async () => (await bench.station('simulator')).includes('then 1 more'))
    // Until the hub has it, the binding has a gap and does nothing.
    await until(
      'nothing is missing any more',
      async () => (await bench.page.$('[data-stop*="No variable or event"]')) === null,
    )
    const before = craft.value('lights.anchor.switch')
    const { x, y } = await bench.middleOf('[data-part="caution"] .worked')
    await bench.page.mouse.click(x, y, { delay: 80 })
    await pause(300)
    expect(craft.value('lights.anchor.switch')).toBe(before)
    await until('it comes after the pause', () => craft.value('lights.anchor.switch') !== before)
  })

  it('is copied to another part with its names changed, in one step', async () => {
    await choosePart('wheels-floats', 'bilge-lamp-left')
    await openStation('shaping')
    await bench.clickWords('Copy to another part')
    await bench.page.select('select[aria-label="Copy to"]', 'bilge-lamp-right')
    await bench.click('input[aria-label="In names, replace"]')
    await bench.page.keyboard.type('left')
    await bench.click('input[aria-label="By"]')
    await bench.page.keyboard.type('right')
    await bench.sees('It acts on floats.bilge.right.current.')
    await bench.clickWords('Copy', '[role="dialog"] button:not([aria-expanded])')
    await bench.click('[data-part="bilge-lamp-right"] .worked')
    await until('it has two paths', async () => (await bench.page.$$('[data-path]')).length === 2)
    await bench.sees('overridden by the binding above')
    await undo()
    await until('it has one again', async () => (await bench.page.$$('[data-path]')).length === 1)
  })
})

describe('a needle', () => {
  it('gets other limits, and keeps to them', async () => {
    await choosePart('engines', 'torque-left')
    await openStation('part')
    await put('never above', '-100')
    const deg = () =>
      bench.page.$eval('[data-part="torque-left"] [data-deg]', (e) => Number((e as SVGElement).dataset.deg))
    await until('it stays below', async () => (await deg()) <= -99.5)
    expect(await bench.breaches()).toEqual([])
    await away()
    await undo()
  })

  it('can be swept and shown a typed value', async () => {
    await bench.click('[data-part="fuel"] .worked')
    const field = await bench.page.waitForSelector('input[aria-label="Exercise with this value"]')
    await field?.click()
    await bench.page.keyboard.type('250')
    await bench.page.keyboard.press('Enter')
    const deg = () =>
      bench.page.$eval('[data-part="fuel"] [data-needle="short"]', (e) =>
        Number((e as SVGElement).dataset.deg),
      )
    // 250 kg in the inner tank and what is in the outer one, on a dial of 480 degrees a thousand.
    const there = () => (250 + craft.value('fuel.right.outer.quantity')) * 0.48 - 120
    await until('the needle goes there', async () => Math.abs((await deg()) - there()) < 3)
    expect(bench.errors).toEqual([])
  })
})

describe('what opens over the page', () => {
  const stations = ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'] as const
  const seen = new Set<string>()
  /** Opens every station of a part, writes where something can be written, and types what is refused where a number is asked for. */
  const openAll = async (panel: string, part: string): Promise<string[]> => {
    await choosePart(panel, part)
    const out: string[] = []
    for (const station of stations) {
      const button = await bench.page.$(`[data-station="${station}"]`)
      if (!button || !(await button.evaluate((e) => e.matches('button:not(:disabled)')))) continue
      await openStation(station)
      seen.add(station)
      out.push(...(await bench.beyondWindow()))
      const field = await bench.page.$('[role="dialog"] .cm-content')
      if (field) {
        await field.click()
        await bench.page.keyboard.type('(a')
        await bench.page.waitForSelector('.cm-tooltip-autocomplete')
        seen.add('names')
        // Their list is measured before it is put in its place.
        await until('the names lie within the window', async () => !(await bench.beyondWindow()).length, 4000)
        await bench.page.keyboard.press('Escape')
        for (let i = 0; i < 2; i++) await bench.page.keyboard.press('Backspace')
      }
      // Refused fields keep what was typed until Escape takes it back; the form stays.
      const numbers = '[role="dialog"] label input[inputmode="decimal"]'
      for (let k = 0; k < (await bench.page.$$(numbers)).length; k++) {
        const field = (await bench.page.$$(numbers))[k]
        await field?.evaluate((e) => e.scrollIntoView({ block: 'center' }))
        await field?.click({ count: 3 })
        await bench.page.keyboard.type('much')
        await bench.page.keyboard.press('Enter')
        await bench.page.waitForSelector('[role="alert"]')
        seen.add('refused')
        out.push(...(await bench.beyondWindow()))
        await bench.page.keyboard.press('Escape')
        await bench.page.waitForSelector('[role="alert"]', { hidden: true })
      }
      await bench.leaveForm()
    }
    return out
  }

  it.each([
    [1280, 800],
    [1024, 640],
    [1920, 1080],
  ])(
    'stays within a window of %i by %i, with the names it offers and why it refuses',
    async (width, height) => {
      await bench.page.setViewport({ width, height })
      try {
        expect(await openAll('flight-director', 'altitude-window')).toEqual([])
        expect(await openAll('engines', 'torque-left')).toEqual([])
        expect(await openAll('flight-director', 'vertical-knob')).toEqual([])
      } finally {
        await bench.page.setViewport({ width: 1280, height: 800 })
      }
      expect([...seen].sort()).toEqual(
        expect.arrayContaining(['names', 'part', 'refused', 'shaping', 'simulator']),
      )
    },
  )
})
