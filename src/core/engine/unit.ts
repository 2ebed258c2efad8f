import {
  contactTerminals,
  type PartKind,
  type PositionsAspect,
  positionsAspect,
} from '../catalogue/part-kind'
import { partKind } from '../catalogue/parts'
import { isWired, type Wiring, wiringOf } from '../harness/configuration'
import { bindingsOf, type Rig } from '../rig/rig'
import type { PartRow } from '../rig/rows'
import type { CatalogueIndex } from '../rig/simulator-catalogue'
import type { Values } from '../signal/expression/compile'
import type { Millis } from '../units-of-measure'
import type { BoardState } from './board-state'
import { type ControlProgram, compileBinding, type LampProgram } from './compile-binding'

/** What came of the last time a control was operated. */
export interface Firing {
  readonly at: Millis
  readonly input: string
  readonly value: number | string | null
  /** Null while the simulator has not answered, then '' or what it objected to. */
  problem: string | null
}

/** How far a gesture has come. */
export interface Gesture {
  /** Counts edges and callings-off: what was begun under another number is over. */
  token: number
  sequence: number
  pressedAt: Millis
  /** When a short press ended that a second one may follow. */
  releasedAt: Millis
  /** Whether the press now on is the second of a double one. */
  second: boolean
}

export interface ControlState {
  readonly program: ControlProgram
  readonly gesture: Gesture
  last: Firing | null
  /** Inputs that the simulator has acknowledged since the binding last changed. */
  readonly acknowledged: Set<string>
}

export interface LampUnit {
  readonly unit: Unit
  readonly programs: readonly LampProgram[]
  /** The frame in which it was last looked at, so that it is looked at once. */
  seen: number
  /** The state last handed to the board's queue, or -1 when the board has been told nothing. */
  shown: number
  /** Whether `shown` came from a live value, and when it last changed. */
  live: boolean
  changedAt: Millis
  exercise: { readonly packed: number; readonly until: Millis } | null
  provenLit: boolean
  provenOut: boolean
}

/** One part as the engine runs it: its wiring, its bindings, its present state. */
export interface Unit {
  readonly part: PartRow
  readonly kind: PartKind | undefined
  readonly wiring: Wiring
  readonly aspect: PositionsAspect | undefined
  readonly terminals: readonly string[]
  /** Where the part is in what its board holds, or -1 when the board does not hold it. */
  slot: number
  /** The board it hangs on, as the engine knows it. */
  board: BoardState | null
  /** Closed contacts as last reported, or null before the first report. */
  bits: number | null
  /** The last position that its contacts told of. */
  position: string | null
  /** Whether the contacts closed now fit no position. */
  contradiction: boolean
  readonly controls: readonly ControlState[]
  readonly lamp: LampUnit | null
}

const freshGesture = (): Gesture => ({
  token: 0,
  sequence: 0,
  pressedAt: 0,
  releasedAt: Number.NEGATIVE_INFINITY,
  second: false,
})

/** Compiles one part with its bindings. State of an earlier version of the same part is carried over. */
export const makeUnit = (
  rig: Rig,
  part: PartRow,
  index: CatalogueIndex,
  values: Values,
  earlier: Unit | undefined,
): Unit => {
  const kind = partKind(part.kind)
  const wiring = wiringOf(rig, part)
  const programs = bindingsOf(rig, part.id).map((row) => compileBinding(rig, row, index, values))
  const sameWiring =
    earlier !== undefined &&
    earlier.part.kind === part.kind &&
    isWired(wiring) &&
    isWired(earlier.wiring) &&
    earlier.wiring.boardId === wiring.boardId &&
    JSON.stringify(earlier.wiring.slot) === JSON.stringify(wiring.slot)
  const controls = programs.flatMap((p): ControlState[] => {
    if (p.kind !== 'control') return []
    const before = earlier?.controls.find((c) => c.program.row === p.row)
    return [
      {
        program: p,
        gesture: freshGesture(),
        last: before?.last ?? null,
        acknowledged: before?.acknowledged ?? new Set(),
      },
    ]
  })
  const unit: Unit = {
    part,
    kind,
    wiring,
    aspect: kind ? positionsAspect(kind) : undefined,
    terminals: kind ? contactTerminals(kind) : [],
    slot: -1,
    board: null,
    bits: sameWiring ? earlier.bits : null,
    position: sameWiring ? earlier.position : null,
    contradiction: sameWiring ? earlier.contradiction : false,
    controls,
    lamp: null,
  }
  const lampPrograms = programs.filter((p) => p.kind === 'lamp')
  const isLamp = kind?.aspects.some((a) => a.kind === 'lamp') ?? false
  if (!isLamp) return unit
  const before = earlier?.lamp
  const unchanged =
    before?.programs.length === lampPrograms.length &&
    before.programs.every((p, i) => p.row === lampPrograms[i]?.row)
  const withLamp = unit as { lamp: LampUnit | null }
  withLamp.lamp = {
    unit,
    programs: lampPrograms,
    seen: -1,
    shown: sameWiring ? (before?.shown ?? -1) : -1,
    live: false,
    changedAt: before?.changedAt ?? 0,
    exercise: before?.exercise ?? null,
    provenLit: unchanged && (before?.provenLit ?? false),
    provenOut: unchanged && (before?.provenOut ?? false),
  }
  return unit
}

/** The position in which just these contacts are closed, or null when the contacts contradict each other. */
export const positionOf = (
  aspect: PositionsAspect,
  terminals: readonly string[],
  bits: number,
): string | null => {
  const closed = terminals.filter((_, i) => (bits >> i) & 1)
  return (
    aspect.positions.find(
      (p) => p.closes.length === closed.length && p.closes.every((t) => closed.includes(t)),
    )?.id ?? null
  )
}

/** What a position is called on this part. */
export const positionLabel = (part: PartRow, position: string): string =>
  part.settings.labels?.[position] ?? position
