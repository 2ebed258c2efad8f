import { pinOf } from '../../catalogue/boards'
import { modelOf } from '../../catalogue/own-board'
import { bindingsOf, leadsOf, type Rig, rowsOf } from '../../rig/rig'
import { propose } from '../assignment/propose'
import { bareTerminals } from '../bare-terminals'
import { unwiredLines } from '../needed-lines'
import { assignCure, type HarnessFinding } from './finding'

/** Terminals without a wire, of parts that are wired or bound; parts that are only drawn are no finding. */
export const unassigned = (rig: Rig): HarnessFinding[] => [
  ...rowsOf(rig, 'part').flatMap((part): HarnessFinding[] => {
    const leads = leadsOf(rig, part.id)
    if (leads.length === 0 && bindingsOf(rig, part.id).length === 0) return []
    const bare = bareTerminals(rig, part)
    if (bare.length === 0) return []
    return [
      {
        id: `open ${part.id}`,
        kind: 'open',
        words: `“${part.name}”: ${bare.map((t) => `“${t.name}”`).join(', ')} ${bare.length === 1 ? 'has' : 'have'} no wire, so it cannot work yet.`,
        place: { partIds: [part.id], leadIds: [] },
        cure: { ...assignCure(rig, part.id), words: bare.length === 1 ? 'Assign it' : 'Assign them' },
      },
    ]
  }),
  ...rowsOf(rig, 'expander').flatMap((expander): HarnessFinding[] => {
    const bare = unwiredLines(rig, expander)
    if (bare.length === 0) return []
    return [
      {
        id: `open ${expander.id}`,
        kind: 'open',
        words: `${expander.name}: ${bare.map((t) => `“${t.name}”`).join(', ')} ${bare.length === 1 ? 'has' : 'have'} no wire, so nothing on it works.`,
        place: { partIds: [], leadIds: [], expanderId: expander.id, boardId: expander.boardId },
        cure: {
          words: bare.length === 1 ? 'Assign it' : 'Assign them',
          changes: (id) => propose(rig, { partIds: new Set() }, id).changes,
        },
      },
    ]
  }),
]

/** Ribbons whose wires do not lie side by side. */
export const brokenRibbons = (rig: Rig): HarnessFinding[] => {
  const ribbons = new Map<string, ReturnType<typeof leadsOf>[number][]>()
  for (const lead of rowsOf(rig, 'lead')) {
    if (lead.ribbon === null || lead.pin === null || lead.boardId === null) continue
    ribbons.set(lead.ribbon, [...(ribbons.get(lead.ribbon) ?? []), lead])
  }
  return [...ribbons].flatMap(([name, leads]): HarnessFinding[] => {
    if (leads.length < 2 || isUnbroken(rig, leads)) return []
    const partIds = [...new Set(leads.flatMap((l) => l.partId ?? []))]
    return [
      {
        id: `ribbon ${name}`,
        kind: 'ribbon',
        words: `The ribbon “${name}” is broken: its ${leads.length} wires do not end side by side in one row, so no connector fits them.`,
        place: { partIds, leadIds: leads.map((l) => l.id), boardId: leads[0]?.boardId ?? undefined },
        cure: {
          words: 'Lay it side by side',
          changes: (id) => propose(rig, { partIds: new Set(partIds) }, id).changes,
        },
      },
    ]
  })
}

const isUnbroken = (rig: Rig, leads: readonly ReturnType<typeof leadsOf>[number][]): boolean => {
  const boards = new Set(leads.map((l) => l.boardId))
  const model = modelOf(rig.board[leads[0]?.boardId ?? ''])
  if (boards.size !== 1 || !model) return false
  const sorted = [...leads].sort((a, b) => a.number - b.number)
  return model.headers.some((header) => {
    const places = sorted.map((l) => (pinOf(model, l.pin ?? '') ? header.contacts.indexOf(l.pin ?? '') : -1))
    const way = (places[1] ?? 0) - (places[0] ?? 0)
    return (
      Math.abs(way) === 1 && places.every((p, i) => p >= 0 && (i === 0 || p - (places[i - 1] ?? 0) === way))
    )
  })
}
