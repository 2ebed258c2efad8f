import type { ElementProperty } from '../core/elements/element-kind'
import type { Touched } from '../core/elements/touch'
import type { ElementRow } from '../core/rig/rows'
import { pageShown, type ScreenContent } from '../core/screens/content'
import { PAGE_KEY, partsOfKey, screenKey } from '../core/screens/screen-key'
import type { Millis } from '../core/units-of-measure'
import type { Around, PartDrawer, Show } from './drawing'
import { drawingOf } from './drawings'
import { at, attribute, node } from './pen'

type Value = number | string | null

/** An element as it is drawn. */
class DrawnElement {
  readonly shown: Partial<Record<ElementProperty, Value>> = {}
  /** Its properties that are told by a source which has gone quiet. */
  readonly stale = new Set<ElementProperty>()
  private show: Show | null = null
  private size = ''
  private readonly outer: SVGGElement
  private readonly place: (value: string) => void
  private readonly visible: (value: string) => void
  private readonly greyed: (value: string) => void

  constructor(
    parent: Element,
    readonly row: ElementRow,
    private readonly around: Around,
  ) {
    this.outer = node(parent, 'g')
    this.outer.setAttribute('data-element', row.id)
    this.place = attribute(this.outer, 'transform')
    this.visible = attribute(this.outer, 'display')
    this.greyed = attribute(this.outer, 'opacity')
  }

  remove(): void {
    this.outer.remove()
  }

  /** Where a hand holds it, in place of where it is set; null lets go of it. */
  held: Partial<Pick<ElementRow, 'x' | 'y' | 'width' | 'height'>> | null = null

  /** Lies above everything that was drawn before. */
  raise(): void {
    this.outer.parentNode?.appendChild(this.outer)
  }

  /** Draws what has changed; true where it wants to be asked again soon although nothing has. */
  draw(onPage: boolean): boolean {
    const { row, shown } = this
    const hidden = !onPage || (shown.visible !== undefined && shown.visible !== 1)
    this.visible(hidden ? 'none' : 'inline')
    // What is not seen is not drawn; a trend goes on remembering.
    if (hidden && (this.show === null || row.settings.kind !== 'trend')) return false
    const number = (property: 'x' | 'y' | 'width' | 'height' | 'angle'): number => {
      const set = (property === 'angle' ? undefined : this.held?.[property]) ?? row[property]
      const value = shown[property]
      return typeof value === 'number' && Number.isFinite(value) ? value : set
    }
    const [width, height] = [Math.max(0, number('width')), Math.max(0, number('height'))]
    const size = `${width} ${height}`
    if (size !== this.size || this.show === null) {
      this.size = size
      this.outer.textContent = ''
      this.show = drawingOf(row.settings)(this.outer, row.settings, { width, height }, this.around)
    }
    const angle = number('angle')
    const turn = angle === 0 ? '' : ` rotate(${angle} ${at(width / 2)} ${at(height / 2)})`
    this.place(`translate(${at(number('x'))} ${at(number('y'))})${turn}`)
    const goesOn = this.show(shown) === true
    const { blink } = shown
    const hz = typeof blink === 'number' && blink > 0 ? Math.min(10, blink) : 0
    const isOut = hz > 0 && Math.floor((this.around.now() / 1000) * hz * 2) % 2 === 1
    this.greyed(isOut ? '0' : this.stale.size > 0 ? '0.4' : '1')
    return goesOn || hz > 0
  }
}

/**
 * Draws a screen into an SVG and keeps it up to date: whatever is told is noted at once and drawn with the next picture, and
 * only elements of which something has changed are touched.
 */
export class ScreenView {
  private content: ScreenContent | null = null
  private readonly drawn = new Map<string, DrawnElement>()
  private readonly dirty = new Set<DrawnElement>()
  private readonly restless = new Set<DrawnElement>()
  private keys: readonly string[] = []
  private readonly values = new Map<string, Value>()
  /** Values typed to be looked at, in place of those that are told. */
  private samples: ReadonlyMap<string, Value> = new Map()
  private readonly stale = new Set<string>()
  private named: Value | undefined
  private forced: string | null = null
  private planned: number | null = null
  private readonly ground: SVGRectElement
  private readonly elements: SVGGElement
  private ended = false
  private drawnAt = Number.NEGATIVE_INFINITY
  private waits: ReturnType<typeof setTimeout> | null = null
  /** At least so long between two pictures; 0 where it is as quick as the display. What is only glanced at need not be. */
  pauseMs: Millis = 0
  /** The window that it is drawn in: another one than its code’s where it floats. */
  private readonly frames: Window

  constructor(
    readonly svg: SVGSVGElement,
    private readonly now: () => Millis = () => performance.now(),
    /** Told of what is drawn after each picture: the page, and what is wrong with its choice. */
    private readonly paged: (pageId: string | null, problem: string | null) => void = () => {},
    /** A finger on an element; left out where nothing is to be touched. */
    private readonly touched?: (elementId: string, by: Touched) => void,
  ) {
    this.frames = svg.ownerDocument.defaultView ?? window
    this.ground = node(svg, 'rect')
    this.elements = node(svg, 'g')
  }

  private parts: PartDrawer | null = null

  /** From here on parts of the catalogue are drawn by this. */
  setParts(parts: PartDrawer): void {
    this.parts = parts
    if (this.content) {
      const { content } = this
      for (const [id, d] of this.drawn)
        if (d.row.settings.kind === 'part') {
          d.remove()
          this.forget(d)
          this.drawn.delete(id)
        }
      this.setContent(content)
    }
  }

  private readonly around: Around = {
    picture: (id) => this.content?.pictures[id],
    now: () => this.now(),
  }

  /** Draws this from now on; elements that are as before stay as they are drawn. */
  setContent(content: ScreenContent): void {
    const before = this.content
    this.content = content
    const { screen, elements } = content
    const { widthPx, heightPx, settings } = screen
    this.svg.setAttribute('viewBox', `0 0 ${widthPx} ${heightPx}`)
    this.ground.setAttribute('width', String(widthPx))
    this.ground.setAttribute('height', String(heightPx))
    this.ground.setAttribute('fill', settings.ground)
    const pictures = before?.pictures !== content.pictures
    const kept = new Set(elements.map((e) => e.id))
    for (const [id, d] of this.drawn)
      if (!kept.has(id)) {
        d.remove()
        this.forget(d)
        this.drawn.delete(id)
      }
    for (const row of elements) {
      const earlier = this.drawn.get(row.id)
      const isSame = earlier?.row === row || (earlier && JSON.stringify(earlier.row) === JSON.stringify(row))
      if (earlier && isSame && !(pictures && row.settings.kind === 'picture')) {
        earlier.raise()
        continue
      }
      if (earlier) {
        earlier.remove()
        this.forget(earlier)
      }
      const { touched } = this
      const around = {
        ...this.around,
        parts: this.parts,
        ...(touched ? { touch: (by: Touched) => touched(row.id, by) } : {}),
      }
      const drawn = new DrawnElement(this.elements, row, around)
      for (const property of Object.keys(row.settings.follows) as ElementProperty[]) {
        const key = screenKey(row.id, property)
        drawn.shown[property] = this.valueOf(key) ?? null
        if (this.stale.has(key)) drawn.stale.add(property)
      }
      for (const [key, value] of this.samples) {
        const [id, property] = partsOfKey(key)
        if (id === row.id) drawn.shown[property as ElementProperty] = value
      }
      this.drawn.set(row.id, drawn)
      this.dirty.add(drawn)
    }
    for (const d of this.drawn.values()) this.dirty.add(d)
    this.plan()
  }

  private forget(d: DrawnElement): void {
    this.dirty.delete(d)
    this.restless.delete(d)
  }

  private valueOf(key: string): Value | undefined {
    return this.samples.has(key) ? this.samples.get(key) : this.values.get(key)
  }

  /** What numbers stand for from now on; what follows nothing any more is as it is set. */
  setCells(keys: readonly string[]): void {
    this.keys = keys
    const follows = new Set(keys)
    for (const key of [...this.values.keys()])
      if (!follows.has(key)) {
        this.values.delete(key)
        this.stale.delete(key)
      }
  }

  setValues(i: readonly number[], v: readonly Value[], stale: readonly number[] | undefined): void {
    for (let k = 0; k < i.length; k++) {
      const key = this.keys[i[k] as number]
      if (key === undefined) continue
      this.values.set(key, v[k] as Value)
      if (!this.samples.has(key)) this.put(key, v[k] as Value)
    }
    if (stale) {
      const now = new Set(stale.flatMap((c) => this.keys[c] ?? []))
      for (const key of new Set([...this.stale, ...now])) this.putStale(key, now.has(key))
      this.stale.clear()
      for (const key of now) this.stale.add(key)
    }
    this.plan()
  }

  /** Shows these in place of what is told, until others are given. */
  setSamples(samples: ReadonlyMap<string, Value>): void {
    const before = this.samples
    this.samples = samples
    for (const key of new Set([...before.keys(), ...samples.keys()])) this.put(key, this.valueOf(key) ?? null)
    this.plan()
  }

  /** Shows a page whatever chooses it; null for the one that is chosen. */
  showPage(pageId: string | null): void {
    if (pageId === this.forced) return
    this.forced = pageId
    for (const d of this.drawn.values()) this.dirty.add(d)
    this.plan()
  }

  /** Shows an element where a hand holds it; null puts it back where it is set. */
  hold(elementId: string, at: DrawnElement['held']): void {
    const drawn = this.drawn.get(elementId)
    if (!drawn) return
    drawn.held = at
    this.dirty.add(drawn)
    this.plan()
  }

  private put(key: string, value: Value): void {
    if (key === PAGE_KEY) {
      this.named = value
      for (const d of this.drawn.values()) this.dirty.add(d)
      return
    }
    const [id, property] = partsOfKey(key) as [string, ElementProperty]
    const drawn = this.drawn.get(id)
    if (!drawn || Object.is(drawn.shown[property], value)) return
    const follows = drawn.row.settings.follows[property] !== undefined || this.samples.has(key)
    if (follows) drawn.shown[property] = value
    else delete drawn.shown[property]
    this.dirty.add(drawn)
  }

  private putStale(key: string, is: boolean): void {
    const [id, property] = partsOfKey(key) as [string, ElementProperty]
    const drawn = this.drawn.get(id)
    if (!drawn || drawn.stale.has(property) === is) return
    if (is) drawn.stale.add(property)
    else drawn.stale.delete(property)
    this.dirty.add(drawn)
  }

  private plan(): void {
    if (this.ended || this.planned !== null || this.waits !== null) return
    const wait = this.drawnAt + this.pauseMs - performance.now()
    if (wait > 0) {
      this.waits = setTimeout(() => {
        this.waits = null
        this.plan()
      }, wait)
      return
    }
    this.planned = this.frames.requestAnimationFrame(() => {
      this.planned = null
      this.drawnAt = performance.now()
      this.draw()
    })
  }

  /** Draws all that has changed since it was last drawn. */
  draw(): void {
    const { content } = this
    if (!content) return
    const chosen = pageShown(content, this.named)
    const page = this.forced ?? chosen.page?.id ?? null
    this.paged(page, chosen.problem)
    const waiting = [...this.dirty, ...this.restless]
    this.dirty.clear()
    for (const d of waiting) {
      const { pageId } = d.row
      if (d.draw(pageId === null || pageId === page)) this.restless.add(d)
      else this.restless.delete(d)
    }
    if (this.restless.size > 0) this.plan()
  }

  end(): void {
    this.ended = true
    if (this.waits !== null) clearTimeout(this.waits)
    if (this.planned !== null) this.frames.cancelAnimationFrame(this.planned)
    this.svg.textContent = ''
  }
}
