import ELK, { type ElkExtendedEdge, type ElkNode, type ElkPort } from 'elkjs/lib/elk.bundled.js'
import { expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { expandersOf, leadsOf, leadsOnBoard, leadsOnExpander, linesOf, type Rig } from '../../rig/rig'
import type { BoardRow, LeadRow } from '../../rig/rows'
import { beginningOf, endOfLead, terminalAt } from '../leads'
import { channelWords } from '../lines'
import type { PaperMark, PaperSheet } from './marks'
import { wireInk } from './wire-inks'

/** A millimetre of the paper is a unit of the layout. */
const PORT_MM = 4.2
const TITLE_MM = 7
const TEXT_MM = 2.2
const CHARACTER_MM = 1.25
const MARGIN_MM = 14
const FOOT_MM = 12

interface Port {
  readonly id: string
  readonly words: string
  readonly side: 'WEST' | 'EAST'
}

interface Box {
  readonly id: string
  readonly title: string
  readonly subtitle: string
  readonly ports: readonly Port[]
}

const supplyWords = (rig: Rig, lead: LeadRow): string | null => {
  const end = endOfLead(lead)
  if (end.at === 'ground') return 'ground'
  if (end.at === 'supply') return rig.supply[end.supplyId]?.name ?? 'supply'
  if (end.at === 'contact' && lead.shared && !terminalAt(rig, beginningOf(lead))?.shares) return end.pin
  return null
}

/** What hangs on one board as boxes with ports, and the wires between them. */
const graphOf = (
  rig: Rig,
  board: BoardRow,
): { boxes: Box[]; wires: { lead: LeadRow; from: string; to: string }[] } => {
  const expanders = expandersOf(rig, board.id)
  const reaching = [...leadsOnBoard(rig, board.id), ...expanders.flatMap((e) => leadsOnExpander(rig, e.id))]
  const partIds = [...new Set(reaching.flatMap((l) => l.partId ?? []))]
  const wires: { lead: LeadRow; from: string; to: string }[] = []
  const boxes: Box[] = []
  const portFor = (lead: LeadRow): Port => {
    const goesTo = supplyWords(rig, lead)
    const words =
      terminalAt(rig, beginningOf(lead))?.name.replace(/(,| to| through) .*$/, '') ?? lead.terminal
    // Ground and supplies are named where they are: drawn, their wires would cover everything else.
    if (goesTo !== null)
      return { id: `from ${lead.id}`, words: words === goesTo ? words : `${words}: ${goesTo}`, side: 'WEST' }
    wires.push({ lead, from: `from ${lead.id}`, to: endPort(lead) })
    return { id: `from ${lead.id}`, words, side: 'EAST' }
  }
  for (const id of partIds) {
    const part = rig.part[id]
    if (!part) continue
    const ports = leadsOf(rig, id).map(portFor)
    boxes.push({ id, title: part.name, subtitle: kindOf(part)?.name ?? part.kind, ports })
  }
  for (const e of expanders) {
    const kind = expanderKind(e.kind)
    const used = [...new Set(leadsOnExpander(rig, e.id).map((l) => l.channel ?? 0))].sort((a, b) => a - b)
    const channels = used.map(
      (c): Port => ({
        id: channelPort(e.id, c),
        words: channelWords(e, c).replace(`${e.name} `, ''),
        side: 'WEST',
      }),
    )
    const subtitle = `${e.chips > 1 ? `${e.chips} × ` : ''}${kind?.name ?? e.kind}`
    boxes.push({
      id: e.id,
      title: e.name,
      subtitle,
      ports: [...channels, ...linesOf(rig, e.id).map(portFor)],
    })
  }
  const pins = [...new Set(wires.map((w) => w.to).filter((t) => t.startsWith('pin ')))]
  const order = modelOf(board)?.headers.flatMap((h) => h.contacts) ?? []
  pins.sort((a, b) => order.indexOf(a.slice(4)) - order.indexOf(b.slice(4)))
  boxes.push({
    id: board.id,
    title: board.name,
    subtitle: modelOf(board)?.name ?? board.model,
    ports: pins.map((p): Port => ({ id: p, words: p.slice(4), side: 'WEST' })),
  })
  return { boxes, wires }
}

const channelPort = (expanderId: string, channel: number): string => `channel ${expanderId} ${channel}`

const endPort = (lead: LeadRow): string =>
  lead.expanderId !== null ? channelPort(lead.expanderId, lead.channel ?? 0) : `pin ${lead.pin}`

const widthOf = (box: Box): number => {
  const longest = (side: Port['side']) =>
    Math.max(0, ...box.ports.filter((p) => p.side === side).map((p) => p.words.length))
  const inner = (longest('WEST') + longest('EAST')) * CHARACTER_MM + 8
  return Math.max(inner, Math.max(box.title.length, box.subtitle.length * 0.8) * CHARACTER_MM * 1.25 + 4)
}

const portsHeight = (box: Box): number =>
  Math.max(...(['WEST', 'EAST'] as const).map((side) => box.ports.filter((p) => p.side === side).length)) *
  PORT_MM

const asNode = (box: Box): ElkNode => {
  const width = widthOf(box)
  const at = { WEST: 0, EAST: 0 }
  const ports = box.ports.map((p): ElkPort => {
    const y = TITLE_MM + PORT_MM * (at[p.side] + 0.5)
    at[p.side]++
    return {
      ...{ id: p.id, x: p.side === 'WEST' ? 0 : width, y, width: 0, height: 0 },
      layoutOptions: { 'elk.port.side': p.side },
    }
  })
  return {
    ...{ id: box.id, width, height: TITLE_MM + portsHeight(box) + 1.5, ports },
    layoutOptions: { 'elk.portConstraints': 'FIXED_POS' },
  }
}

/** One board with its expanders, its parts and every wire between them, laid out by the Eclipse Layout Kernel. */
export const wiringDrawing = async (rig: Rig, board: BoardRow): Promise<PaperSheet> => {
  const { boxes, wires } = graphOf(rig, board)
  const edges: ElkExtendedEdge[] = wires.map((w) => ({ id: w.lead.id, sources: [w.from], targets: [w.to] }))
  const root: ElkNode = {
    id: 'root',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': '34',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '1.1',
      'elk.layered.spacing.edgeNodeBetweenLayers': '3',
      'elk.spacing.nodeNode': '4',
      'elk.spacing.edgeEdge': '1.1',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
    },
    children: boxes.map(asNode),
    edges,
  }
  const laid: ElkNode = await new ELK().layout(root)
  const marks: PaperMark[] = []
  for (const w of wires)
    marks.push(
      ...wireMarks(
        w.lead,
        laid.edges?.find((e) => e.id === w.lead.id),
      ),
    )
  for (const node of laid.children ?? []) {
    const box = boxes.find((b) => b.id === node.id)
    if (box) marks.push(...boxMarks(box, node))
  }
  const widthMm = (laid.width ?? 100) + 2 * MARGIN_MM
  const heightMm = (laid.height ?? 100) + 2 * MARGIN_MM + FOOT_MM
  const words = `${board.name}: ${wires.length} wires to pins and channels. Ground and supplies are named where they are.`
  marks.push({
    is: 'text',
    x: MARGIN_MM,
    y: heightMm - MARGIN_MM / 2,
    text: words,
    sizeMm: 3,
    anchor: 'start',
  })
  return { widthMm, heightMm, marks }
}

const wireMarks = (lead: LeadRow, edge: ElkExtendedEdge | undefined): PaperMark[] => {
  const section = edge?.sections?.[0]
  if (!section) return []
  const points = [section.startPoint, ...(section.bendPoints ?? []), section.endPoint].map(
    (p): [number, number] => [p.x + MARGIN_MM, p.y + MARGIN_MM],
  )
  const [first, last] = [points[0], points.at(-1)]
  if (!first || !last) return []
  const number = (at: readonly [number, number], anchor: 'start' | 'end', dx: number): PaperMark => ({
    ...{ is: 'text', x: at[0] + dx, y: at[1] - 0.5, text: `${lead.number}`, sizeMm: 1.7, anchor },
  })
  return [
    { is: 'line', points, colour: wireInk(lead.colour), widthMm: 0.4 },
    number(first, 'start', 0.8),
    number(last, 'end', -0.8),
  ]
}

const boxMarks = (box: Box, node: ElkNode): PaperMark[] => {
  const x = (node.x ?? 0) + MARGIN_MM
  const y = (node.y ?? 0) + MARGIN_MM
  const { width = 0, height = 0 } = node
  const marks: PaperMark[] = [
    { is: 'box', x, y, width, height },
    { is: 'text', x: x + width / 2, y: y + 2.9, text: box.title, sizeMm: 2.5, anchor: 'middle', bold: true },
    { is: 'text', x: x + width / 2, y: y + 5.4, text: box.subtitle, sizeMm: 1.8, anchor: 'middle' },
  ]
  for (const port of node.ports ?? []) {
    const known = box.ports.find((p) => p.id === port.id)
    if (!known) continue
    const px = x + (port.x ?? 0)
    const py = y + (port.y ?? 0)
    const west = known.side === 'WEST'
    marks.push({
      is: 'text',
      x: px + (west ? 1 : -1),
      y: py + 0.7,
      text: known.words,
      sizeMm: TEXT_MM,
      anchor: west ? 'start' : 'end',
    })
  }
  return marks
}
