import { afterAll, beforeAll, expect, it } from 'vitest'
import { randomFrom } from '../src/standins/craft/world'
import { pause, until } from './app'
import { borrowOnMirror, endSession, type Session } from './session'

let session: Session
beforeAll(async () => {
  session = await borrowOnMirror()
})
afterAll(() => endSession(session))

const ACTS = 140
const views = ['bench', 'panel', 'harness', 'paths', 'scope', 'calibrate', 'mirror', 'screens']
const keys = [
  'Enter',
  'Escape',
  'Tab',
  'ArrowDown',
  'ArrowRight',
  'Delete',
  'Backspace',
  'End',
  'Space',
  'PageUp',
]
const typed = ['12', '-3', '1e9', 'abc', '"', '(((', 'gear.lever == 1', 'ä 🙂', '', '0.5']

/** Something on the page that can be clicked, what lies over it first, and what it is; by a number from 0 to 1. */
const somewhere = (share: number): { x: number; y: number; what: string } | null => {
  const kinds =
    'button, a[href], input, select, label, [role="tab"], [role="radio"], [role="option"], [role="slider"], [tabindex="0"]'
  const all = [...document.querySelectorAll<HTMLElement>(kinds)].filter((e) => {
    const { width, height, left, top } = e.getBoundingClientRect()
    const words = (e.getAttribute('aria-label') ?? e.textContent ?? '').trim()
    // Another rig, a file, and what opens elsewhere, are no business of this hand.
    const leads = e.matches(
      'a[target], a[download], [type="file"], label:has([type="file"]), header :not(button)',
    )
    const leaves = /^(Rigs|Open|Begin|The demo|From a file|Picture|Save)|home cockpit/.test(words)
    const isSeen = width > 3 && height > 3 && left >= 0 && top >= 0 && left < innerWidth && top < innerHeight
    return isSeen && !leads && !leaves
  })
  const over = all.filter((e) => e.closest('[role="dialog"]'))
  const list = over.length > 0 ? over : all
  const e = list[Math.floor(share * list.length)]
  if (!e) return null
  const { left, top, width, height } = e.getBoundingClientRect()
  const what = `${e.tagName} ${(e.getAttribute('aria-label') ?? e.textContent ?? '').slice(0, 40)}`
  return { x: left + width / 2, y: top + height / 2, what }
}

it.each([7, 1912])(
  'a tired hand, begun with %i, breaks nothing that undo does not take back',
  async (seed) => {
    const { app, bench } = session
    const { page } = bench
    const random = randomFrom(seed)
    const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T
    const done: string[] = []
    /** The rig as its file has it, whatever the order of its keys. */
    const rig = async (): Promise<unknown> => JSON.parse((await app.openRig()).text)
    const before = await rig()
    const act = async (): Promise<string> => {
      const kind = random()
      if (kind < 0.6) {
        const at = await page.evaluate(somewhere, random())
        if (at === null) return 'nothing to click'
        if (random() < 0.8) await page.mouse.click(at.x, at.y)
        else {
          await page.mouse.move(at.x, at.y)
          await page.mouse.down()
          await page.mouse.move(at.x + 300 * (random() - 0.5), at.y + 200 * (random() - 0.5), { steps: 3 })
          await page.mouse.up()
        }
        return at.what
      }
      if (kind < 0.75) {
        const words = one(typed)
        const isField = await page.evaluate(() =>
          document.activeElement?.matches('input, textarea, .cm-content'),
        )
        if (!isField) return 'nothing to type in'
        await page.keyboard.type(words)
        await page.keyboard.press('Enter')
        return `typed ${words}`
      }
      if (kind < 0.93) {
        const key = one(keys)
        await page.keyboard.press(key as 'Enter')
        return key
      }
      const view = one(views)
      await page.evaluate((v) => document.querySelector<HTMLElement>(`nav a[href^="/${v}"]`)?.click(), view)
      return `to ${view}`
    }
    for (let i = 0; i < ACTS; i++) {
      done.push(await act())
      expect(bench.errors, done.slice(-15).join('\n')).toEqual([])
    }
    await page.keyboard.press('Escape')
    await page.goto(`${app.address}/paths`)
    await bench.sees('Boards')
    const undo = async (): Promise<boolean> => {
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
      await page.keyboard.down('Control')
      await page.keyboard.press('z')
      await page.keyboard.up('Control')
      await until('nothing is on its way', () => page.$('[data-edits-under-way="0"]'))
      return (await page.$('[aria-label="Nothing to undo"]')) !== null
    }
    await until('all is taken back', undo, 40_000)
    await until('nothing is on its way', () => page.$('[data-edits-under-way="0"]'))
    expect(await rig(), done.join('\n')).toEqual(before)
    expect(bench.errors).toEqual([])
  },
)

/** A control of the panel that is looked at, by a number from 0 to 1. */
const someControl = (share: number): { x: number; y: number; width: number } | null => {
  const all = [...document.querySelectorAll<HTMLElement>('[data-part] .worked')]
  const e = all[Math.floor(share * all.length)]
  if (!e) return null
  const { left, top, width, height } = e.getBoundingClientRect()
  return { x: left + width / 2, y: top + height / 2, width }
}

const MOVES = 50

it('hands on every panel, while one process after another stands still, leave nothing pressed and no lamp wrong', async () => {
  const { app, bench } = session
  const { page } = bench
  const { mouse, keyboard } = page
  const random = randomFrom(4)
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T
  const panelSelect = 'select[aria-label="Panel"]'
  await page.goto(`${app.address}/mirror`)
  await page.waitForSelector(panelSelect)
  const panels = await page.$$eval(`${panelSelect} option`, (list) =>
    list.map((o) => (o as HTMLOptionElement).value),
  )
  let isOver = false
  // Its own chance: how long hands take is left to the machine, and would change what is stopped.
  const chance = randomFrom(5)
  const standStill = async (): Promise<void> => {
    while (!isOver) {
      const name = (['hub', 'hub', 'web', 'standins'] as const)[Math.floor(chance() * 4)] ?? 'hub'
      app.signal(name, 'SIGSTOP')
      await pause(150 + chance() * 1000)
      app.signal(name, 'SIGCONT')
      await pause(300 + chance() * 1200)
    }
  }
  const acts: readonly ((x: number, y: number) => Promise<void>)[] = [
    async (x, y) => {
      await mouse.move(x, y)
      await mouse.down()
      await pause(random() * 900)
      await mouse.up()
    },
    // Let go somewhere else.
    async (x, y) => {
      await mouse.move(x, y)
      await mouse.down()
      await mouse.move(x + 200, y + 120, { steps: 3 })
      await mouse.up()
    },
    // Off to another panel with the finger still on it.
    async (x, y) => {
      await mouse.move(x, y)
      await mouse.down()
      await page.select(panelSelect, one(panels))
      await mouse.up()
    },
    async (x, y) => {
      await mouse.click(x, y)
      await keyboard.down('Space')
      await pause(random() * 500)
      await keyboard.up('Space')
    },
    // The focus goes while the key is held.
    async (x, y) => {
      await mouse.click(x, y)
      await keyboard.down('Space')
      await keyboard.press('Tab')
      await keyboard.up('Space')
    },
    async (x, y) => {
      await mouse.click(x, y)
      for (let k = 0; k < 4; k++) await keyboard.press(one(['ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp']))
    },
    async (x, y) => {
      await mouse.move(x, y)
      await mouse.wheel({ deltaY: random() < 0.5 ? 100 : -100 })
    },
  ]
  const still = standStill()
  try {
    for (let i = 0; i < MOVES; i++) {
      if (random() < 0.15) await page.select(panelSelect, one(panels))
      const at = await page.evaluate(someControl, random())
      if (at) await one(acts)(at.x + (random() - 0.5) * 0.7 * at.width, at.y)
      await keyboard.press('Escape')
    }
  } finally {
    isOver = true
    await still
  }
  await until('all is up again', async () => (await app.health()).body.ok === true)
  for (const panel of panels) {
    await page.select(panelSelect, panel)
    await until(`nothing is pressed on ${panel}`, async () => {
      const pressed = await page.$$eval(
        '[data-part] .worked',
        (list) => list.filter((e) => e.getAttribute('aria-pressed') === 'true').length,
      )
      return pressed === 0
    })
    // Controls may stand elsewhere than the craft has them, as hands left them; what only shows is as the craft has it.
    await until(`what shows on ${panel} is as the craft has it`, async () => {
      const wrong = await page.$$eval('tr[data-agrees="false"]', (rows) =>
        rows
          .map((r) => r.getAttribute('data-row'))
          .filter((id) => !document.querySelector(`[data-part="${id}"] .worked`)),
      )
      return wrong.length === 0
    })
  }
  expect(bench.errors).toEqual([])
})
