import { overflows } from '../signal/digits'
import { formatNumber, formatValue } from '../signal/format'
import { isCut } from '../signal/text-page'
import type { Seat } from './boards'
import type { ControlProgram, Program } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import { beyondLimits } from './controls/limits'
import type { Engine } from './engine'
import { evaluate } from './evaluate'
import { absentWords } from './slot-words'
import {
  onlyWhileStation,
  partStations,
  showWords,
  simulatorStation,
  sourceless,
  whenWords,
} from './stations'
import { conditionStop, firstStop, type Stops, wiringStops, withMistakes } from './stops'
import type { TraceRow } from './trace-row'
import { type ControlState, type ControlUnit, type IndicatorUnit, seatsOf, standing } from './unit'
import { shownWords, standsWords } from './words'

/** How long a second step that was seen is spoken of. */
const SECOND_STEP_MS = 60_000

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

const wordsFor = (engine: Engine, program: ControlProgram, value: number | string): string => {
  const target = program.targets[0]
  const info = target?.do === 'set' ? engine.variables.index.catalogue.variables[target.variable] : undefined
  if (info) return formatValue(value, info)
  return typeof value === 'number' ? formatNumber(value) : value
}
