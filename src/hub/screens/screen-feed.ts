import type { Engine } from '../../core/engine/engine'
import type { OfScreen } from '../../core/live/screen-feed'
import { screensOf } from '../../core/rig/rig'
import { contentOf, type ScreenContent, screenNamed } from '../../core/screens/content'
import type { TabLine } from '../tab'
import { LookedScreen } from './looked-screen'

/** No display shows more in a second than this lets through. */
const LEAST_PAUSE_MS = 14

/** Somebody who looks at screens: a tab at some by their ids, or a device at one by its name. */
interface Looker {
  readonly line: TabLine
  screens: ReadonlySet<string>
  /** Screens of which it has to be told everything. */
  readonly fresh: Set<string>
}

interface Device extends Looker {
  readonly name: string
  readonly mayTouch: boolean
  content: ScreenContent | null | undefined
}

/**
 * What screens show, to whoever looks at them: told as soon as it changes, at most as often as displays can show it. What
 * nobody looks at is not worked out; what several look at is worked out, and made into text, once.
 */
export class ScreenFeed {
  private readonly lookers = new Set<Looker>()
  private readonly devices = new Set<Device>()
  private readonly looked = new Map<string, LookedScreen>()
  private planned = false
  private lastAt = Number.NEGATIVE_INFINITY

  constructor(private readonly engine: Engine) {}

  /** A tab looks at these screens from now on. */
  look(line: TabLine, screens: readonly string[]): void {
    const earlier = [...this.lookers].find((l) => l.line === line)
    const looker: Looker = earlier ?? { line, screens: new Set(), fresh: new Set() }
    for (const id of screens) if (!looker.screens.has(id)) looker.fresh.add(id)
    looker.screens = new Set(screens)
    if (screens.length > 0) this.lookers.add(looker)
    else this.lookers.delete(looker)
    this.keepLooked()
    this.stepped()
  }

  leave(line: TabLine): void {
    this.look(line, [])
  }

  /** A device shows the screen of this name; call the result when it is gone. */
  join(line: TabLine, name: string, mayTouch = false): () => void {
    const device: Device = { line, name, mayTouch, screens: new Set(), fresh: new Set(), content: undefined }
    this.devices.add(device)
    this.lookers.add(device)
    this.tellContent(device)
    this.keepLooked()
    this.stepped()
    return () => {
      this.devices.delete(device)
      this.lookers.delete(device)
      this.keepLooked()
    }
  }

  /** The rig may have other screens now, or others of their names. */
  match(): void {
    for (const device of this.devices) this.tellContent(device)
    this.keepLooked()
    this.stepped()
  }

  private tellContent(device: Device): void {
    const { rig } = this.engine
    const row = screenNamed(rig, device.name)
    const content = row ? contentOf(rig, row.id) : null
    if (content === device.content) return
    const isOther = content?.screen.id !== device.content?.screen.id
    device.content = content
    device.screens = new Set(content ? [content.screen.id] : [])
    if (content && isOther) device.fresh.add(content.screen.id)
    const names = screensOf(rig).map((s) => s.name)
    send(device.line, { say: 'screen content', content, names, mayTouch: device.mayTouch })
  }

  private keepLooked(): void {
    const wanted = new Set([...this.lookers].flatMap((l) => [...l.screens]))
    for (const id of this.looked.keys()) if (!wanted.has(id)) this.looked.delete(id)
    for (const id of wanted) if (!this.looked.has(id)) this.looked.set(id, new LookedScreen(this.engine, id))
  }

  /** The engine was told something: what shows it is told soon. */
  stepped(): void {
    if (this.looked.size === 0 || this.planned) return
    this.planned = true
    const wait = this.lastAt + LEAST_PAUSE_MS - performance.now()
    if (wait <= 0) setImmediate(() => this.run())
    else setTimeout(() => this.run(), wait)
  }

  private run(): void {
    this.planned = false
    this.lastAt = performance.now()
    for (const screen of this.looked.values()) {
      const anew = screen.match()
      const news = screen.news()
      const newsText = news === null ? null : JSON.stringify(news)
      const anewText = anew === null ? null : JSON.stringify(anew)
      for (const looker of this.lookers) {
        if (!looker.screens.has(screen.id)) continue
        // It is told the newest once it reads again.
        if (looker.line.isFull()) looker.fresh.add(screen.id)
        else if (looker.fresh.delete(screen.id) || anewText !== null) {
          looker.line.send(anewText ?? JSON.stringify(screen.describe()))
          send(looker.line, screen.all())
        } else if (newsText !== null) looker.line.send(newsText)
      }
    }
  }
}

const send = (line: TabLine, message: OfScreen): void => line.send(JSON.stringify(message))
