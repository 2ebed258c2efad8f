import type { Hangs } from '../aspects/aspect-kind'
import { aspectKind, boardTerminals, ownSettings } from '../aspects/aspects'
import { type MotorLeads, motorLeads } from '../aspects/needle'
import { pinOf } from '../catalogue/boards'
import type { ChannelAbility, ExpanderKind } from '../catalogue/expander-kind'
import { channelsOf, expanderKind } from '../catalogue/expanders'
import { modelOf } from '../catalogue/own-board'
import {
  type Aspect,
  isIndicator,
  type NeedleDrive,
  type PartKind,
  type Terminal,
} from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { channelOf, type Place } from '../catalogue/place'
import { aspectFor } from '../rig/binding'
import { bindingsOf, leadsOf, type Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import { channelWords, chipsOf, placeOfChannel } from './lines'
import { pinObjection } from './pin-objection'
import { type Slot, slotKey } from './slot'

/** Why an aspect has no slot on any board, in words for the builder. */
export interface Unwired {
  readonly terminal: string | null
  readonly message: string
  /** Each wire ends well, but on several boards. */
  readonly spread?: true
}

export type Wiring =
  | {
      readonly boardId: string
      /** Pins and channels as they are called on drawings. */
      readonly pins: readonly string[]
      readonly slot: Slot
      /** What makes it the same thing on the board. */
      readonly key: string
    }
  | Unwired

export const isWired = (w: Wiring): w is Exclude<Wiring, Unwired> => 'slot' in w

interface End {
  readonly boardId: string
  /** As it is called on drawings. */
  readonly name: string
  readonly place: Place
  /** The lamp hangs between a supply and this end. */
  readonly sinks: boolean
}

const isEnd = (e: End | Unwired): e is End => 'place' in e

/** A frequency comes from a timer of the board itself. */
const needleNeed: Record<NeedleDrive, ChannelAbility | null> = {
  'four-wire': 'coil',
  servo: 'servo',
  frequency: null,
  // To a chip it is a lamp that shines more or less.
  voltage: 'lamp',
}

/** What may hang on a channel, of a terminal of this part; null for what only a pin will do. */
export const channelNeed = (kind: PartKind, terminal: Terminal): ChannelAbility | null => {
  switch (terminal.role) {
    case 'contact':
      return 'contact'
    case 'wiper':
      return 'wiper'
    case 'lamp-plus':
    case 'lamp-minus':
      return 'lamp'
    case 'drive': {
      const aspect = kind.aspects.find((a) => isIndicator(a) && boardTerminals(kind, a).includes(terminal.id))
      if (aspect?.kind === 'needle') return needleNeed[aspect.drive]
      // A TM1637 answers on its data line; a channel goes one way.
      const answers = aspect?.kind === 'digits' && aspect.driver === 'TM1637'
      return aspect === undefined || answers ? null : 'line'
    }
    case 'two-wire-data':
    case 'two-wire-clock':
      return 'bus'
    default:
      return null
  }
}

const needWords: Record<ChannelAbility, string> = {
  contact: 'reads no contacts',
  wiper: 'measures nothing',
  lamp: 'lights no lamps',
  servo: 'gives no pulses for servos',
  coil: 'drives no gauge motors',
  line: 'carries no lines of displays',
  bus: 'is no part of a two-wire bus',
}

/** Why a channel will not do for a terminal of a part, or null. */
export const channelObjection = (to: ExpanderKind, kind: PartKind, terminal: Terminal): string | null => {
  const need = channelNeed(kind, terminal)
  if (need === null) return 'is no place for it; it needs a pin of its board'
  if (!to.abilities.includes(need)) return needWords[need]
  if (terminal.role === 'lamp-plus' && to.sinks)
    return 'takes current in: the lamp’s minus belongs here, its plus on the supply'
  if (terminal.role === 'lamp-minus' && !to.sinks)
    return 'gives current: the lamp’s plus belongs here, its minus on ground'
  return null
}

const endOf = (rig: Rig, part: PartRow, kind: PartKind, terminalId: string): End | Unwired => {
  const lead = leadsOf(rig, part.id).find((l) => l.terminal === terminalId)
  const terminal = kind.terminals.find((t) => t.id === terminalId)
  const say = (message: string): Unwired => ({ terminal: terminalId, message })
  if (lead && terminal && lead.expanderId !== null && lead.channel !== null)
    return channelEnd(rig, kind, terminal, lead.expanderId, lead.channel)
  if (!lead || lead.boardId === null || lead.pin === null) {
    return say(`terminal “${terminal?.name ?? terminalId}” has no pin`)
  }
  const board = rig.board[lead.boardId]
  const model = modelOf(board)
  if (!board || !model) return say(`board model “${board?.model ?? '?'}” is not known here`)
  const pin = pinOf(model, lead.pin)
  if (!pin) return say(`${board.name} has no pin ${lead.pin}`)
  const objection = pinObjection(pin, terminal)
  if (objection) return say(`${board.name} ${lead.pin} ${objection}`)
  return { boardId: board.id, name: pin.name, place: pin.number, sinks: terminal?.role === 'lamp-minus' }
}

const channelEnd = (
  rig: Rig,
  kind: PartKind,
  terminal: Terminal,
  expanderId: string,
  channel: number,
): End | Unwired => {
  const say = (message: string): Unwired => ({ terminal: terminal.id, message })
  const expander = rig.expander[expanderId]
  const to = expander ? expanderKind(expander.kind) : undefined
  if (!expander || !to) return say(`expander “${expander?.kind ?? '?'}” is not known here`)
  if (channel >= channelsOf(to, expander.chips)) return say(`${expander.name} has no channel ${channel}`)
  const objection = channelObjection(to, kind, terminal)
  const name = channelWords(expander, channel)
  if (objection) return say(`${name} ${objection}`)
  const place = placeOfChannel(rig, expander, channel)
  if (typeof place === 'string') return say(place)
  // What follows a pin turns it round itself; to the board it is a pin like any other.
  return { boardId: expander.boardId, name, place, sinks: to.sinks === true && to.follows !== true }
}

/** The terminals through which a board sees or drives an aspect, as it is wired: a lamp may be driven at its minus. */
export const drivenTerminals = (
  rig: Rig,
  part: PartRow,
  kind: PartKind,
  aspect: Aspect,
): readonly string[] => {
  if (aspect.kind !== 'lamp') return boardTerminals(kind, aspect)
  const minus = kind.terminals.find((t) => t.role === 'lamp-minus')
  const leads = leadsOf(rig, part.id)
  const isDriven = (id: string | undefined) => {
    const lead = leads.find((l) => l.terminal === id)
    return lead !== undefined && (lead.channel !== null || (lead.pin !== null && !lead.shared))
  }
  return minus && isDriven(minus.id) && !isDriven(aspect.terminal) ? [minus.id] : [aspect.terminal]
}

/** Where an aspect of a part hangs and what its board is to do with it. */
export const wiringOf = (rig: Rig, part: PartRow, aspect: Aspect): Wiring => {
  const kind = partKind(part.kind)
  if (!kind) return { terminal: null, message: `part kind “${part.kind}” is not known here` }
  const ends: End[] = []
  for (const terminal of drivenTerminals(rig, part, kind, aspect)) {
    const end = endOf(rig, part, kind, terminal)
    if (!isEnd(end)) return end
    ends.push(end)
  }
  const [first] = ends
  if (!first) return { terminal: null, message: 'this part has nothing that is wired to a board' }
  if (ends.some((e) => e.boardId !== first.boardId)) {
    const message = 'its wires hang on two boards; one board has to see them all'
    return { terminal: null, message, spread: true }
  }
  const slot = slotFor(rig, part, aspect, ends as [End, ...End[]])
  const key = slotKey(slot, chipsOf(rig, first.boardId))
  return { boardId: first.boardId, pins: ends.map((e) => e.name), slot, key }
}

/** Every aspect of a part with its wiring; none for a kind that is not known. */
export const wiringsOf = (rig: Rig, part: PartRow): { aspect: Aspect; wiring: Wiring }[] =>
  (partKind(part.kind)?.aspects ?? []).map((aspect) => ({ aspect, wiring: wiringOf(rig, part, aspect) }))

const slotFor = (rig: Rig, part: PartRow, aspect: Aspect, ends: [End, ...End[]]): Slot => {
  const [first, ...others] = ends
  const hangs: Hangs = {
    places: [first.place, ...others.map((e) => e.place)],
    sinks: first.sinks,
    rest: restOf(rig, part, aspect),
    address: addressOf(part) ?? 0,
  }
  const own = ownSettings(part.settings, aspect)
  return aspectKind(aspect).slot(aspect as never, hangs, own as never) as Slot
}

const restOf = (rig: Rig, part: PartRow, aspect: Aspect): string => {
  const kind = partKind(part.kind)
  for (const { settings } of bindingsOf(rig, part.id)) {
    if (settings.kind !== 'control' && kind && aspectFor(kind.aspects, settings)?.id === aspect.id)
      return settings.rest
  }
  return 'out'
}

/** The address of a part on the two-wire bus, as its jumpers choose it; null for one that is not on a bus. */
export const addressOf = (part: PartRow): number | null => {
  const addresses = partKind(part.kind)?.addresses
  return addresses ? addresses.first + (part.settings.jumpers ?? addresses.asMade) : null
}

/**
 * What slips of soldering a motor's leads can be cured in settings, where it hangs: a driver chip knows only which way is
 * forwards; coils that are mixed at its outputs have to be exchanged there.
 */
export const leadsCuredOn = (rig: Rig, part: PartRow, aspect: Aspect): readonly MotorLeads[] => {
  const wiring = wiringOf(rig, part, aspect)
  const [first = 0] = isWired(wiring) && 'pins' in wiring.slot ? wiring.slot.pins : []
  return channelOf(first) ? ['turned'] : motorLeads.options
}
