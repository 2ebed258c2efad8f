import { isWired } from '../harness/wiring'
import { type Action, type ControlSettings, takesInput } from '../rig/binding'
import type { BindingRow } from '../rig/rows'
import { overflows } from '../signal/digits'
import type { Compiled } from '../signal/expression/compile'
import { formatNumber, formatValue } from '../signal/format'
import { isCut } from '../signal/text-page'
import type { Millis } from '../units-of-measure'
import type { ControlProgram, Program } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import { beyondLimits } from './controls'
import type { Engine } from './engine'
import { evaluate, holds } from './evaluate'
import type { Station } from './mistakes'
import {
  type ControlState,
  type ControlUnit,
  type IndicatorUnit,
  isReached,
  positionLabel,
  seatsOf,
  standing,
} from './unit'
import { pinWords, shownWords, standsWords } from './words'

export interface TraceStation {
  readonly at: Station
  /** What stands here: a pin, a board, an expression, a variable. */
  readonly what: string
  /** Its value now, in words and with its unit; empty where there is none. */
  readonly value: string
}

export interface TraceRow {
  readonly bindingId: string | null
  readonly aspectId: string
  readonly direction: 'to simulator' | 'from simulator'
  readonly stations: readonly TraceStation[]
  /** The station the value does not get past, and why, in words. */
  readonly stop: { readonly at: Station; readonly reason: string } | null
  /** Something that does not stop the path but that the builder should know. */
  readonly notice: string | null
  /** When something last passed along the whole row. */
  readonly passedAt: Millis | null
}

/** The way a value takes, station by station. */
const order: Record<TraceRow['direction'], readonly Station[]> = {
  'to simulator': ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'],
  'from simulator': ['simulator', 'shaping', 'onlyWhile', 'board', 'pin', 'part'],
}

/** How long a second step that was seen is spoken of. */
const SECOND_STEP_MS = 60_000

type Stops = Partial<Record<Station, string>>
type Seat = ControlUnit | IndicatorUnit

const firstStop = (direction: TraceRow['direction'], stops: Stops): TraceRow['stop'] => {
  for (const at of order[direction]) {
    const reason = stops[at]
    if (reason) return { at, reason }
  }
  return null
}

/** Every path of a part, stage by stage, with the value at each and the place and reason where it stops. */
export const trace = (engine: Engine, partId: string): TraceRow[] => {
  const unit = engine.units.get(partId)
  if (!unit) return []
  const rows = unit.programs.flatMap((program): TraceRow[] => {
    if (program.kind === 'control') {
      for (const control of unit.controls) {
        const state = control.bindings.find((b) => b.program === program)
        if (state) return [controlRow(engine, control, state)]
      }
      return [strayRow(program)]
    }
    const indicator = unit.indicators.find((i) => i.programs.includes(program))
    return indicator ? [indicatorRow(engine, indicator, program)] : [strayRow(program)]
  })
  const bound = new Set(rows.map((r) => r.aspectId))
  const unbound = seatsOf(unit).filter((s) => !bound.has(s.aspect.id))
  return [...rows, ...unbound.map((seat) => unboundRow(engine, seat))]
}

/** A binding that fits no aspect of its part, as after an exchange of the part. */
const strayRow = (program: Program): TraceRow => {
  const direction = program.kind === 'control' ? 'to simulator' : 'from simulator'
  return {
    bindingId: program.row.id,
    aspectId: program.settings.aspect ?? '',
    direction,
    stations: [],
    stop: { at: 'part', reason: program.mistakes[0]?.message ?? 'it fits nothing of this part' },
    notice: null,
    passedAt: null,
  }
}

const unboundRow = (engine: Engine, seat: Seat): TraceRow => {
  const direction = seat.is === 'indicator' ? 'from simulator' : 'to simulator'
  const read = seat.is === 'control' && engine.isRead(seat.ownSlot)
  const stops: Stops = { ...wiringStops(engine, seat), ...(read ? {} : { simulator: 'nothing bound yet' }) }
  return {
    bindingId: null,
    aspectId: seat.aspect.id,
    direction,
    stations: [
      ...partStations(engine, seat),
      { at: 'simulator', what: read ? 'read by other paths' : 'choose', value: '' },
    ],
    stop: firstStop(direction, stops),
    notice: null,
    passedAt: null,
  }
}

const partStations = (engine: Engine, seat: Seat): TraceStation[] => {
  const { wiring, unit, aspect } = seat
  const board = isWired(wiring) ? engine.rig.board[wiring.boardId] : undefined
  const pins = isWired(wiring) ? wiring.pins : []
  const several = (unit.kind?.aspects.length ?? 0) > 1
  return [
    {
      at: 'part',
      what: several ? aspect.id : (unit.kind?.name ?? unit.part.kind),
      value: partWords(seat),
    },
    {
      at: 'pin',
      what: pins.join(' ') || 'none',
      value: seat.is === 'control' ? pinWords(seat, pins) : '',
    },
    {
      at: 'board',
      what: board?.name ?? 'none',
      value: seat.board?.up ? (seat.slot >= 0 ? 'loaded' : 'not loaded') : board ? 'away' : '',
    },
  ]
}

const partWords = (seat: Seat): string => {
  if (seat.is === 'control') return standsWords(seat)
  return isReached(seat) ? shownWords(seat.aspect, seat.unit.part.settings, seat.shown) : 'not reached'
}

const wiringStops = (engine: Engine, seat: Seat): Stops => {
  const { wiring } = seat
  if (!isWired(wiring)) return { pin: wiring.message }
  const board = engine.rig.board[wiring.boardId]
  if (!seat.board?.up) return { board: `${board?.name ?? 'the board'} is not connected` }
  if (seat.slot < 0) return { board: 'board not loaded: it does not hold this part yet' }
  if (seat.is === 'control' && seat.contradiction)
    return { pin: 'these contacts cannot be closed together: look at the wiring' }
  return {}
}

/** Adds what is wrong with the binding itself; a stop that is already there stays. */
const withMistakes = (stops: Stops, program: Program): Stops => {
  const all: Stops = { ...stops }
  if (!program.row.on) all.shaping ??= 'binding is off'
  for (const m of program.mistakes) all[m.station] ??= m.message
  return all
}

const layerWords = (engine: Engine, program: Program): string | null => {
  if (!program.layer) return null
  const set = engine.layers.sets.get(program.layer.setId)
  return `${set?.set.name ?? 'layer'} ${program.layer.name}`
}

const onlyWhileStation = (engine: Engine, program: Program): TraceStation => {
  const conditions = [layerWords(engine, program), program.settings.onlyWhile].filter((w) => w !== null)
  return {
    at: 'onlyWhile',
    what: conditions.join(' and ') || 'always',
    value: program.onlyWhile ? valuesIn(engine, program.onlyWhile) : '',
  }
}

/** What a slot stands for, and its value, in words: a variable, a control, a layer set. */
const slotWords = (engine: Engine, slot: number): { name: string; value: string } => {
  const info = engine.variables.index.catalogue.variables[slot]
  if (info) return { name: info.name, value: formatValue(engine.variables.read(slot), info) }
  for (const state of engine.layers.sets.values())
    if (state.slot === slot) return { name: state.set.name, value: engine.layers.nameOf(state) ?? 'none' }
  for (const unit of engine.units.values()) {
    const control = unit.controls.find((c) => c.ownSlot === slot)
    if (control) return { name: unit.part.name, value: standsWords(control) }
  }
  return { name: 'a value', value: '–' }
}

/** That something an expression cannot do without is absent, or null. */
const absentWords = (engine: Engine, compiled: Compiled | null): string | null => {
  const absent = compiled?.needs.find((slot) => !engine.variables.present(slot))
  return absent === undefined ? null : `${slotWords(engine, absent).name} is absent`
}

/** The values an expression reads, with their names when there are several. */
const valuesIn = (engine: Engine, compiled: Compiled): string => {
  const say = (slot: number) => {
    const { name, value } = slotWords(engine, slot)
    return compiled.reads.length > 1 ? `${name.split('.').at(-1) ?? ''} ${value}` : value
  }
  return compiled.reads.slice(0, 3).map(say).join(', ')
}

const conditionStop = (engine: Engine, program: Program): string | undefined => {
  const { layer, onlyWhile } = program
  if (layer && !engine.layers.isActive(layer)) {
    const set = engine.layers.sets.get(layer.setId)
    const active = set ? engine.layers.nameOf(set) : null
    return `layer is ${active ?? 'none'}, this is for ${layer.name}`
  }
  if (!onlyWhile || holds(onlyWhile)) return undefined
  return (
    absentWords(engine, onlyWhile) ??
    `only while ${program.settings.onlyWhile}: it is ${valuesIn(engine, onlyWhile)}`
  )
}

const indicatorRow = (engine: Engine, indicator: IndicatorUnit, program: IndicatorProgram): TraceRow => {
  const stops = withMistakes(wiringStops(engine, indicator), program)
  const info = engine.variables.index.catalogue.variables[program.source]
  const value = program.source >= 0 ? engine.variables.read(program.source) : null
  if (!engine.simulatorUp) stops.simulator ??= 'the simulator is gone; the value is old'
  else if (engine.quiet) stops.simulator ??= 'the value is stale: the simulator has sent nothing for a while'
  else if (program.source >= 0 && value === null) stops.simulator ??= 'variable absent on this craft'
  const state = engine.showing(program)
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  else if (
    state === null &&
    program.mistakes.length === 0 &&
    program.row.on &&
    (value !== null || program.source < 0)
  ) {
    stops.shaping ??=
      absentWords(engine, program.show) ?? 'no value comes out: it divides by zero, or no case fits'
  }
  if (!engine.armed) stops.board ??= 'held, so the indicator rests'
  const above = indicator.programs.slice(0, indicator.programs.indexOf(program))
  if (above.some((p) => engine.showing(p) !== null)) stops.board ??= 'overridden by the binding above'
  if (indicator.exercise) stops.board = 'being exercised by hand'
  const stop = firstStop('from simulator', stops)
  const input = info ? formatValue(value, info) : '–'
  return {
    bindingId: program.row.id,
    aspectId: indicator.aspect.id,
    direction: 'from simulator',
    stations: [
      ...partStations(engine, indicator),
      onlyWhileStation(engine, program),
      {
        at: 'shaping',
        what: showWords(program),
        value:
          state === null
            ? ''
            : `${info ? `${input} → ` : ''}${shownWords(indicator.aspect, indicator.unit.part.settings, state)}`,
      },
      { at: 'simulator', what: program.settings.variable ?? sourceless(program), value: info ? input : '' },
    ],
    stop,
    notice: overflowWords(program, indicator, state),
    passedAt: stop === null && indicator.changedAt > 0 ? indicator.changedAt : null,
  }
}

const showWords = ({ settings }: IndicatorProgram): string =>
  settings.kind === 'text' ? `${settings.lines.length} lines` : settings.show

/** What takes no input reads its variables in its lines or its shaping. */
const sourceless = ({ settings }: IndicatorProgram): string =>
  takesInput(settings) ? 'choose' : settings.kind === 'text' ? 'as its lines say' : 'as its shaping says'

const overflowWords = (
  program: IndicatorProgram,
  indicator: IndicatorUnit,
  state: string | number | null,
): string | null => {
  if (typeof state !== 'string') return null
  const { aspect } = indicator
  if (aspect.kind === 'digits' && overflows(state)) return `the value does not fit ${aspect.digits} digits`
  if (aspect.kind === 'text' && program.settings.kind === 'text') {
    const cut = state.split('\n').findIndex(isCut)
    if (cut >= 0) return `line ${cut + 1} is longer than ${aspect.columns} characters`
  }
  return null
}

const controlRow = (engine: Engine, control: ControlUnit, state: ControlState): TraceRow => {
  const { program, last } = state
  const stops = withMistakes(wiringStops(engine, control), program)
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  if (state.looping) stops.onlyWhile = 'this runs in a loop: what it sets changes its own condition'
  const input = inputNow(control, state)
  const value = program.value && input !== null ? evaluate(program.value, input) : null
  const sound = program.mistakes.length === 0
  if (program.value && input !== null && value === null && sound)
    stops.shaping ??= absentWords(engine, program.value) ?? 'no value for this position'
  for (const target of program.targets) {
    const limit = beyondLimits(engine.variables, target, value)
    if (limit) stops.simulator ??= `value beyond limits: ${limit}`
    if (target.do !== 'set' && 'variable' in target && !engine.variables.present(target.variable))
      stops.simulator ??= 'variable absent on this craft'
  }
  if (!engine.simulatorUp) stops.simulator ??= 'the simulator is gone'
  if (!engine.armed) stops.simulator ??= 'held, so actions do not flow'
  if (last?.problem) stops.simulator ??= `the simulator refused it: ${last.problem}`
  const stop = firstStop('to simulator', stops)
  return {
    bindingId: program.row.id,
    aspectId: control.aspect.id,
    direction: 'to simulator',
    stations: [
      ...partStations(engine, control),
      {
        at: 'shaping',
        what: program.settings.value ?? whenWords(control, program.row),
        value: value === null ? '' : `${standsWords(control)} → ${wordsFor(engine, program, value)}`,
      },
      onlyWhileStation(engine, program),
      simulatorStation(engine, program),
    ],
    stop,
    notice: secondStepWords(engine, state),
    passedAt: stop === null ? (last?.at ?? null) : null,
  }
}

const secondStepWords = (engine: Engine, { doubled }: ControlState): string | null =>
  doubled && engine.time - doubled.at < SECOND_STEP_MS
    ? `a second step was seen that Clavik did not send: ${doubled.words}. Look for the simulator's own assignment of this control.`
    : null

/** What a control's shaping would take in if it were operated now. */
const inputNow = (control: ControlUnit, { program, gesture }: ControlState): number | string | null => {
  if (control.aspect.kind === 'encoder') return 1
  if (program.settings.when === 'hold') return Number(gesture.pressed)
  return standing(control)
}

const whenSaid: Record<ControlSettings['when'], string> = {
  press: 'on press',
  release: 'on release',
  short: 'on a short press',
  long: 'on a long press',
  double: 'on a double press',
  repeat: 'again and again while held',
  hold: 'as long as it is held',
  position: 'on change',
  turn: 'on every click',
  clockwise: 'on every click clockwise',
  counter: 'on every click counterclockwise',
  move: 'as it moves',
}

const whenWords = (control: ControlUnit, { settings }: BindingRow): string => {
  if (settings.kind !== 'control') return ''
  const { position, when, coarse } = settings
  const at = position === undefined ? '' : `, ${positionLabel(control.unit.part, position)}`
  const fast = coarse ? `, ×${coarse.times} when fast` : ''
  return `${whenSaid[when]}${at}${fast}`
}

const wordsFor = (engine: Engine, program: ControlProgram, value: number | string): string => {
  const target = program.targets[0]
  const info = target?.do === 'set' ? engine.variables.index.catalogue.variables[target.variable] : undefined
  if (info) return formatValue(value, info)
  return typeof value === 'number' ? formatNumber(value) : value
}

/** An action in a word or two, behind what it acts on. */
const actionWords = (action: Action): string => {
  switch (action.do) {
    case 'toggle':
      return ' over'
    case 'step':
      return ` ${action.by > 0 ? '+' : '−'}${Math.abs(action.by)}`
    case 'choose':
      return action.by > 0 ? ' next' : ' previous'
    default:
      return ''
  }
}

const simulatorStation = (engine: Engine, program: ControlProgram): TraceStation => {
  const { actions } = program.settings
  const doing = actions.filter((a) => a.do !== 'pause')
  const action = doing[0]
  if (!action) return { at: 'simulator', what: 'choose', value: '' }
  const then = doing.length > 1 ? `, then ${doing.length - 1} more` : ''
  if (action.do === 'event') return { at: 'simulator', what: `${action.event}${then}`, value: 'event' }
  if (action.do === 'layer') {
    const set = engine.layers.sets.get(action.set)
    const to = engine.rig.layer[action.to]?.name ?? action.to
    const active = set ? (engine.layers.nameOf(set) ?? '') : ''
    return { at: 'simulator', what: `${set?.set.name ?? 'layer'}: ${to}${then}`, value: active }
  }
  const slot = engine.variables.index.variable.get(action.variable)
  const info = slot === undefined ? undefined : engine.variables.index.catalogue.variables[slot]
  return {
    at: 'simulator',
    what: `${action.variable}${actionWords(action)}${then}`,
    value: slot === undefined || !info ? '' : formatValue(engine.variables.read(slot), info),
  }
}
