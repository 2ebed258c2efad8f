import { boardModel, pinOf } from '../catalogue/boards'
import { contactTerminals, lampAspect, positionsAspect } from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { bindingsOf, leadsOf, type Rig, rowsOf } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { Millis } from '../units-of-measure'

/** One thing a board does: watch a group of contacts, or drive a lamp. */
export type Slot =
  | { readonly kind: 'contacts'; readonly pins: readonly number[]; readonly debounceMs: Millis }
  /** `rest` is what the board shows by itself when it hears nothing: a level, or 'keep'. */
  | { readonly kind: 'lamp'; readonly pin: number; readonly rest: number | 'keep' }

/** What makes two slots the same thing on the board, whatever their settings. */
export const slotKey = (slot: Slot): string =>
  slot.kind === 'contacts' ? `contacts ${slot.pins.join(' ')}` : `lamp ${slot.pin}`

/** Why a part has no slot on any board, in words for the builder. */
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

const pinEnd = (rig: Rig, part: PartRow, terminal: string): PinEnd | Unwired => {
  const lead = leadsOf(rig, part.id).find((l) => l.terminal === terminal)
  const word = partKind(part.kind)?.terminals.find((t) => t.id === terminal)?.name ?? terminal
  if (!lead || lead.boardId === null || lead.pin === null) {
    return { terminal, message: `terminal “${word}” has no pin` }
  }
  const board = rig.board[lead.boardId]
  const model = board ? boardModel(board.model) : undefined
  if (!board || !model) return { terminal, message: `board model “${board?.model ?? '?'}” is not known here` }
  const pin = pinOf(model, lead.pin)
  if (!pin) return { terminal, message: `${board.name} has no pin ${lead.pin}` }
  if (pin.taken) return { terminal, message: `${board.name} ${lead.pin} is taken by the ${pin.taken}` }
  return { boardId: board.id, pin: pin.name, number: pin.number }
}

/** Where a part hangs and what its board is to do with it. */
export const wiringOf = (rig: Rig, part: PartRow): Wiring => {
  const kind = partKind(part.kind)
  if (!kind) return { terminal: null, message: `part kind “${part.kind}” is not known here` }
  const terminals = positionsAspect(kind) ? contactTerminals(kind) : lampTerminals(part)
  const ends: PinEnd[] = []
  for (const terminal of terminals) {
    const end = pinEnd(rig, part, terminal)
    if ('message' in end) return end
    ends.push(end)
  }
  const first = ends[0]
  if (!first) return { terminal: null, message: 'this part has nothing that is wired to a board' }
  if (ends.some((e) => e.boardId !== first.boardId)) {
    return { terminal: null, message: 'its contacts hang on two boards; one board has to see them all' }
  }
  const pins = ends.map((e) => e.pin)
  const aspect = positionsAspect(kind)
  if (aspect) {
    const slot: Slot = { kind: 'contacts', pins: ends.map((e) => e.number), debounceMs: aspect.debounceMs }
    return { boardId: first.boardId, pins, slot }
  }
  return { boardId: first.boardId, pins, slot: { kind: 'lamp', pin: first.number, rest: restOf(rig, part) } }
}

const lampTerminals = (part: PartRow): string[] => {
  const kind = partKind(part.kind)
  const aspect = kind ? lampAspect(kind) : undefined
  return aspect ? [aspect.terminal] : []
}

const restOf = (rig: Rig, part: PartRow): number | 'keep' => {
  const settings = bindingsOf(rig, part.id)[0]?.settings
  if (settings?.kind !== 'lamp' || settings.rest === 'out') return 0
  return settings.rest === 'lit' ? 255 : 'keep'
}

export interface WantedSlot {
  readonly slot: Slot
  readonly partId: string
}

/** Found once for each version of a rig: rigs are never mutated. */
const wantedOf = new WeakMap<Rig, Map<string, WantedSlot[]>>()

/** What a board should hold: one slot per wired part, in the order of their first pin. */
export const wantedSlots = (rig: Rig, boardId: string): readonly WantedSlot[] => {
  let byBoard = wantedOf.get(rig)
  if (!byBoard) {
    byBoard = new Map()
    for (const part of rowsOf(rig, 'part')) {
      const wiring = wiringOf(rig, part)
      if (!isWired(wiring)) continue
      const list = byBoard.get(wiring.boardId)
      if (list) list.push({ slot: wiring.slot, partId: part.id })
      else byBoard.set(wiring.boardId, [{ slot: wiring.slot, partId: part.id }])
    }
    for (const list of byBoard.values()) list.sort((a, b) => firstPin(a.slot) - firstPin(b.slot))
    wantedOf.set(rig, byBoard)
  }
  return byBoard.get(boardId) ?? []
}

const firstPin = (slot: Slot): number => (slot.kind === 'contacts' ? (slot.pins[0] ?? 0) : slot.pin)

const CONTACTS = 1
const LAMP = 2
const KEEP = 1
/** The version of the bytes below; a board refuses one it does not know. */
export const CONFIGURATION_VERSION = 1

/** A configuration as it travels and as the board keeps it; `docs/board-link.md` gives the layout. */
export const encodeSlots = (slots: readonly Slot[]): Uint8Array => {
  const bytes: number[] = [CONFIGURATION_VERSION, slots.length & 255, slots.length >> 8]
  for (const slot of slots) {
    if (slot.kind === 'contacts') bytes.push(CONTACTS, slot.debounceMs, slot.pins.length, ...slot.pins)
    else bytes.push(LAMP, slot.pin, slot.rest === 'keep' ? 0 : slot.rest, slot.rest === 'keep' ? KEEP : 0)
  }
  return Uint8Array.from(bytes)
}

/** Reads a configuration back, or says what is wrong with it. */
export const decodeSlots = (bytes: Uint8Array): { slots: Slot[] } | { problem: string } => {
  let at = 0
  const next = (): number => bytes[at++] ?? -1
  const version = next()
  if (version !== CONFIGURATION_VERSION) return { problem: `configuration version ${version} is not known` }
  const count = next() + next() * 256
  const slots: Slot[] = []
  for (let i = 0; i < count; i++) {
    const kind = next()
    if (kind === CONTACTS) {
      const debounceMs = next()
      const pins = Array.from({ length: Math.max(0, next()) }, next)
      slots.push({ kind: 'contacts', pins, debounceMs })
    } else if (kind === LAMP) {
      const pin = next()
      const level = next()
      slots.push({ kind: 'lamp', pin, rest: next() === KEEP ? 'keep' : level })
    } else return { problem: `slot ${i} is of kind ${kind}, which is not known` }
    if (at > bytes.length) return { problem: `the configuration ends inside slot ${i}` }
  }
  return { slots }
}

/** FNV-1a, 64 bit, as 16 hexadecimal digits: what two sides compare instead of whole configurations. */
export const fingerprint = (bytes: Uint8Array): string => {
  let hash = 0xcbf29ce484222325n
  for (const byte of bytes) hash = BigInt.asUintN(64, (hash ^ BigInt(byte)) * 0x100000001b3n)
  return hash.toString(16).padStart(16, '0')
}

/** The fingerprint of a board that holds nothing. */
export const BLANK = '0'.repeat(16)

/** The parts whose slot on the board is missing or different from what is drawn. */
export const differingParts = (rig: Rig, boardId: string, loaded: readonly Slot[]): string[] => {
  const held = new Map(loaded.map((s) => [slotKey(s), s]))
  return wantedSlots(rig, boardId)
    .filter(({ slot }) => {
      const there = held.get(slotKey(slot))
      return !there || JSON.stringify(there) !== JSON.stringify(slot)
    })
    .map((w) => w.partId)
}
