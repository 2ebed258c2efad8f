import { pinOf, railOf } from '../../catalogue/boards'
import { channelsOf, expanderKind } from '../../catalogue/expanders'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { changeRow } from '../../rig/edit'
import { boardOfLead, leadsOf, leadsOnExpander, type Rig, rowsOf } from '../../rig/rig'
import type { ExpanderRow, LeadRow } from '../../rig/rows'
import { beginningOf, endOfLead, endWords, leadTo, mayShare, terminalAt } from '../leads'
import { channelWords } from '../lines'
import { pinObjection } from '../pin-objection'
import { pwmUsers } from '../pwm-channels'
import { channelObjection, isWired, wiringsOf } from '../wiring'
import { asSentence, assignCure, changed, type HarnessFinding, moveCure, placeOf, wireWords } from './finding'

/** Two wires that end where only one can. */
export const clashes = (rig: Rig): HarnessFinding[] => {
  const first = new Map<string, LeadRow>()
  const found: HarnessFinding[] = []
  for (const lead of rowsOf(rig, 'lead')) {
    if (lead.pin === null && lead.channel === null) continue
    const end = endOfLead(lead)
    const model = end.at === 'contact' ? modelOf(rig.board[end.boardId]) : undefined
    if (end.at === 'contact' && model && railOf(model, end.pin)) continue
    const key = `${lead.boardId} ${lead.pin} ${lead.expanderId} ${lead.channel}`
    const other = first.get(key)
    if (!other) {
      first.set(key, lead)
      continue
    }
    if (mayShare(terminalAt(rig, beginningOf(lead)), terminalAt(rig, beginningOf(other)))) continue
    found.push({
      id: `clash ${lead.id}`,
      kind: 'clash',
      words: `${asSentence(wireWords(rig, other))} and ${wireWords(rig, lead)} both end at ${endWords(rig, end)}; each would be read or driven as the other.`,
      place: {
        ...placeOf(lead),
        partIds: [other, lead].flatMap((l) => l.partId ?? []),
        leadIds: [other.id, lead.id],
      },
      cure: moveCure(rig, lead, boardOfLead(rig, lead) ?? undefined),
    })
  }
  return found
}

/** Wires on pins or channels that cannot do what is asked of them. */
export const unable = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'lead').flatMap((lead) => [...unablePin(rig, lead), ...unableChannel(rig, lead)])

const unablePin = (rig: Rig, lead: LeadRow): HarnessFinding[] => {
  if (lead.boardId === null || lead.pin === null) return []
  const board = rig.board[lead.boardId]
  const model = modelOf(board)
  if (!board || !model) return []
  const terminal = terminalAt(rig, beginningOf(lead))
  const role = terminal?.role
  const isSupply = role === 'plus' || (role === 'lamp-plus' && lead.shared)
  const pin = pinOf(model, lead.pin)
  if (isSupply && railOf(model, lead.pin)) return []
  // Looking for a way out costs more than looking at a wire: it is done for those that need one.
  const say = (kind: 'ability' | 'own pin', words: string): HarnessFinding[] => [
    { id: `${kind} ${lead.id}`, kind, words, place: placeOf(lead), cure: moveCure(rig, lead, board.id) },
  ]
  const what = asSentence(wireWords(rig, lead))
  if (!pin) return say('ability', `${what} ends at ${lead.pin}, which ${board.name} does not have.`)
  if (pin.taken)
    return say(
      'own pin',
      `${what} ends at ${board.name} ${pin.name}, which the board itself uses: ${pin.taken}. The link to the computer would break down, or the part would not answer.`,
    )
  const objection = pinObjection(pin, terminal)
  if (objection === null) return []
  if (role === 'two-wire-data' || role === 'two-wire-clock') {
    const right = model.pins.find((p) => p.abilities.includes(role))
    const words = `${what} is on ${pin.name}; the two-wire ${role === 'two-wire-data' ? 'data' : 'clock'} of this board is fixed to ${right?.name ?? 'no pin at all'}.`
    const end = { at: 'contact', boardId: board.id, pin: right?.name ?? '' } as const
    const cure = right && {
      words: `Move wire ${lead.number} to ${right.name}`,
      changes: (id: () => string) => changed(leadTo(rig, beginningOf(lead), end, id)),
    }
    return [{ id: `two-wire ${lead.id}`, kind: 'two-wire', words, place: placeOf(lead), cure: cure ?? null }]
  }
  return say('ability', `${what}: ${board.name} ${pin.name} ${objection}.`)
}

const unableChannel = (rig: Rig, lead: LeadRow): HarnessFinding[] => {
  const expander = rig.expander[lead.expanderId ?? '']
  const to = expanderKind(expander?.kind ?? '')
  const part = rig.part[lead.partId ?? '']
  const kind = part && kindOf(part)
  const terminal = kind?.terminals.find((t) => t.id === lead.terminal)
  if (!expander || !to || !kind || !terminal || lead.channel === null) return []
  const objection = channelObjection(to, kind, terminal)
  if (objection === null) return []
  return [
    {
      id: `ability ${lead.id}`,
      kind: 'ability',
      words: `${asSentence(wireWords(rig, lead))}: ${channelWords(expander, lead.channel)} ${objection}.`,
      place: placeOf(lead),
      cure: moveCure(rig, lead, expander.boardId),
    },
  ]
}

/** Lamps and servos on two pins that one channel of a timer drives: both would be as bright, or turned as far. */
export const sharedPwm = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'board').flatMap((board) => {
    const found: HarnessFinding[] = []
    for (const [channel, [first, ...more]] of pwmUsers(rig, board.id)) {
      if (!first) continue
      for (const lead of more)
        found.push({
          id: `pwm ${lead.id}`,
          kind: 'pwm',
          words: `${asSentence(wireWords(rig, first))} and ${wireWords(rig, lead)} are on ${board.name} ${first.pin} and ${lead.pin}, which one timer channel drives (${channel}): both would always be alike.`,
          place: {
            partIds: [first, lead].flatMap((l) => l.partId ?? []),
            leadIds: [first.id, lead.id],
            boardId: board.id,
          },
          cure: moveCure(rig, lead, board.id),
        })
    }
    return found
  })

/** Parts one of whose aspects is spread over two boards. */
export const spread = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'part').flatMap((part) => {
    if (!wiringsOf(rig, part).some(({ wiring }) => !isWired(wiring) && wiring.spread)) return []
    return [
      {
        id: `two boards ${part.id}`,
        kind: 'two boards' as const,
        words: `“${part.name}” hangs on two boards; one board has to see all its wires at once.`,
        place: { partIds: [part.id], leadIds: leadsOf(rig, part.id).map((l) => l.id) },
        cure: assignCure(rig, part.id),
      },
    ]
  })

/** More wires on an expander than it has channels. */
export const shortOfChannels = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'expander').flatMap((expander) => {
    const kind = expanderKind(expander.kind)
    if (!kind) return []
    const beyond = leadsOnExpander(rig, expander.id).filter(
      (l) => (l.channel ?? 0) >= channelsOf(kind, expander.chips),
    )
    if (beyond.length === 0) return []
    const highest = Math.max(...beyond.map((l) => l.channel ?? 0))
    const chips = Math.ceil((highest + 1) / kind.channelsPerChip)
    return [
      {
        id: `channels ${expander.id}`,
        kind: 'channels' as const,
        words: `${expander.name} has ${channelsOf(kind, expander.chips)} channels; ${beyond.length} ${beyond.length === 1 ? 'wire ends' : 'wires end'} beyond them.`,
        place: {
          partIds: beyond.flatMap((l) => l.partId ?? []),
          leadIds: beyond.map((l) => l.id),
          expanderId: expander.id,
        },
        cure: chips <= kind.mostChips ? moreChips(expander, chips) : null,
      },
    ]
  })

const moreChips = (expander: ExpanderRow, chips: number) => ({
  words: `Make ${expander.name} a chain of ${chips}`,
  changes: () => changed(changeRow('expander', expander, { ...expander, chips })),
})

/** Boards, expanders and parts that this Clavik does not know: they are kept as they are, and nothing is guessed. */
export const unknowns = (rig: Rig): HarnessFinding[] => [
  ...rowsOf(rig, 'board')
    .filter((b) => !modelOf(b))
    .map((b) => ({
      id: `unknown ${b.id}`,
      kind: 'unknown' as const,
      words: `${b.name} is a board of the model “${b.model}”, which this Clavik does not know. Its wires are kept as they are; it cannot be checked or loaded. Read its board file, or choose another model, under Boards.`,
      place: { partIds: [], leadIds: [], boardId: b.id },
      cure: null,
    })),
  ...rowsOf(rig, 'expander')
    .filter((e) => !expanderKind(e.kind))
    .map((e) => ({
      id: `unknown ${e.id}`,
      kind: 'unknown' as const,
      words: `${e.name} is an expander “${e.kind}”, which this Clavik does not know. Its wires are kept as they are.`,
      place: { partIds: [], leadIds: [], expanderId: e.id },
      cure: null,
    })),
]
