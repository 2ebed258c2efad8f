import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { BrowserContext, KeyInput, Page } from 'puppeteer-core'
import { PATIENCE_MS, until, witnesses } from './app'
import { theBrowser } from './grounds'

/** A browser as nobody has used it yet, with a page for the builder. */
export class Bench {
  readonly errors: string[] = []

  private constructor(
    readonly browser: BrowserContext,
    readonly page: Page,
  ) {
    this.listen(page)
    witnesses.add(this.witness)
  }

  private readonly witness = async (): Promise<string> => {
    const focus = await this.page.evaluate(() => document.activeElement?.outerHTML.slice(0, 160) ?? '')
    const errors = this.errors.map((e) => `\nerror of the page: ${e.slice(0, 2000)}`).join('')
    const noticed = await this.text('[aria-live="polite"]')
    // What lies over the page is what one works in.
    const says = `${await this.text('[role="dialog"]')} ${await this.text()}`.slice(0, 6000)
    return `page ${this.page.url()}, focus in ${focus}, notices: “${noticed}”, says: ${says}${errors}`
  }

  static async open(address: string): Promise<Bench> {
    const browser = await (await theBrowser()).createBrowserContext()
    const page = await browser.newPage()
    page.setDefaultTimeout(PATIENCE_MS)
    await page.setViewport({ width: 1280, height: 800 })
    const bench = new Bench(browser, page)
    await page.goto(address)
    return bench
  }

  private listen(page: Page): void {
    page.on('pageerror', (error) =>
      this.errors.push(error instanceof Error ? (error.stack ?? String(error)) : String(error)),
    )
  }

  async close(): Promise<void> {
    witnesses.delete(this.witness)
    await this.browser.close()
  }

  /** What is saved from its pages goes into this folder. */
  async savesInto(folder: string): Promise<void> {
    const line = await this.page.createCDPSession()
    const own = { browserContextId: this.browser.id, downloadPath: folder }
    await line.send('Browser.setDownloadBehavior', { behavior: 'allow', ...own })
  }

  /** The words on the page, or in a part of it, as one line. */
  async text(selector = 'body'): Promise<string> {
    const text = await this.page.evaluate(
      (s) => document.querySelector<HTMLElement>(s)?.innerText ?? '',
      selector,
    )
    return text.replace(/\s+/g, ' ')
  }

  async sees(words: string, selector = 'body', ms?: number): Promise<void> {
    await until(`“${words}” is on the page`, async () => (await this.text(selector)).includes(words), ms)
  }

  async seesNo(words: string, selector = 'body'): Promise<void> {
    await until(`“${words}” is gone from the page`, async () => !(await this.text(selector)).includes(words))
  }

  /** Drags as a quick hand does while the page is busy with something else: all of it is over before anything is drawn. */
  async dragWhileBusy(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
    const { mouse } = this.page
    await mouse.move(from.x, from.y)
    const busy = this.page.evaluate(() => {
      const end = performance.now() + 400
      while (performance.now() < end);
    })
    await Promise.all([busy, mouse.down(), mouse.move(to.x, to.y), mouse.up()])
  }

  /**
   * Clicks something as one would with the mouse: once it has stood still for a moment and, if it is a button, is not greyed
   * and lies under nothing. A button that moves between pressing and letting go is not clicked by that, and is clicked again.
   */
  private async clickOn(selector: string, words: string | null, delay: number): Promise<void> {
    const what = words === null ? selector : `“${words}”`
    for (let tries = 3; ; tries--) {
      let at: { x: number; y: number; isButton: boolean } | null = null
      await until(`there is something to click: ${what}`, async () => {
        at = await this.page.evaluate(
          async (s, w) => {
            const all = [...document.querySelectorAll<HTMLElement>(s)]
            const found = w === null ? all[0] : all.find((e) => e.innerText.trim().startsWith(w))
            if (!found) return null
            const isButton = w !== null || found.matches('button, a')
            if (isButton) found.scrollIntoView({ block: 'nearest' })
            const before = found.getBoundingClientRect()
            await new Promise((resolve) => setTimeout(resolve, 40))
            const r = found.getBoundingClientRect()
            // What still moves is not clicked: an eye would wait, too.
            if (!found.isConnected || r.width === 0 || r.x !== before.x || r.y !== before.y) return null
            const middle = { x: r.x + r.width / 2, y: r.y + r.height / 2, isButton }
            if (!isButton) return middle
            // Nor what is greyed, or lies under something that just came up.
            const top = document.elementFromPoint(middle.x, middle.y)
            if (found.matches(':disabled') || !top || !(found.contains(top) || top.contains(found)))
              return null
            const { dataset } = document.documentElement
            dataset.clicked = 'nothing'
            const feel = ({ target }: Event) => {
              const on = target as Element
              dataset.clicked = found.contains(on) || on === top ? 'it' : on.outerHTML.slice(0, 200)
            }
            document.addEventListener('click', feel, { once: true, capture: true })
            return middle
          },
          selector,
          words,
        )
        return at !== null
      })
      const { x, y, isButton } = at as unknown as { x: number; y: number; isButton: boolean }
      await this.page.mouse.click(x, y, { delay })
      if (!isButton) return
      // Where it led to another page nothing is left to ask.
      const clicked = await this.page
        .evaluate(() => document.documentElement.dataset.clicked ?? 'it')
        .catch(() => 'it')
      if (clicked === 'it') return
      if (tries === 1) throw new Error(`the click on ${what} was lost, and went to ${clicked}`)
    }
  }

  /** Clicks what carries these words. */
  async clickWords(words: string, within = 'button, a'): Promise<void> {
    await this.clickOn(within, words, 0)
  }

  async click(selector: string): Promise<void> {
    await this.settled()
    // As long as a finger stays at least: contacts that bounce need their time.
    await this.clickOn(selector, null, 40)
  }

  /** Puts the focus where the Tab key would take it. */
  async focus(selector: string): Promise<void> {
    await this.page.waitForSelector(selector)
    await this.page.$eval(selector, (e) => (e as SVGElement).focus())
  }

  /** Lets the hub take what was just edited, as a hand does that goes from the form to the part; not while it is away. */
  private async settled(): Promise<void> {
    const underWay = '[data-edits-under-way]:not([data-edits-under-way="0"])'
    for (const end = Date.now() + 2000; Date.now() < end && (await this.page.$(underWay)); )
      await new Promise((resolve) => setTimeout(resolve, 20))
  }

  /** Where something is, once it is there and has stood still for a moment: a view that is just changing moves. */
  async middleOf(selector: string): Promise<{ x: number; y: number; width: number; height: number }> {
    await this.settled()
    for (const end = Date.now() + PATIENCE_MS; ; ) {
      const box = await this.page.evaluate(async (s) => {
        const at = () => document.querySelector(s)?.getBoundingClientRect()
        const before = at()
        await new Promise((resolve) => setTimeout(resolve, 40))
        const r = at()
        const still = before && r && before.x === r.x && before.y === r.y && r.width > 0
        return still
          ? { x: r.x + r.width / 2, y: r.y + r.height / 2, width: r.width, height: r.height }
          : null
      }, selector)
      if (box) return box
      if (Date.now() > end) throw new Error(`waited in vain until ${selector} is there and stands still`)
    }
  }

  /** Goes to a view by its key; pressed again when a form that was just closing has swallowed it. */
  async turnTo(key: string, view: string): Promise<void> {
    let pressedAt = 0
    await until(`${view} is open`, async () => {
      if (new URL(this.page.url()).pathname.startsWith(view)) return true
      if (Date.now() - pressedAt > 1000) {
        await this.page.keyboard.press(key as KeyInput)
        pressedAt = Date.now()
      }
      return false
    })
  }

  /** Opens the sheet of connections by its key; pressed again when another one that was just closing has swallowed it. */
  async openConnections(): Promise<void> {
    let pressedAt = 0
    await until('the sheet of connections is open', async () => {
      if ((await this.text('[role="dialog"]')).includes('Plugged in here')) return true
      if (Date.now() - pressedAt > 1500) {
        await this.page.keyboard.press('c')
        pressedAt = Date.now()
      }
      return false
    })
  }

  /** Closes the form that is open, with Escape; the first press may only put away the names it offers. */
  async leaveForm(): Promise<void> {
    const isOpen = () => this.page.$('[role="dialog"]')
    for (let presses = 0; await isOpen(); presses++) {
      if (presses === 3) throw new Error('the form stays open, whatever is pressed')
      await this.page.keyboard.press('Escape')
      await until('the form is closed', async () => !(await isOpen()), 1500).catch(() => {})
    }
  }

  /** What a part on the drawing shows, in words, and whether its lens shines at this moment. */
  lamp(partId: string): Promise<{ shows: string; lit: boolean }> {
    return this.page.evaluate((id) => {
      const g = document.querySelector<SVGElement>(`[data-part="${id}"] [data-lit]`)
      return { shows: g?.dataset.shows ?? '', lit: g?.dataset.lit === 'true' }
    }, partId)
  }

  /** Replaces what stands in an expression's field; a blank behind the last name puts away the names offered. */
  async typeExpression(label: string, text: string): Promise<void> {
    await this.click(`[data-expression="${label}"] .cm-content`)
    await this.page.keyboard.down('Control')
    await this.page.keyboard.press('a')
    await this.page.keyboard.up('Control')
    await this.page.keyboard.type(text)
  }

  station(at: string): Promise<string> {
    return this.text(`[data-station="${at}"]`)
  }

  /** Moves the wheel lever with the mouse from one place to another, in shares of its height. */
  async dragLever(from: number, to: number): Promise<void> {
    const box = await this.middleOf('[data-part="wheel-lever"] .worked')
    const y = (share: number) => box.y + (share - 0.5) * box.height
    await this.page.mouse.move(box.x, y(from))
    await this.page.mouse.down()
    await this.page.mouse.move(box.x, y((from + to) / 2), { steps: 8 })
    await this.page.mouse.move(box.x, y(to), { steps: 8 })
    await this.page.mouse.up()
  }

  /** What lies over the page and stands out of the window, with how far. */
  beyondWindow(): Promise<string[]> {
    return this.page.$$eval('[role="dialog"], .cm-tooltip, [role="alert"]', (list) =>
      list.flatMap((e) => {
        const r = e.getBoundingClientRect()
        const out = Math.max(-r.left, -r.top, r.right - window.innerWidth, r.bottom - window.innerHeight)
        const what = e.getAttribute('aria-label') ?? e.textContent?.slice(0, 40)
        return r.width > 0 && out > 0.5 ? [`${what}: by ${Math.round(out)} px`] : []
      }),
    )
  }

  /** Breaches of accessibility rules on the page as it is, in words. */
  async breaches(): Promise<string[]> {
    if (!(await this.page.evaluate(() => 'axe' in window)))
      await this.page.evaluate(
        readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8'),
      )
    return this.page.evaluate(async () => {
      const run = (
        window as unknown as {
          axe: {
            run: (options: object) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>
          }
        }
      ).axe
      // What is in order is not told of one by one.
      const { violations } = await run.run({ resultTypes: ['violations'] })
      return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)
    })
  }
}
