import { isWired } from '../harness/configuration'
import type { Action, ControlSettings } from '../rig/binding'
import type { BindingRow } from '../rig/rows'
import type { Compiled } from '../signal/expression/compile'
import { formatNumber, formatValue } from '../signal/format'
import { lampWords } from '../signal/lamp-state'
import type { Millis } from '../units-of-measure'
import type { ControlProgram, LampProgram, Program, Station } from './compile-binding'
import { beyondLimits, inputOf } from './controls'
import type { Engine } from './engine'
import { evaluate, holds } from './evaluate'
import { type ControlState, positionLabel, type Unit } from './unit'

export interface TraceStation {
  readonly at: Station
  /** What stands here: a pin, a board, an expression, a variable. */
  readonly what: string
  /** Its value now, in words and with its unit; empty where there is none. */
  readonly value: string
}

export interface TraceRow {
  readonly bindingId: string | null
  readonly direction: 'to simulator' | 'from simulator'
  readonly stations: readonly TraceStation[]
  /** The station the value does not get past, and why, in words. */
  readonly stop: { readonly at: Station; readonly reason: string } | null
  /** When something last passed along the whole row. */
  readonly passedAt: Millis | null
}

/** The way a value takes, station by station. */
const order: Record<TraceRow['direction'], readonly Station[]> = {
  'to simulator': ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'],
  'from simulator': ['simulator', 'shaping', 'onlyWhile', 'board', 'pin', 'part'],
}

type Stops = Partial<Record<Station, string>>

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
  const rows: TraceRow[] = unit.controls.map((state) => controlRow(engine, unit, state))
  for (const [i, program] of (unit.lamp?.programs ?? []).entries())
    rows.push(lampRow(engine, unit, program, i))
  return rows.length > 0 ? rows : [unboundRow(engine, unit)]
}

const unboundRow = (engine: Engine, unit: Unit): TraceRow => {
  const direction = unit.lamp ? 'from simulator' : 'to simulator'
  const stops: Stops = { ...wiringStops(engine, unit), simulator: 'nothing bound yet' }
  return {
    bindingId: null,
    direction,
    stations: [...partStations(engine, unit), { at: 'simulator', what: 'choose', value: '' }],
    stop: firstStop(direction, stops),
    passedAt: null,
  }
}

const partStations = (engine: Engine, unit: Unit): TraceStation[] => {
  const { wiring } = unit
  const board = isWired(wiring) ? engine.rig.board[wiring.boardId] : undefined
  const state = isWired(wiring) ? engine.boards.get(wiring.boardId) : undefined
  const pins = isWired(wiring) ? wiring.pins : []
  return [
    { at: 'part', what: unit.kind?.name ?? unit.part.kind, value: partWords(engine, unit) },
    { at: 'pin', what: pins.join(' ') || 'none', value: pinWords(unit, pins) },
    {
      at: 'board',
      what: board?.name ?? 'none',
      value: state?.up ? (unit.slot >= 0 ? 'loaded' : 'not loaded') : board ? 'away' : '',
    },
  ]
}

const partWords = (engine: Engine, unit: Unit): string => {
  if (unit.lamp) return lampReached(engine, unit) ? lampWords(Math.max(0, unit.lamp.shown)) : 'not reached'
  if (unit.bits === null) return 'not heard yet'
  return unit.contradiction || unit.position === null
    ? 'contradiction'
    : positionLabel(unit.part, unit.position)
}

const lampReached = (engine: Engine, unit: Unit): boolean =>
  isWired(unit.wiring) && unit.slot >= 0 && engine.boards.get(unit.wiring.boardId)?.up === true

/** Contacts pull their pin low against the board's pull-up. */
const pinWords = (unit: Unit, pins: readonly string[]): string => {
  const { bits } = unit
  if (unit.lamp || bits === null) return ''
  const low = pins.filter((_, i) => (bits >> i) & 1)
  if (pins.length === 1) return low.length === 1 ? 'low' : 'high'
  return low.length > 0 ? `${low.join(' ')} low` : 'all high'
}

const wiringStops = (engine: Engine, unit: Unit): Stops => {
  const { wiring } = unit
  if (!isWired(wiring)) return { pin: wiring.message }
  const board = engine.rig.board[wiring.boardId]
  const state = engine.boards.get(wiring.boardId)
  if (!state?.up) return { board: `${board?.name ?? 'the board'} is not connected` }
  if (unit.slot < 0) return { board: 'board not loaded: it does not hold this part yet' }
  if (unit.contradiction) {
    return { pin: 'these contacts cannot be closed together: look at the wiring' }
  }
  return {}
}

/** Adds what is wrong with the binding itself; a stop that is already there stays. */
const withMistakes = (stops: Stops, program: Program): Stops => {
  const all: Stops = { ...stops }
  if (!program.row.on) all.shaping ??= 'binding is off'
  for (const m of program.mistakes) all[m.station] ??= m.message
  return all
}

const onlyWhileStation = (engine: Engine, program: Program): TraceStation => ({
  at: 'onlyWhile',
  what: program.settings.onlyWhile ?? 'always',
  value: program.onlyWhile ? valuesIn(engine, program.onlyWhile) : '',
})

/** The values of the variables an expression reads, with their names when there are several. */
const valuesIn = (engine: Engine, compiled: Compiled): string => {
  const say = (slot: number) => {
    const info = engine.variables.index.catalogue.variables[slot]
    const words = info ? formatValue(engine.variables.read(slot), info) : '–'
    return compiled.reads.length > 1 ? `${info?.name.split('.').at(-1) ?? ''} ${words}` : words
  }
  return compiled.reads.slice(0, 3).map(say).join(', ')
}

const conditionStop = (engine: Engine, program: Program): string | undefined => {
  if (!program.onlyWhile || holds(program.onlyWhile)) return undefined
  const absent = program.onlyWhile.needs.find((slot) => !engine.variables.present(slot))
  if (absent !== undefined) return `${variableName(engine, absent)} is absent`
  return `only while ${program.settings.onlyWhile}: it is ${valuesIn(engine, program.onlyWhile)}`
}

const variableName = (engine: Engine, slot: number): string =>
  engine.variables.index.catalogue.variables[slot]?.name ?? 'the variable'

const lampRow = (engine: Engine, unit: Unit, program: LampProgram, place: number): TraceRow => {
  const stops = withMistakes(wiringStops(engine, unit), program)
  const info = engine.variables.index.catalogue.variables[program.source]
  const value = program.source >= 0 ? engine.variables.read(program.source) : null
  const shown = program.show && value !== null ? evaluate(program.show, value) : null
  if (!engine.simulatorUp) stops.simulator ??= 'the simulator is gone; the value is old'
  else if (program.source >= 0 && value === null) stops.simulator ??= 'variable absent on this craft'
  if (program.show && value !== null && shown === null) {
    const absent = program.show.needs.find((slot) => !engine.variables.present(slot))
    stops.shaping ??=
      absent !== undefined ? `${variableName(engine, absent)} is absent` : 'the result is not a number'
  }
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  if (!engine.armed) stops.board ??= 'held, so outputs do not flow'
  const owner = unit.lamp?.programs.find((p) => engine.showing(p) >= 0)
  if (owner && owner !== program && place > (unit.lamp?.programs.indexOf(owner) ?? 0)) {
    stops.board ??= 'overridden by the binding above'
  }
  if (unit.lamp?.exercise) stops.board = 'being exercised by hand'
  const stop = firstStop('from simulator', stops)
  const input = info ? formatValue(value, info) : '–'
  return {
    bindingId: program.row.id,
    direction: 'from simulator',
    stations: [
      ...partStations(engine, unit),
      onlyWhileStation(engine, program),
      {
        at: 'shaping',
        what: program.settings.show,
        value: typeof shown === 'number' ? `${input} → ${lampWords(shown)}` : '',
      },
      { at: 'simulator', what: program.settings.variable ?? 'choose', value: info ? input : '' },
    ],
    stop,
    passedAt: stop === null && unit.lamp && unit.lamp.changedAt > 0 ? unit.lamp.changedAt : null,
  }
}

const controlRow = (engine: Engine, unit: Unit, state: ControlState): TraceRow => {
  const { program, last } = state
  const stops = withMistakes(wiringStops(engine, unit), program)
  const condition = conditionStop(engine, program)
  if (condition) stops.onlyWhile ??= condition
  const input = inputOf(unit)
  const value = program.value && input !== null ? evaluate(program.value, input) : null
  if (program.value && input !== null && value === null && program.mistakes.length === 0) {
    stops.shaping ??= 'no value for this position'
  }
  for (const target of program.targets) {
    const limit = beyondLimits(engine.variables, target, value)
    if (limit) stops.simulator ??= `value beyond limits: ${limit}`
  }
  if (!engine.simulatorUp) stops.simulator ??= 'the simulator is gone'
  if (!engine.armed) stops.simulator ??= 'held, so actions do not flow'
  if (last?.problem) stops.simulator ??= `the simulator refused it: ${last.problem}`
  const stop = firstStop('to simulator', stops)
  return {
    bindingId: program.row.id,
    direction: 'to simulator',
    stations: [
      ...partStations(engine, unit),
      {
        at: 'shaping',
        what: program.settings.value ?? whenWords(program.row),
        value:
          value === null
            ? ''
            : `${positionLabel(unit.part, unit.position ?? '')} → ${wordsFor(engine, program, value)}`,
      },
      onlyWhileStation(engine, program),
      simulatorStation(engine, program),
    ],
    stop,
    passedAt: stop === null ? (last?.at ?? null) : null,
  }
}

const whenSaid: Record<ControlSettings['when'], string> = {
  press: 'on press',
  release: 'on release',
  short: 'on a short press',
  long: 'on a long press',
  double: 'on a double press',
  repeat: 'again and again while held',
  position: 'on change',
}

const whenWords = (row: BindingRow): string =>
  row.settings.kind === 'control' ? whenSaid[row.settings.when] : ''

const wordsFor = (engine: Engine, program: ControlProgram, value: number | string): string => {
  const target = program.targets[0]
  const info = target?.do === 'set' ? engine.variables.index.catalogue.variables[target.variable] : undefined
  if (info) return formatValue(value, info)
  return typeof value === 'number' ? formatNumber(value) : value
}

/** An action in a word or two, behind what it acts on. */
const actionWords = (action: Action): string => {
  switch (action.do) {
    case 'set':
    case 'event':
    case 'pause':
      return ''
    case 'toggle':
      return ' over'
    case 'step':
      return ` ${action.by > 0 ? '+' : '−'}${Math.abs(action.by)}`
  }
}

const simulatorStation = (engine: Engine, program: ControlProgram): TraceStation => {
  const { actions } = program.settings
  const action = actions.find((a) => a.do !== 'pause')
  if (!action) return { at: 'simulator', what: 'choose', value: '' }
  const more = actions.filter((a) => a.do !== 'pause').length - 1
  const then = more > 0 ? `, then ${more} more` : ''
  if (action.do === 'event') return { at: 'simulator', what: `${action.event}${then}`, value: 'event' }
  const slot = engine.variables.index.variable.get(action.variable)
  const info = slot === undefined ? undefined : engine.variables.index.catalogue.variables[slot]
  return {
    at: 'simulator',
    what: `${action.variable}${actionWords(action)}${then}`,
    value: slot === undefined || !info ? '' : formatValue(engine.variables.read(slot), info),
  }
}
