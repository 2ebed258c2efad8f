import type { Pin, PinAbility } from '../catalogue/board-model'
import { boardModel, pinOf } from '../catalogue/boards'
import { type Aspect, boardTerminals, type PartKind, type Terminal } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { aspectFor } from '../rig/binding'
import { settingsOf } from '../rig/part-settings'
import { bindingsOf, leadsOf, type Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { Slot, SlotRest } from './slot'

/** Why an aspect has no slot on any board, in words for the builder. */
export interface Unwired {
  readonly terminal: string | null
  readonly message: string
}

export type Wiring =
  | { readonly boardId: string; readonly pins: readonly string[]; readonly slot: Slot }
  | Unwired

export const isWired = (w: Wiring): w is Exclude<Wiring, Unwired> => 'slot' in w

interface PinEnd {
  readonly boardId: string
  readonly pin: string
  readonly number: number
}

/** What a pin must be able to do for what ends on it; digital where nothing more is asked. */
export const abilityNeeded: Partial<Record<Terminal['role'], PinAbility>> = {
  contact: 'pull-up',
  wiper: 'analog',
  'two-wire-data': 'two-wire-data',
  'two-wire-clock': 'two-wire-clock',
}

const abilityWords: Partial<Record<PinAbility, string>> = {
  analog: 'cannot measure; an analog pin is needed',
  'two-wire-data': 'is not the data pin of its two-wire bus',
  'two-wire-clock': 'is not the clock pin of its two-wire bus',
}

/** Why a pin will not do for a terminal, or null. */
export const pinObjection = (pin: Pin, role: Terminal['role'] | undefined): string | null => {
  if (pin.taken) return `is taken by the ${pin.taken}`
  const needed = role && abilityNeeded[role]
  if (!needed || pin.abilities.includes(needed)) return null
  return abilityWords[needed] ?? 'has no pull-up'
}

const pinEnd = (rig: Rig, part: PartRow, kind: PartKind, terminalId: string): PinEnd | Unwired => {
  const lead = leadsOf(rig, part.id).find((l) => l.terminal === terminalId)
  const terminal = kind.terminals.find((t) => t.id === terminalId)
  const say = (message: string): Unwired => ({ terminal: terminalId, message })
  if (!lead || lead.boardId === null || lead.pin === null) {
    return say(`terminal “${terminal?.name ?? terminalId}” has no pin`)
  }
  const board = rig.board[lead.boardId]
  const model = board ? boardModel(board.model) : undefined
  if (!board || !model) return say(`board model “${board?.model ?? '?'}” is not known here`)
  const pin = pinOf(model, lead.pin)
  if (!pin) return say(`${board.name} has no pin ${lead.pin}`)
  const objection = pinObjection(pin, terminal?.role)
  if (objection) return say(`${board.name} ${lead.pin} ${objection}`)
  return { boardId: board.id, pin: pin.name, number: pin.number }
}

/** Where an aspect of a part hangs and what its board is to do with it. */
export const wiringOf = (rig: Rig, part: PartRow, aspect: Aspect): Wiring => {
  const kind = partKind(part.kind)
  if (!kind) return { terminal: null, message: `part kind “${part.kind}” is not known here` }
  const ends: PinEnd[] = []
  for (const terminal of boardTerminals(kind, aspect)) {
    const end = pinEnd(rig, part, kind, terminal)
    if ('message' in end) return end
    ends.push(end)
  }
  const first = ends[0]
  if (!first) return { terminal: null, message: 'this part has nothing that is wired to a board' }
  if (ends.some((e) => e.boardId !== first.boardId)) {
    return { terminal: null, message: 'its wires hang on two boards; one board has to see them all' }
  }
  return {
    boardId: first.boardId,
    pins: ends.map((e) => e.pin),
    slot: slotFor(rig, part, aspect, ends.map((e) => e.number) as [number, ...number[]]),
  }
}

/** Every aspect of a part with its wiring; none for a kind that is not known. */
export const wiringsOf = (rig: Rig, part: PartRow): { aspect: Aspect; wiring: Wiring }[] =>
  (partKind(part.kind)?.aspects ?? []).map((aspect) => ({ aspect, wiring: wiringOf(rig, part, aspect) }))

/** Smoothing of a wiper whose part says nothing of it, and of one that is a switch. */
const SMOOTHING = { travel: 1, ladder: 1 } as const

const slotFor = (rig: Rig, part: PartRow, aspect: Aspect, pins: [number, ...number[]]): Slot => {
  const [pin] = pins
  const keep = restOf(rig, part, aspect) === 'keep'
  switch (aspect.kind) {
    case 'positions':
      return aspect.wiper === undefined
        ? { kind: 'contacts', pins, debounceMs: aspect.debounceMs }
        : { kind: 'analog', pin, smoothing: SMOOTHING.ladder }
    case 'encoder':
      return { kind: 'encoder', pins }
    case 'travel': {
      const settings = settingsOf(part.settings, aspect.id, 'travel')
      return { kind: 'analog', pin, smoothing: settings?.smoothing ?? SMOOTHING.travel }
    }
    case 'lamp': {
      const rest = restOf(rig, part, aspect)
      return { kind: 'lamp', pin, rest: keep ? 'keep' : rest === 'lit' ? 255 : 0 }
    }
    case 'digits':
      return { kind: 'digits', pins, driver: aspect.driver, digits: aspect.digits, keep }
    case 'text':
      return { kind: 'text', pins, columns: aspect.columns, rows: aspect.rows, keep }
    case 'needle': {
      const settings = settingsOf(part.settings, aspect.id, 'needle')
      const { drive, travelDeg } = aspect
      const degPerS = Math.min(aspect.degPerS, Math.round(settings?.degPerS ?? aspect.degPerS))
      const rest: SlotRest = keep ? 'keep' : motorTenths(aspect.travelDeg, settings, homeOf(settings))
      return { kind: 'needle', pins, drive, travelDeg, degPerS, rest }
    }
    case 'colour':
      return { kind: 'colour', pin, lamps: aspect.lamps, keep }
  }
}

const restOf = (rig: Rig, part: PartRow, aspect: Aspect): string => {
  const kind = partKind(part.kind)
  for (const { settings } of bindingsOf(rig, part.id)) {
    if (settings.kind !== 'control' && kind && aspectFor(kind.aspects, settings)?.id === aspect.id)
      return settings.rest
  }
  return 'out'
}

interface Dial {
  readonly homeDeg?: number | undefined
  readonly zeroDeg?: number | undefined
  readonly points?: readonly { readonly deg: number }[]
}

/** Where a needle rests without a value: its home, or its first point. */
export const homeOf = (dial: Dial | undefined): number => dial?.homeDeg ?? dial?.points?.[0]?.deg ?? 0

/** An angle on the dial as tenths of a degree from the motor's zero, within its travel. */
export const motorTenths = (travelDeg: number, dial: Dial | undefined, deg: number): number => {
  const zero = dial?.zeroDeg ?? -travelDeg / 2
  return Math.round(Math.min(travelDeg, Math.max(0, deg - zero)) * 10)
}

/** The angle on the dial of so many tenths from the motor's zero. */
export const dialDegrees = (travelDeg: number, dial: Dial | undefined, tenths: number): number =>
  tenths / 10 + (dial?.zeroDeg ?? -travelDeg / 2)
