import { indicatorKind, ownSettings } from '../aspects/aspects'
import { cameWithDevice } from '../harness/given'
import { formatNumber, formatValue } from '../signal/format'
import type { State } from '../signal/state'
import type { Seat } from './boards'
import type { ControlProgram, Program } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import { isLeft } from './controls/decisions'
import { beyondLimits } from './controls/limits'
import type { Engine } from './engine'
import { evaluate } from './evaluate'
import { absentWords } from './slot-words'
import {
  momentWords,
  onlyWhileStation,
  partStations,
  showWords,
  simulatorStation,
  sourceless,
  whenWords,
} from './stations'
import { conditionStop, firstStop, type Stop, type Stops, stop, wiringStops, withMistakes } from './stops'
import type { TraceRow } from './trace-row'
import {
  type ControlState,
  type ControlUnit,
  type IndicatorUnit,
  type PartUnit,
  seatsOf,
  standing,
} from './units'
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
  return inOrder(engine, unit, [...rows, ...unbound.map((seat) => unboundRow(engine, seat))])
}

/** The order in which gestures are told, whichever was bound first. */
const momentOrder = [
  'position',
  'press',
  'release',
  'short',
  'double',
  'long',
  'repeat',
  'hold',
  'turn',
  'clockwise',
  'counter',
  'move',
]

/** A fixed order: aspect by aspect as its part has them, gesture by gesture, layer by layer, then as they were made. */
const inOrder = (engine: Engine, unit: PartUnit, rows: readonly TraceRow[]): TraceRow[] => {
  const aspects = unit.kind?.aspects.map((a) => a.id) ?? []
  const place = (row: TraceRow): number[] => {
    const program = unit.programs.find((p) => p.row.id === row.bindingId)
    const when = program?.kind === 'control' ? momentOrder.indexOf(program.settings.when) : 0
    const layer = program?.layer ? (engine.rig.layer[program.layer.layerId]?.position ?? 0) : -1
    return [aspects.indexOf(row.aspectId), when, layer]
  }
  const placed = rows.map((row) => ({ row, at: place(row) }))
  const order = (a: readonly number[], b: readonly number[]) =>
    a.map((x, i) => x - (b[i] ?? 0)).find((d) => d !== 0) ?? 0
  return placed.sort((a, b) => order(a.at, b.at)).map((p) => p.row)
}

/** That a source is not there without which a binding does nothing: by its name where there are several. */
const awayWords = (engine: Engine, program: Program): string | null => {
  const missing = engine.missing(program.needs)
  if (!missing) return null
  const name = engine.variables.places.length > 1 ? missing.name : 'the simulator'
  return missing.on ? `${name} is away` : `${name} is switched off`
}

const noValue = (absent: string | null, otherwise: string): Stop =>
  absent === null ? stop('no value', otherwise) : stop('absent', absent)

/** A binding that fits no aspect of its part, as after an exchange of the part. */
const strayRow = (program: Program): TraceRow => {
  const direction = program.kind === 'control' ? 'to simulator' : 'from simulator'
  return {
    bindingId: program.row.id,
    aspectId: program.settings.aspect ?? '',
    direction,
    stations: [],
    stop: { at: 'part', ...stop('stray', program.mistakes[0]?.message ?? 'it fits nothing of this part') },
    when: '',
    notice: null,
    passedAt: null,
  }
}

const leftStop = stop('left', 'left to the simulator, which reads it by itself')

const unboundRow = (engine: Engine, seat: Seat): TraceRow => {
  const direction = seat.is === 'indicator' ? 'from simulator' : 'to simulator'
  const senses = seat.aspect.kind === 'positions' ? seat.aspect.senses : undefined
  const read = seat.is === 'control' && engine.isRead(seat.ownSlot)
  const stops: Stops = {
    ...wiringStops(engine, seat),
    ...(read || senses !== undefined
      ? {}
      : seat.is === 'control' && isLeft(seat)
        ? { part: leftStop }
        : { simulator: stop('unbound', 'nothing bound yet') }),
  }
  return {
    bindingId: null,
    aspectId: seat.aspect.id,
    direction,
    when: '',
    stations: [
      ...partStations(engine, seat),
      {
        at: 'simulator',
        what: senses !== undefined ? `zero of the ${senses}` : read ? 'read by other paths' : 'choose',
        value: '',
      },
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
  const away = awayWords(engine, program)
  if (away) stops.simulator ??= stop('gone', program.source < 0 ? away : `${away}; the value is old`)
  else if (engine.isStale(program.needs))
    stops.simulator ??= stop('stale', 'the value is stale: the simulator has sent nothing for a while')
  else if (program.source >= 0 && value === null)
    stops.simulator ??= stop('absent', 'variable absent on this craft')
  const state = engine.showing(program)
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  else if (
    state === null &&
    program.mistakes.length === 0 &&
    program.row.on &&
    (value !== null || program.source < 0)
  ) {
    stops.shaping ??= noValue(
      absentWords(engine, program.show),
      'no value comes out: it divides by zero, or no case fits',
    )
  }
  if (!engine.armed) stops.board ??= stop('held', 'held, so the indicator rests')
  const above = indicator.programs.slice(0, indicator.programs.indexOf(program))
  if (above.some((p) => engine.showing(p) !== null))
    stops.board ??= stop('overridden', 'overridden by the binding above')
  if (indicator.exercise) stops.board = stop('exercised', 'being exercised by hand')
  const stopped = firstStop('from simulator', stops)
  const input = info ? formatValue(value, info) : '–'
  return {
    bindingId: program.row.id,
    aspectId: indicator.aspect.id,
    direction: 'from simulator',
    when: '',
    stations: [
      ...partStations(engine, indicator),
      onlyWhileStation(engine, program),
      {
        at: 'shaping',
        what: `${showWords(program)}${litWords(indicator, program)}`,
        value:
          state === null
            ? ''
            : `${info ? `${input} → ` : ''}${shownWords(indicator.aspect, indicator.unit.part.settings, state)}`,
      },
      { at: 'simulator', what: program.settings.variable ?? sourceless(program), value: info ? input : '' },
    ],
    stop: stopped,
    notice: overflowWords(program, indicator, state),
    passedAt: stopped === null && indicator.changedAt > 0 ? indicator.changedAt : null,
  }
}

/** What comes after shaping: the scale of a needle, the part's own curve, its group's dimmer. */
const litWords = ({ aspect, unit }: IndicatorUnit, program: IndicatorProgram): string => {
  const own = ownSettings(unit.part.settings, aspect)
  const points = own?.kind === 'needle' ? own.points.length : 0
  const level = program.dims?.()
  return [
    ...(points > 0 ? [`, by ${points} needle points`] : []),
    ...(indicatorKind(aspect.kind).isCurved?.(own) ? [', by its own curve'] : []),
    ...(typeof level === 'number' ? [`, dimmed to ${Math.round(level * 100)} %`] : []),
  ].join('')
}

const overflowWords = (
  program: IndicatorProgram,
  { aspect }: IndicatorUnit,
  state: State | null,
): string | null =>
  state === null ? null : (indicatorKind(aspect.kind).hides?.(aspect, program.settings, state) ?? null)

const controlRow = (engine: Engine, control: ControlUnit, state: ControlState): TraceRow => {
  const { program, last } = state
  const stops = withMistakes(wiringStops(engine, control), program)
  if (isLeft(control)) stops.part = leftStop
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  if (state.looping)
    stops.onlyWhile = stop('loop', 'this runs in a loop: what it sets changes its own condition')
  const input = inputNow(control, state)
  const value = program.value && input !== null ? evaluate(program.value, input) : null
  const sound = program.mistakes.length === 0
  if (program.value && input !== null && value === null && sound)
    stops.shaping ??= noValue(absentWords(engine, program.value), 'no value for this position')
  for (const target of program.targets) {
    const limit = beyondLimits(engine.variables, target, value)
    if (limit) stops.simulator ??= stop('beyond', `value beyond limits: ${limit}`)
    if (target.do !== 'set' && 'variable' in target && !engine.variables.present(target.variable))
      stops.simulator ??= stop('absent', 'variable absent on this craft')
  }
  const away = awayWords(engine, program)
  if (away) stops.simulator ??= stop('gone', away)
  if (!engine.armed) stops.simulator ??= stop('held', 'held, so actions do not flow')
  if (last?.problem) stops.simulator ??= stop('refused', `the simulator refused it: ${last.problem}`)
  const stopped = firstStop('to simulator', stops)
  return {
    bindingId: program.row.id,
    aspectId: control.aspect.id,
    direction: 'to simulator',
    when: momentWords(program.row),
    stations: [
      ...partStations(engine, control),
      {
        at: 'shaping',
        what: `${bandWords(control)}${program.settings.value ?? whenWords(control, program.row)}`,
        value: value === null ? '' : `${standsWords(control)} → ${wordsFor(engine, program, value)}`,
      },
      onlyWhileStation(engine, program),
      simulatorStation(engine, program),
    ],
    stop: stopped,
    notice: secondStepWords(engine, state),
    passedAt: stopped === null ? (last?.at ?? null) : null,
  }
}

/** What comes before shaping: a lever's own ends, its twin, its bands. */
const bandWords = ({ settings }: ControlUnit): string => {
  if (settings?.kind !== 'travel') return ''
  const bands = settings.bands?.length ?? 0
  const words = [
    ...(settings.ends ? ['between its ends'] : []),
    ...(settings.match ? ['matched with its twin'] : []),
    ...(bands > 0 ? [bands === 1 ? 'by its band' : `by ${bands} bands`] : []),
  ]
  return words.length === 0 ? '' : `${words.join(', ')}: `
}

const secondStepWords = (engine: Engine, { doubled, control }: ControlState): string | null => {
  if (!doubled || engine.time - doubled.at >= SECOND_STEP_MS) return null
  const seen = `a second step was seen that Clavik did not send: ${doubled.words}.`
  return cameWithDevice(engine.rig, control.unit.part.id)
    ? `${seen} The simulator reads this controller as well: take its own assignment off there, let Clavik alone read the controller, or leave this control to the simulator.`
    : `${seen} Look for the simulator's own assignment of this control.`
}

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
