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

const row = (part: string) => `tr[data-row="${part}"]`
const agrees = (part: string): Promise<string | null> =>
  bench.page.$eval(row(part), (e) => e.getAttribute('data-agrees'))
const press = async (key: string, ...held: ('Control' | 'Shift')[]): Promise<void> => {
  for (const k of held) await bench.page.keyboard.down(k)
  await bench.page.keyboard.press(key as 'Enter')
  for (const k of held) await bench.page.keyboard.up(k)
}
const focused = (): Promise<string> =>
  bench.page.evaluate(() => {
    const region = document.activeElement?.closest('[aria-label="Signal path"], aside, main, header, nav')
    return region?.getAttribute('aria-label') ?? region?.tagName.toLowerCase() ?? ''
  })

describe('a computer that stands still for a while', () => {
  it('finds its boards at rest, and ends with every lamp as the craft says, each confirmed', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    craft.set('gear.lever', 2)
    await until('the wheels are down', () => craft.value('gear.main.left.position') === 1, 40_000)
    await until('the lamp agrees', async () => (await agrees('main-left')) === 'true')
    for (let i = 0; i < 3; i++) {
      app.signal('hub', 'SIGSTOP')
      await pause(2600)
      app.signal('hub', 'SIGCONT')
      await pause(300)
    }
    for (const lamp of ['bow-left', 'bow-right', 'main-left', 'main-right']) {
      await until(`${lamp} is lit`, async () => (await bench.lamp(lamp)).shows === 'lit')
      await until(`${lamp} agrees`, async () => (await agrees(lamp)) === 'true')
    }
  })

  it('says what it waits for while the boards cannot be heard', async () => {
    app.signal('standins', 'SIGSTOP')
    await bench.sees('No simulator', 'header')
    app.signal('standins', 'SIGCONT')
    await until('all is up again', async () => (await app.health()).body.ok === true)
    await until('the lamp agrees', async () => (await agrees('main-left')) === 'true')
  })
})

describe('the path strip', () => {
  it('takes a line when nothing is selected, and shows every path of a part in a line each', async () => {
    const height = () => bench.page.$eval('#strip', (e) => e.getBoundingClientRect().height)
    await bench.page.evaluate(() => sessionStorage.clear())
    await bench.page.reload()
    await bench.sees('Select a part, or touch one on the panel')
    expect(await height()).toBeLessThan(40)
    await bench.page.waitForSelector('select[aria-label="Panel"]')
    await bench.page.select('select[aria-label="Panel"]', 'radio-stack')
    await bench.click('[data-part="radio-knob"] .worked')
    await bench.sees('19 PATHS', '#strip')
    const order = await bench.page.$$eval('#strip [data-aspect-path]', (rows) =>
      rows.map((r) => r.getAttribute('data-aspect-path')),
    )
    expect(order).toEqual(
      [...order].sort(
        (a, b) => ['outer', 'inner', 'push'].indexOf(a ?? '') - ['outer', 'inner', 'push'].indexOf(b ?? ''),
      ),
    )
    await bench.sees('MORE BELOW', '#strip')
    const before = await height()
    await bench.focus('[role="separator"]')
    for (let i = 0; i < 4; i++) await press('ArrowUp')
    await until('it is taller', async () => (await height()) > before + 80)
  })

  it('is left as it is by Enter on what is bound, which the list opens at', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'wheels-floats')
    await bench.click('[data-part="main-left"] .worked')
    await bench.page.waitForSelector('#strip [data-station="simulator"]')
    // The strip has grown by then.
    await pause(400)
    const bound = () => bench.text('#strip [data-station="simulator"]')
    const was = await bound()
    await bench.click('#strip [data-station="simulator"]')
    await bench.page.waitForSelector('input[role="combobox"]')
    await bench.page.waitForSelector('[role="option"][aria-selected="true"] .cap')
    await press('Enter')
    await bench.page.waitForSelector('input[role="combobox"]', { hidden: true })
    expect(await bound()).toBe(was)
    await bench.seesNo('Undo: Bound')
  })
})

describe('with the keyboard', () => {
  it('F6 leads from the panel to the inspector and the strip in a few steps, and back', async () => {
    await bench.click('[data-part="main-left"] .worked')
    const seen: string[] = []
    for (let i = 0; i < 5; i++) {
      await press('F6')
      seen.push(await focused())
    }
    expect(seen).toContain('Inspector')
    expect(seen).toContain('Signal path')
    await press('F6', 'Shift')
    expect(seen).toContain(await focused())
  })

  it('finds panels and boards by name, and begins a new panel', async () => {
    await press('k', 'Control')
    await bench.page.keyboard.type('engines')
    await bench.sees('242 × 132 mm', '[cmdk-list]')
    await press('Escape')
    await press('k', 'Control')
    await bench.page.keyboard.type('new panel')
    await bench.sees('New panel', '[cmdk-list]')
    await press('Escape')
  })
})

describe('where one was', () => {
  it('survives a reload', async () => {
    await bench.page.select('select[aria-label="Panel"]', 'engines')
    await bench.click('[data-part] .worked')
    const name = await bench.text('aside h2')
    await pause(500)
    await bench.page.reload()
    await bench.sees(name, 'aside h2')
    expect(await bench.page.$eval('select[aria-label="Panel"]', (e) => (e as HTMLSelectElement).value)).toBe(
      'engines',
    )
  })
})

describe('a board that is added', () => {
  it('is simulated with one click, loaded by itself, and can be tried', async () => {
    await bench.turnTo('h', '/harness')
    await bench.clickWords('Boards', '[role="tab"]')
    await bench.page.select('select[aria-label="Add a board"]', 'atmega328p')
    await bench.sees('ATmega328P board', '[aria-label="The board"]')
    // The list above the form grows by it, once the hub has it.
    await until('it is in the list', async () => (await bench.page.$$('[data-board-load]')).length === 5)
    await bench.clickWords('Simulate it')
    await until('it is up', async () => {
      const boards = (await app.health()).body.boards as { name: string; state: string }[]
      return boards.length === 5 && boards.every((b) => b.state === 'up')
    })
    await bench.sees('simulated', '[aria-label="The board"]')
    // A process that starts anew brings it back, even one killed a moment after it was asked.
    const was = app.pid('standins')
    app.signal('standins', 'SIGKILL')
    await until('it is back', async () => {
      if (app.pid('standins') === was) return false
      const boards = (await app.health()).body.boards as { name: string; state: string }[]
      return boards.length === 5 && boards.every((b) => b.state === 'up')
    })
  })
})

describe('something that cannot be taken', () => {
  it('stays as it was typed, and says why and what would do', async () => {
    await bench.turnTo('m', '/mirror')
    await bench.page.waitForSelector('select[aria-label="Panel"]')
    await bench.page.select('select[aria-label="Panel"]', 'flight-director')
    await bench.click('[data-part="heading-knob"] .worked')
    await bench.page.waitForSelector('#strip [data-station="simulator"]')
    // The strip has grown by then.
    await pause(400)
    await bench.click('#strip [data-station="simulator"]')
    const field = await bench.page.waitForSelector(
      'xpath/.//*[@role="dialog"]//label[span[normalize-space()="to"]]/input',
    )
    await field?.click({ count: 3 })
    await bench.page.keyboard.type('99999')
    await press('Enter')
    await bench.sees('99999 is outside', '[role="dialog"] [role="alert"]')
    expect(await field?.evaluate((e) => (e as HTMLInputElement).value)).toBe('99999')
  })
})
