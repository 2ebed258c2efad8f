import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { papers } from '../../layout/papers'
import { type Rig, rigRow } from '../../rig/rig'
import type { Millimetres } from '../../units-of-measure'
import type { PaperMark, PaperSheet } from './marks'
import { fitted, paperWidth } from './paper-text'
import { wireInk } from './wire-inks'
import { type Host, type WireGroup, type WireItem, type WireRow, wireGroups } from './wiring-groups'
import { type WiringPaper, wiringPapers } from './wiring-papers'

/** What the title block says besides what the sheet shows. */
export interface TitleBlock {
  readonly date: string
  readonly revision: number
}

const MARGIN_MM: Millimetres = 10
const TITLE_MM: Millimetres = 16
const BAND_MM: Millimetres = 190
const PART_MM: Millimetres = 64
const HOST_MM: Millimetres = 46
const ROW_MM: Millimetres = 4.4
const HEAD_MM: Millimetres = 8
const GAP_MM: Millimetres = 2.6
const NUMBER_MM: Millimetres = 2
const TEXT_SIZES: readonly Millimetres[] = [2.2, 2, 1.8, 1.6, 1.4, 1.2]

/** A sheet before it is drawn: which parts are in which of its bands. */
interface Page {
  readonly group: WireGroup
  readonly bands: readonly (readonly WireItem[])[]
  /** Of the sheets of this host, which one, counted from 1, and how many there are. */
  readonly part: number
  readonly parts: number
}

const heightOf = (item: WireItem): Millimetres => HEAD_MM + item.rows.length * ROW_MM + 1

const sizeOf = (paper: WiringPaper): { widthMm: Millimetres; heightMm: Millimetres } => {
  const [w, h] = papers[paper]
  return wiringPapers[paper].bands === 1 ? { widthMm: w, heightMm: h } : { widthMm: h, heightMm: w }
}

/** Room for parts below the host's own name and above the title block. */
const roomOf = (paper: WiringPaper): Millimetres =>
  sizeOf(paper).heightMm - 2 * MARGIN_MM - TITLE_MM - HEAD_MM - 4

/** A part with more wires than a sheet has room for goes on where it ends. */
const inPieces = (item: WireItem, room: Millimetres): WireItem[] => {
  const most = Math.floor((room - HEAD_MM - 1) / ROW_MM)
  if (item.rows.length <= most) return [item]
  return Array.from({ length: Math.ceil(item.rows.length / most) }, (_, i) => ({
    ...item,
    title: i === 0 ? item.title : `${item.title}, continued`,
    rows: item.rows.slice(i * most, (i + 1) * most),
  }))
}

const pagesOf = (group: WireGroup, paper: WiringPaper): Page[] => {
  const room = roomOf(paper)
  const bands: WireItem[][] = []
  let left = 0
  for (const item of group.items.flatMap((i) => inPieces(i, room))) {
    const height = heightOf(item) + GAP_MM
    if (bands.length === 0 || height > left + GAP_MM) {
      bands.push([])
      left = room
    }
    bands.at(-1)?.push(item)
    left -= height
  }
  const perPage = wiringPapers[paper].bands
  const parts = Math.ceil(bands.length / perPage)
  return Array.from({ length: parts }, (_, i) => ({
    ...{ group, part: i + 1, parts },
    bands: bands.slice(i * perPage, (i + 1) * perPage),
  }))
}

const titleOf = (host: Host): { title: string; subtitle: string } =>
  host.is === 'board'
    ? { title: host.board.name, subtitle: modelOf(host.board)?.name ?? host.board.model }
    : {
        title: host.expander.name,
        subtitle: `${host.expander.chips > 1 ? `${host.expander.chips} × ` : ''}${expanderKind(host.expander.kind)?.name ?? host.expander.kind} on ${host.board.name}`,
      }

/** Which sheets show what: hosts by the sheets they are on, and contacts by those on which a wire ends at them. */
class Index {
  private readonly hosts = new Map<string, number[]>()
  private readonly contacts = new Map<string, Set<number>>()
  private readonly lines = new Map<string, number>()

  constructor(pages: readonly Page[]) {
    for (const [i, page] of pages.entries()) {
      const sheet = i + 1
      const { host } = page.group
      this.hosts.set(host.id, [...(this.hosts.get(host.id) ?? []), sheet])
      for (const item of page.bands.flat()) {
        if (item.channelsOf !== null && !this.lines.has(item.id)) this.lines.set(item.id, sheet)
        for (const row of item.rows) {
          if (row.at === null) continue
          const key = `${host.id} ${row.at.name}`
          const sheets = this.contacts.get(key) ?? new Set()
          this.contacts.set(key, sheets.add(sheet))
        }
      }
    }
  }

  sheetsOf(hostId: string): string {
    const sheets = this.hosts.get(hostId) ?? []
    const [first, last] = [sheets[0], sheets.at(-1)]
    if (first === undefined) return ''
    return first === last ? `sheet ${first}` : `sheets ${first} to ${last}`
  }

  /** The sheet on which an expander's own lines are drawn. */
  linesOf(expanderId: string): number | undefined {
    return this.lines.get(expanderId)
  }

  /** Other sheets on which wires end at the same contact. */
  alsoOn(hostId: string, contact: string, sheet: number): readonly number[] {
    return [...(this.contacts.get(`${hostId} ${contact}`) ?? [])].filter((s) => s !== sheet)
  }
}

/** The wiring of a rig, to be printed: a sheet or more for each board and each expander; of one board only where it is said. */
export const wiringSheets = (
  rig: Rig,
  boardId: string | null,
  paper: WiringPaper,
  block: TitleBlock,
): PaperSheet[] => {
  const pages = wireGroups(rig).flatMap((g) => pagesOf(g, paper))
  const index = new Index(pages)
  return pages.flatMap((page, i) =>
    boardId !== null && page.group.host.board.id !== boardId
      ? []
      : [new SheetDrawing(rig, page, i + 1, pages.length, paper, block, index).sheet()],
  )
}

class SheetDrawing {
  private readonly marks: PaperMark[] = []
  private readonly size: { widthMm: Millimetres; heightMm: Millimetres }

  constructor(
    private readonly rig: Rig,
    private readonly page: Page,
    private readonly number: number,
    private readonly count: number,
    paper: WiringPaper,
    private readonly block: TitleBlock,
    private readonly index: Index,
  ) {
    this.size = sizeOf(paper)
  }

  sheet(): PaperSheet {
    for (const [i, items] of this.page.bands.entries())
      this.band(items, MARGIN_MM + i * (BAND_MM + MARGIN_MM))
    this.titleBlock()
    return { ...this.size, marks: this.marks }
  }

  private text(
    x: Millimetres,
    y: Millimetres,
    text: string,
    sizeMm: Millimetres,
    anchor: 'start' | 'middle' | 'end' = 'start',
    bold = false,
  ): void {
    this.marks.push({ is: 'text', x, y, text, sizeMm, anchor, ...(bold ? { bold } : {}) })
  }

  /** A text on one line, as small as it takes. */
  private fitting(
    x: Millimetres,
    y: Millimetres,
    text: string,
    room: Millimetres,
    most: Millimetres,
    anchor: 'start' | 'middle' | 'end' = 'start',
    bold = false,
  ): void {
    const wide = paperWidth(text, most, bold)
    this.text(x, y, text, wide <= room ? most : most * (room / wide), anchor, bold)
  }

  private line(points: readonly (readonly [number, number])[], colour = '#13222b', widthMm = 0.25): void {
    this.marks.push({ is: 'line', points, colour, widthMm })
  }

  private band(items: readonly WireItem[], x: Millimetres): void {
    const { host } = this.page.group
    const { title, subtitle } = titleOf(host)
    const hostX = x + BAND_MM - HOST_MM
    const top = MARGIN_MM
    const heights = items.reduce((sum, i) => sum + heightOf(i) + GAP_MM, 0)
    this.marks.push({ is: 'box', x: hostX, y: top, width: HOST_MM, height: HEAD_MM + 4 + heights - GAP_MM })
    this.fitting(hostX + HOST_MM / 2, top + 3.6, title, HOST_MM - 2, 2.8, 'middle', true)
    this.fitting(hostX + HOST_MM / 2, top + 6.6, subtitle, HOST_MM - 2, 1.9, 'middle')
    if (host.is === 'expander') {
      const lines = this.index.linesOf(host.id)
      if (lines !== undefined)
        this.text(hostX + HOST_MM / 2, top + 9.4, `its own lines: sheet ${lines}`, 1.9, 'middle')
    }
    let y = top + HEAD_MM + 4
    for (const item of items) {
      this.item(item, x, y, hostX)
      y += heightOf(item) + GAP_MM
    }
  }

  private item(item: WireItem, x: Millimetres, y: Millimetres, hostX: Millimetres): void {
    this.marks.push({ is: 'box', x, y, width: PART_MM, height: heightOf(item) })
    this.fitting(x + 1.6, y + 3.3, item.title, PART_MM - 3.2, 2.6, 'start', true)
    this.fitting(x + 1.6, y + 6.2, this.subtitle(item), PART_MM - 3.2, 1.9)
    for (const [i, row] of item.rows.entries()) this.row(row, x, y + HEAD_MM + (i + 0.5) * ROW_MM, hostX)
  }

  /** What it is, and where the rest of it is drawn. */
  private subtitle(item: WireItem): string {
    const { subtitle, channelsOf, restWith } = item
    if (channelsOf !== null) return `${subtitle} · its channels: ${this.index.sheetsOf(channelsOf)}`
    return restWith === null ? subtitle : `${subtitle} · the rest: ${this.index.sheetsOf(restWith)}`
  }

  private row(row: WireRow, x: Millimetres, y: Millimetres, hostX: Millimetres): void {
    const from = x + PART_MM
    this.fitting(from - 1.4, y + 0.75, row.terminal, PART_MM - 4, 2.2, 'end')
    const short = row.at === null
    // Wires that do not go to the host of this sheet are stubs.
    const to = short ? from + 34 : hostX
    this.line(
      [
        [from, y],
        [to, y],
      ],
      wireInk(row.lead.colour),
      0.45,
    )
    if (row.resistor !== null) this.resistor(row.resistor, from + 3, y)
    this.wireNumber(`${row.lead.number} ${row.lead.colour}`, short ? from + 22 : (from + hostX) / 2 + 8, y)
    if (row.at) this.contact(row.at, hostX, y)
    else if (row.elsewhere) this.elsewhere(row.elsewhere, to, y, hostX)
  }

  /** Lying in its wire, with its value on it. */
  private resistor(value: string, x: Millimetres, y: Millimetres): void {
    const width = Math.max(9, paperWidth(value, 1.9) + 1.6)
    this.marks.push({ is: 'box', x, y: y - 1.4, width, height: 2.8, filled: true })
    this.text(x + width / 2, y + 0.68, value, 1.9, 'middle')
  }

  /** In a gap of its wire, so that nothing runs through it. */
  private wireNumber(words: string, middle: Millimetres, y: Millimetres): void {
    const width = paperWidth(words, NUMBER_MM) + 1.6
    this.line(
      [
        [middle - width / 2, y],
        [middle + width / 2, y],
      ],
      '#ffffff',
      1,
    )
    this.text(middle, y + 0.7, words, NUMBER_MM, 'middle')
  }

  private contact(at: { name: string; place: string }, hostX: Millimetres, y: Millimetres): void {
    this.text(hostX + 1.6, y + 0.8, at.name, 2.3, 'start', true)
    const nameWidth = paperWidth(at.name, 2.3, true)
    if (at.place !== '') this.text(hostX + Math.max(12, nameWidth + 4), y + 0.75, at.place, 1.9)
    const also = this.index.alsoOn(this.page.group.host.id, at.name, this.number)
    if (also.length === 0) return
    const words = `also ${also.length === 1 ? 'sheet' : 'sheets'} ${also.join(', ')}`
    this.fitting(hostX + HOST_MM - 1.4, y + 0.7, words, HOST_MM - 24, 1.7, 'end')
  }

  private elsewhere(
    to: NonNullable<WireRow['elsewhere']>,
    x: Millimetres,
    y: Millimetres,
    hostX: Millimetres,
  ): void {
    const room = hostX - x - 6
    if (to.is === 'ground') {
      for (const [i, half] of [1.5, 1, 0.5].entries())
        this.line([
          [x + 0.6 * i + 0.3, y - half],
          [x + 0.6 * i + 0.3, y + half],
        ])
      this.fitting(x + 3, y + 0.75, 'ground', room, 2)
      return
    }
    if (to.is === 'supply')
      this.line([
        [x, y - 1.2],
        [x + 1.6, y],
        [x, y + 1.2],
      ])
    const where = to.hostId === undefined ? '' : this.index.sheetsOf(to.hostId)
    const words = where === '' ? to.words : `${to.words}, ${where}`
    const { lines, sizeMm } = fitted(words, room, TEXT_SIZES, 2)
    for (const [i, line] of lines.entries())
      this.text(x + 3, y + 0.75 + (i - (lines.length - 1) / 2) * sizeMm, line, Math.min(sizeMm, 2))
  }

  private titleBlock(): void {
    const { widthMm, heightMm } = this.size
    const [x, y] = [MARGIN_MM, heightMm - MARGIN_MM - TITLE_MM]
    const width = widthMm - 2 * MARGIN_MM
    const { title, subtitle } = titleOf(this.page.group.host)
    this.marks.push({ is: 'box', x, y, width, height: TITLE_MM })
    const cells = [0.34, 0.7, 0.85].map((share) => x + share * width)
    for (const at of cells)
      this.line([
        [at, y],
        [at, y + TITLE_MM],
      ])
    const [second = x, third = x, fourth = x] = cells
    const cell = (at: Millimetres, next: Millimetres, head: string, words: string, below: string) => {
      this.text(at + 1.6, y + 3.2, head, 1.8)
      this.fitting(at + 1.6, y + 8, words, next - at - 3.2, 3.2, 'start', true)
      this.fitting(at + 1.6, y + 12.6, below, next - at - 3.2, 2.2)
    }
    const part = this.page.parts > 1 ? `part ${this.page.part} of ${this.page.parts}` : ''
    cell(
      x,
      second,
      'Cockpit',
      rigRow(this.rig)?.name ?? '',
      'Wiring. Ground and supplies are named where they are.',
    )
    cell(second, third, 'Shows', title, [subtitle, part].filter((w) => w !== '').join(' · '))
    cell(third, fourth, 'Made', this.block.date, `edit ${this.block.revision} of the rig`)
    cell(fourth, x + width, 'Sheet', `${this.number} of ${this.count}`, '')
  }
}
