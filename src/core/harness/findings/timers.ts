import type { BoardModel, BoardTimer } from '../../catalogue/board-model'
import { pinOf } from '../../catalogue/boards'
import { modelOf } from '../../catalogue/own-board'
import { kindOf } from '../../catalogue/own-kind'
import { leadsOnBoard, type Rig, rowsOf } from '../../rig/rig'
import type { LeadRow } from '../../rig/rows'
import { beginningOf, terminalAt } from '../leads'
import { asSentence, type HarnessFinding, moveCure, wireWords } from './finding'

const isServo = (rig: Rig, lead: LeadRow): boolean => {
  const part = rig.part[lead.partId ?? '']
  const kind = part && kindOf(part)
  return (
    kind?.aspects.some(
      (a) => a.kind === 'needle' && a.drive === 'servo' && a.terminals.includes(lead.terminal),
    ) ?? false
  )
}

/** The timer that what ends on a pin has for itself. */
const takenBy = (rig: Rig, model: BoardModel, lead: LeadRow): BoardTimer | undefined => {
  if (isServo(rig, lead)) return model.timers?.find((t) => t.servos)
  const needs = terminalAt(rig, beginningOf(lead))?.needs
  if (needs === undefined || needs === 'pwm') return undefined
  return model.timers?.find((t) => t.pins.includes(lead.pin ?? ''))
}

/** Two that need the same timer for themselves, which the board refuses; and lamps that lose their brightness to one. */
export const timers = (rig: Rig): HarnessFinding[] =>
  rowsOf(rig, 'board').flatMap((board) => {
    const model = modelOf(board)
    if (!model?.timers) return []
    const leads = leadsOnBoard(rig, board.id).filter((l) => l.pin !== null && pinOf(model, l.pin))
    const users = new Map<BoardTimer, LeadRow>()
    const found: HarnessFinding[] = []
    const uses = new Set(leads.flatMap((l) => takenBy(rig, model, l) ?? []))
    const taken = new Set([...uses].flatMap((t) => t.pins))
    const say = (lead: LeadRow, other: LeadRow, words: string) =>
      found.push({
        id: `timer ${lead.id}`,
        kind: 'timer',
        words,
        place: {
          partIds: [lead, other].flatMap((l) => l.partId ?? []),
          leadIds: [lead.id, other.id],
          boardId: board.id,
        },
        cure: moveCure(rig, lead, board.id, (pin) => !taken.has(pin)),
      })
    for (const lead of leads) {
      const timer = takenBy(rig, model, lead)
      const other = timer && users.get(timer)
      if (timer && !other) users.set(timer, lead)
      // Servos have one between them, and so has what hangs on one pin.
      if (!timer || !other || other.pin === lead.pin || (isServo(rig, lead) && isServo(rig, other))) continue
      // What can go elsewhere goes: a servo's timer is the same on every pin.
      const [moves, stays] = isServo(rig, lead) ? [other, lead] : [lead, other]
      say(
        moves,
        stays,
        `${asSentence(wireWords(rig, lead))} and ${wireWords(rig, other)} both need ${timer.name} of ${board.name} for themselves: the board takes neither.`,
      )
    }
    for (const lead of leads) {
      const terminal = terminalAt(rig, beginningOf(lead))
      const isLamp = terminal?.role === 'lamp-plus' || terminal?.role === 'lamp-minus'
      if (!isLamp && terminal?.needs !== 'pwm') continue
      const timer = model.timers.find((t) => t.pins.includes(lead.pin ?? ''))
      const other = timer && users.get(timer)
      if (timer && other && other.pin !== lead.pin)
        say(
          lead,
          other,
          `${asSentence(wireWords(rig, lead))} is on ${board.name} ${lead.pin}, whose ${timer.name} ${wireWords(rig, other)} has for itself: it can only be on or off there.`,
        )
    }
    return found
  })
