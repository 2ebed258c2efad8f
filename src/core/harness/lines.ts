import { pinOf } from '../catalogue/boards'
import type { ExpanderKind } from '../catalogue/expander-kind'
import { channelName, expanderKind } from '../catalogue/expanders'
import { modelOf } from '../catalogue/own-board'
import type { Terminal } from '../catalogue/part-kind'
import { channelPlace } from '../catalogue/place'
import { expandersOf, linesOf, type Rig } from '../rig/rig'
import type { ExpanderRow } from '../rig/rows'
import { boardLines, type Chip } from './chip'
import { pinObjection } from './pin-objection'

/** An expander whose lines all hang on pins that will do, as its board knows it; or why not, in words. */
export type ChipWiring = Chip | { readonly line: string | null; readonly message: string }

export const isChip = (c: ChipWiring): c is Chip => 'pins' in c

/** The pin a line hangs on, by the board's own number, or why it hangs on none. */
const linePin = (rig: Rig, expander: ExpanderRow, line: Terminal): number | string => {
  const lead = linesOf(rig, expander.id).find((l) => l.terminal === line.id)
  if (!lead || lead.boardId === null || lead.pin === null)
    return `line “${line.name}” of ${expander.name} has no pin`
  if (lead.boardId !== expander.boardId)
    return `line “${line.name}” of ${expander.name} hangs on another board`
  const board = rig.board[lead.boardId]
  const model = modelOf(board)
  if (!board || !model) return `board model “${board?.model ?? '?'}” is not known here`
  const pin = pinOf(model, lead.pin)
  if (!pin) return `${board.name} has no pin ${lead.pin}`
  const objection = pinObjection(pin, line)
  return objection ? `${board.name} ${lead.pin} ${objection}` : pin.number
}

const chipOf = (rig: Rig, expander: ExpanderRow, kind: ExpanderKind): ChipWiring => {
  const pins: number[] = []
  for (const line of boardLines(kind)) {
    const pin = linePin(rig, expander, line)
    if (typeof pin === 'string') return { line: line.id, message: pin }
    pins.push(pin)
  }
  const address = kind.addresses ? kind.addresses.first + expander.jumpers : 0
  return { kind: kind.id, pins, chips: expander.chips, address }
}

interface BoardChips {
  readonly chips: readonly Chip[]
  /** By expander: its place among the board's chips, or why it has none. */
  readonly places: ReadonlyMap<string, number | string>
}

const known = new WeakMap<Rig, Map<string, BoardChips>>()

const boardChips = (rig: Rig, boardId: string): BoardChips => {
  let byBoard = known.get(rig)
  if (!byBoard) {
    byBoard = new Map()
    known.set(rig, byBoard)
  }
  let found = byBoard.get(boardId)
  if (!found) {
    const chips: Chip[] = []
    const places = new Map<string, number | string>()
    for (const expander of expandersOf(rig, boardId)) {
      const kind = expanderKind(expander.kind)
      if (kind?.follows) continue
      const chip = kind ? chipOf(rig, expander, kind) : null
      if (chip === null) places.set(expander.id, `expander “${expander.kind}” is not known here`)
      else if (isChip(chip)) places.set(expander.id, chips.push(chip) - 1)
      else places.set(expander.id, chip.message)
    }
    found = { chips, places }
    byBoard.set(boardId, found)
  }
  return found
}

/** The wired expanders of a board in their order, as the board knows them. */
export const chipsOf = (rig: Rig, boardId: string): readonly Chip[] => boardChips(rig, boardId).chips

/** Where a channel is, as it travels in a configuration, or why it cannot be reached. */
export const placeOfChannel = (rig: Rig, expander: ExpanderRow, channel: number): number | string => {
  const kind = expanderKind(expander.kind)
  if (kind?.follows) {
    const line = boardLines(kind)[channel]
    return line ? linePin(rig, expander, line) : `${expander.name} has no channel ${channel}`
  }
  const chip = boardChips(rig, expander.boardId).places.get(expander.id)
  return typeof chip === 'number' ? channelPlace(chip, channel) : (chip ?? `${expander.name} is gone`)
}

/** What a channel is called on drawings: the expander and the channel. */
export const channelWords = (expander: ExpanderRow, channel: number): string => {
  const kind = expanderKind(expander.kind)
  return `${expander.name} ${kind ? channelName(kind, channel) : channel}`
}
