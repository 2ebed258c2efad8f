import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type App, type CraftSide, pause, until } from './app'
import type { Bench } from './browser'
import { borrowSession, endSession } from './session'

let app: App
let bench: Bench
let craft: CraftSide

beforeAll(async () => {
  ;({ app, craft, bench } = await borrowSession('/mirror'))
  await bench.sees('Craft says')
  await bench.click('[data-part="horn-off"] .worked')
  await bench.sees('Horn off', 'aside h2')
})

afterAll(() => endSession({ app, craft, bench }))

/** Presses the button with the mouse for a while. */
const press = async (ms: number): Promise<void> => {
  const { x, y } = await bench.middleOf('[data-part="horn-off"] .worked')
  await bench.page.mouse.move(x, y)
  await bench.page.mouse.down()
  await pause(ms)
  await bench.page.mouse.up()
}

const choose = async (search: string, name: string): Promise<void> => {
  await bench.page.keyboard.press('v')
  await bench.page.waitForSelector('input[role="combobox"]')
  await bench.page.keyboard.type(search)
  await bench.sees(name, '[role="option"]')
  await bench.page.keyboard.press('Enter')
  await until('it is on the path', async () =>
    (await bench.text('section[aria-label="Signal path"]')).includes(name),
  )
}

/** Chooses when a binding acts, and waits until the hub says so too: what is pressed before acts as it did. */
const happensOn = async (when: string, said: string): Promise<void> => {
  await bench.click('[data-station="shaping"]')
  await bench.page.waitForSelector('[aria-label="Edit shaping"] select')
  await bench.page.select('[aria-label="Edit shaping"] select', when)
  await pause(150)
  await bench.page.keyboard.press('Escape')
  await until(`the path says ${said}`, async () => (await bench.station('shaping')).includes(said))
}

describe('a button', () => {
  it('turns a switch over when it is given one, without anything more to set', async () => {
    await choose('collision switch', 'lights.beacon.switch')
    const before = craft.value('lights.beacon.switch')
    await press(80)
    await until('the switch is turned over', () => craft.value('lights.beacon.switch') !== before)
    await bench.sees('✓ seen to work', 'aside')
  })

  it('acts on a long press only, once told so', async () => {
    await happensOn('long', 'on a long press')
    const before = craft.value('lights.beacon.switch')
    await press(100)
    await pause(500)
    expect(craft.value('lights.beacon.switch')).toBe(before)
    await press(900)
    await until('the switch is turned over', () => craft.value('lights.beacon.switch') !== before)
  })

  it('does another thing on a short press, by a binding of its own', async () => {
    await bench.clickWords('Add a binding')
    await until('there are two paths', async () => (await bench.page.$$('[data-path]')).length === 2)
    await choose('anchor switch', 'lights.anchor.switch')
    // Paths stand in the order of their gestures, so the new one is found by what it acts on.
    await bench.page.evaluate(() => {
      const rows = [...document.querySelectorAll('[data-path]')]
      const row = rows.find((r) => r.textContent?.includes('lights.anchor.switch'))
      ;(row?.querySelector('[data-station="shaping"]') as HTMLElement | null)?.click()
    })
    await bench.page.waitForSelector('[aria-label="Edit shaping"] select')
    await bench.page.select('[aria-label="Edit shaping"] select', 'short')
    await pause(150)
    await bench.page.keyboard.press('Escape')
    const lights = () => [craft.value('lights.anchor.switch'), craft.value('lights.beacon.switch')] as const
    /** Each press does one thing and not the other, also where a slow machine lets go so late that it is a long one. */
    const pressed = async (ms: number): Promise<'anchor' | 'beacon'> => {
      const [anchor, beacon] = lights()
      await press(ms)
      await until('one of both is switched', () => lights()[0] !== anchor || lights()[1] !== beacon)
      await pause(300)
      const changed = [lights()[0] !== anchor, lights()[1] !== beacon]
      expect(changed.filter(Boolean)).toHaveLength(1)
      return changed[0] ? 'anchor' : 'beacon'
    }
    let tries = 5
    while ((await pressed(100)) !== 'anchor' && tries > 0) tries--
    expect(tries).toBeGreaterThan(0)
    expect(await pressed(900)).toBe('beacon')
    // One path less again: removed, and back by undo, and away by redo.
    const undo = async (shift: boolean) => {
      await bench.page.keyboard.down('Control')
      if (shift) await bench.page.keyboard.down('Shift')
      await bench.page.keyboard.press('z')
      if (shift) await bench.page.keyboard.up('Shift')
      await bench.page.keyboard.up('Control')
    }
    const second = (await bench.page.$$('[data-path]'))[1]
    await (await second?.$('[data-station="shaping"]'))?.click()
    await bench.clickWords('Remove')
    await until('one path is left', async () => (await bench.page.$$('[data-path]')).length === 1)
    await undo(false)
    await until('both are there', async () => (await bench.page.$$('[data-path]')).length === 2)
    await undo(true)
    await until('one is left', async () => (await bench.page.$$('[data-path]')).length === 1)
  })

  it('steps a number within limits, and again and again while it is held', async () => {
    await choose('altitude to hold', 'ap.altitude.target')
    await bench.sees('is not a switch, so it cannot be turned over')
    await bench.page.keyboard.press('v')
    await bench.page.waitForSelector('select[aria-label="What it does"]')
    await bench.page.select('select[aria-label="What it does"]', 'step')
    await bench.sees('begins anew')
    const by = await bench.page.$('xpath/.//label[contains(., "by")]/input')
    await by?.click({ count: 3 })
    await bench.page.keyboard.type('100')
    await bench.page.keyboard.press('Enter')
    await until('the path says by how much', async () => (await bench.station('simulator')).includes('+100'))
    expect(await bench.breaches()).toEqual([])
    await bench.page.keyboard.press('Escape')
    await happensOn('repeat', 'again and again while held')
    const before = craft.value('ap.altitude.target')
    await press(80)
    // One step; or more, where the machine lets go late.
    await until('a step was made', () => Number(craft.value('ap.altitude.target')) >= Number(before) + 100)
    await press(1100)
    await pause(300)
    const after = craft.value('ap.altitude.target')
    expect(after).toBeGreaterThanOrEqual(before + 500)
    await pause(400)
    expect(craft.value('ap.altitude.target')).toBe(after)
    expect(bench.errors).toEqual([])
  })
})
