import { afterAll, beforeAll, expect, it } from 'vitest'
import { randomFrom } from '../src/standins/craft/world'
import { until } from './app'
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
