import type { Presence, Stands } from '../aspects/aspect-kind'
import {
  type AspectSettings,
  boardTerminals,
  controlKind,
  indicatorKind,
  ownSettings,
} from '../aspects/aspects'
import {
  type ControlAspect,
  type EncoderAspect,
  type IndicatorAspect,
  isControl,
  type PartKind,
} from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { isWired, type Wiring, wiringOf } from '../harness/wiring'
import { aspectFor } from '../rig/binding'
import { bindingsInForce } from '../rig/craft-sets'
import type { Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import type { Values } from '../signal/expression/compile'
import type { State } from '../signal/state'
import type { Millis } from '../units-of-measure'
import type { BoardState } from './board-state'
import { type ControlProgram, compileBinding, type Program } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import type { Exercise } from './exercise'
import { type OwnSlots, partKey, standsAt } from './scope'
import { travelOutput } from './travel'

/** What came of the last time a control was operated. */
export interface Firing {
  readonly at: Millis
  readonly input: string
  readonly value: number | string | null
  /** Null while the simulator has not answered, then '' or what was objected to first. */
  problem: string | null
  /** Requests that are not answered yet. */
  open: number
  /** Whether all its actions have been told, the last pause included. */
  told: boolean
}

/** How far a gesture has come. */
export interface Gesture {
  /** The binding it belongs to now: an edit of another part makes a new one of the same row. */
  state: ControlState
  /** Whether its binding is new, so that where its control stands means nothing to it yet. */
  fresh: boolean
  /** Counts edges and callings-off: what was begun under another number is over. */
  token: number
  sequence: number
  pressed: boolean
  /** Whether its layer was active when the press began: a press stays in the layer that it began in. */
  mine: boolean
  /** Whether it was pressed already when it was first seen, so that nothing has begun. */
  found: boolean
  pressedAt: Millis
  /** When a short press ended that a second one may follow. */
  releasedAt: Millis
  /** Whether the press now on is the second of a double one. */
  second: boolean
  /** Whether something is held on by it. */
  holding: boolean
  /** How often it has acted since it was pressed, and whether there was nothing left to do. */
  times: number
  atEnd: boolean
}

export interface ControlState {
  readonly program: ControlProgram
  readonly control: ControlUnit
  readonly gesture: Gesture
  last: Firing | null
  /** When a second step was seen that was not sent from here, and what it did. */
  doubled: { readonly at: Millis; readonly words: string } | null
  /** Whether what it holds on can switch itself off and on again by way of its own condition; then it does nothing. */
  looping: boolean
  /** Inputs that the simulator has acknowledged since the binding last changed. */
  readonly acknowledged: Set<string>
}

/** A place on a board: where a part's aspect hangs. */
interface Hanging {
  readonly unit: PartUnit
  readonly wiring: Wiring
  /** Where it is in what its board holds, or -1 when the board does not hold it. */
  slot: number
  /** The board it hangs on, as the engine knows it. */
  board: BoardState | null
}

export interface Turning {
  changes: number
  changedAt: Millis
  clicks: number
  clickedAt: Millis
  rate: number
  before: number
}

const stillKnob = (): Turning => ({
  changes: 0,
  changedAt: Number.NEGATIVE_INFINITY,
  clicks: 0,
  clickedAt: Number.NEGATIVE_INFINITY,
  rate: 0,
  before: 0,
})

export interface ControlUnit extends Hanging {
  readonly is: 'control'
  readonly aspect: ControlAspect
  readonly terminals: readonly string[]
  /** How this one works, as the part's settings say. */
  readonly settings: AspectSettings | undefined
  /** As last reported: closed contacts, an encoder's count, a level. Null before the first report. */
  raw: number | null
  /** The last position that its contacts told of. */
  position: string | null
  /** Whether the contacts closed now fit no position. */
  contradiction: boolean
  /** The position it has come to but not yet rested in, and when it came. */
  settling: { readonly position: string; readonly since: Millis } | null
  /** What its travel gives, after its bands. */
  output: number | null
  /** Contact changes since the last whole click and when the last came; clicks, when the last came, how fast they come. */
  readonly turning: Turning
  /** Where expressions read what it stands at. */
  readonly ownSlot: number
  readonly bindings: readonly ControlState[]
}

export interface IndicatorUnit extends Hanging {
  readonly is: 'indicator'
  readonly aspect: IndicatorAspect
  readonly presence: Presence
  /** What it shows when it has no live value; null to stay as it was. */
  readonly resting: State | null
  readonly programs: readonly IndicatorProgram[]
  /** The first of them, and the rest where there are more: most have one, and every frame asks for it. */
  readonly first: IndicatorProgram | null
  readonly others: readonly IndicatorProgram[] | null
  /** The frame in which it was last looked at, so that it is looked at once. */
  seen: number
  /** The round of telling others in which it was last said to have changed. */
  notedIn: number
  /** The state last handed to the board's queue, or -1 when the board has been told nothing. */
  shown: State
  /** Whether `shown` came from a live value, and when it last changed. */
  live: boolean
  changedAt: Millis
  exercise: { readonly how: Exercise; readonly since: Millis; readonly until: Millis } | null
  /** States seen live since the binding last changed; two that differ prove it. */
  provenBy: State | null
  proven: boolean
}

/** One part as the engine runs it: each of its aspects with its wiring, bindings and present state. */
export interface PartUnit {
  readonly part: PartRow
  readonly kind: PartKind | undefined
  readonly controls: readonly ControlUnit[]
  readonly indicators: readonly IndicatorUnit[]
  /** Its bindings in order, compiled. */
  readonly programs: readonly Program[]
}

export const seatsOf = (unit: PartUnit): readonly (ControlUnit | IndicatorUnit)[] => [
  ...unit.controls,
  ...unit.indicators,
]

const freshGesture = (state: ControlState): Gesture => ({
  state,
  fresh: true,
  token: 0,
  sequence: 0,
  pressed: false,
  mine: true,
  found: false,
  pressedAt: 0,
  releasedAt: Number.NEGATIVE_INFINITY,
  second: false,
  holding: false,
  times: 0,
  atEnd: false,
})

const sameWiring = (a: Wiring, b: Wiring): boolean =>
  isWired(a) &&
  isWired(b) &&
  a.boardId === b.boardId &&
  a.key === b.key &&
  JSON.stringify(a.slot) === JSON.stringify(b.slot)

/** What a part is compiled against. */
interface CompileContext {
  readonly rig: Rig
  /** The craft set that holds, or null. */
  readonly craftSet: string | null
  readonly index: CatalogueIndex
  readonly values: Values
  readonly slots: OwnSlots
}

/** Compiles one part with its bindings. State of an earlier version of the same part is carried over. */
export const makeUnit = (around: CompileContext, part: PartRow, earlier: PartUnit | undefined): PartUnit => {
  const { rig, index, values, slots } = around
  const kind = partKind(part.kind)
  const aspects = kind?.aspects ?? []
  const rows = bindingsInForce(rig, part.id, around.craftSet)
  const programs = rows.map((row) => compileBinding(rig, row, index, values, slots))
  const of = (aspectId: string) => programs.filter((p) => aspectFor(aspects, p.row.settings)?.id === aspectId)
  const unit: PartUnit = { part, kind, controls: [], indicators: [], programs }
  const before = earlier?.part.kind === part.kind ? earlier : undefined
  for (const aspect of aspects) {
    const seat = { unit, wiring: wiringOf(rig, part, aspect), slot: -1, board: null }
    if (isControl(aspect)) {
      const was = before?.controls.find((c) => c.aspect.id === aspect.id)
      const terminals = kind ? boardTerminals(kind, aspect) : []
      const made = makeControl(seat, aspect, terminals, of(aspect.id), was, slots)
      ;(unit.controls as ControlUnit[]).push(made)
    } else {
      const was = before?.indicators.find((i) => i.aspect.id === aspect.id)
      ;(unit.indicators as IndicatorUnit[]).push(makeIndicator(seat, aspect, of(aspect.id), was))
    }
  }
  return unit
}

const makeControl = (
  seat: Hanging,
  aspect: ControlAspect,
  terminals: readonly string[],
  programs: readonly Program[],
  was: ControlUnit | undefined,
  slots: OwnSlots,
): ControlUnit => {
  const before = was && sameWiring(was.wiring, seat.wiring) ? was : undefined
  const { part } = seat.unit
  const isText = standsAt(part, aspect).is === 'text'
  const settings = part.settings.aspects?.[aspect.id]
  const raw = before?.raw ?? null
  const control: ControlUnit = {
    unit: seat.unit,
    wiring: seat.wiring,
    slot: seat.slot,
    board: seat.board,
    is: 'control',
    aspect,
    terminals,
    settings,
    raw,
    position: before?.position ?? null,
    contradiction: before?.contradiction ?? false,
    settling: before?.settling ?? null,
    output: aspect.kind === 'travel' && raw !== null ? travelOutput(settings, raw) : null,
    turning: before?.turning ?? stillKnob(),
    ownSlot: slots.slot(partKey(part.id, aspect.id), isText),
    bindings: [],
  }
  for (const program of programs) {
    if (program.kind !== 'control') continue
    const earlier = was?.bindings.find((b) => b.program.row === program.row)
    const state = {
      program,
      control,
      last: earlier?.last ?? null,
      doubled: earlier?.doubled ?? null,
      looping: false,
      acknowledged: earlier?.acknowledged ?? new Set<string>(),
    } as { -readonly [K in keyof ControlState]: ControlState[K] }
    // What a finger has begun goes on where neither binding nor wire has changed.
    state.gesture = before && earlier ? earlier.gesture : freshGesture(state)
    state.gesture.state = state
    ;(control.bindings as ControlState[]).push(state)
  }
  return control
}

const makeIndicator = (
  seat: Hanging,
  aspect: IndicatorAspect,
  programs: readonly Program[],
  was: IndicatorUnit | undefined,
): IndicatorUnit => {
  const own = programs.filter((p): p is IndicatorProgram => p.kind === 'indicator')
  const unchanged = was?.programs.length === own.length && was.programs.every((p, i) => p.row === own[i]?.row)
  const presence = indicatorKind(aspect.kind).presence(aspect, ownSettings(seat.unit.part.settings, aspect))
  const rest = own[0]?.settings.rest ?? 'out'
  // Written out, not spread: objects made by spreading are looked up many times slower, and every frame looks here.
  return {
    seen: -1,
    notedIn: 0,
    shown: was && sameWiring(was.wiring, seat.wiring) ? was.shown : -1,
    first: own[0] ?? null,
    others: own.length > 1 ? own.slice(1) : null,
    live: false,
    slot: seat.slot,
    board: seat.board,
    is: 'indicator',
    aspect,
    unit: seat.unit,
    wiring: seat.wiring,
    programs: own,
    presence,
    resting: rest === 'keep' ? null : (presence.rest(rest) ?? 0),
    changedAt: was?.changedAt ?? 0,
    exercise: was?.exercise ?? null,
    provenBy: unchanged ? (was?.provenBy ?? null) : null,
    proven: unchanged && (was?.proven ?? false),
  }
}

/** Whether what an aspect says or shows goes between its board and here. */
export const isReached = (seat: ControlUnit | IndicatorUnit): boolean =>
  seat.slot >= 0 && seat.board?.up === true

/** How many contact changes make a click of a knob, and which way is clockwise. */
export const clickOf = (
  aspect: EncoderAspect,
  settings: AspectSettings | undefined,
): { per: 1 | 2 | 4; sign: 1 | -1 } => {
  const own = settings?.kind === 'encoder' ? settings : undefined
  return { per: own?.changesPerClick ?? aspect.changesPerClick, sign: own?.reverse ? -1 : 1 }
}

/** What a position is called on this part. */
export const positionLabel = (part: PartRow, position: string): string =>
  part.settings.labels?.[position] ?? position

/** What a control says of itself. */
export const standsOf = (control: ControlUnit): Stands => ({
  raw: control.raw,
  position: control.position,
  contradiction: control.contradiction,
  output: control.output,
  clicks: control.turning.clicks,
  label: (position) => positionLabel(control.unit.part, position),
})

/** What a control stands at: yes or no for a button, a position's id, or what its travel gives. */
export const standing = (control: ControlUnit): number | string | null =>
  controlKind(control.aspect.kind).value(control.aspect, standsOf(control))
