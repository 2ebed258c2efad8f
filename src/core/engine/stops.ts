import { isWired } from '../harness/wiring'
import type { Seat } from './boards'
import type { Program } from './compile-binding'
import type { Engine } from './engine'
import { holds } from './evaluate'
import type { Station } from './mistakes'
import { absentWords, valuesIn } from './slot-words'
import type { StopCode } from './stop-code'
import type { TraceRow } from './trace-row'

export interface Stop {
  readonly code: StopCode
  readonly reason: string
}

/** By station, why a value does not get past it. */
export type Stops = Partial<Record<Station, Stop>>

export const stop = (code: StopCode, reason: string): Stop => ({ code, reason })

/** The way a value takes, station by station. */
const order: Record<TraceRow['direction'], readonly Station[]> = {
  'to simulator': ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'],
  'from simulator': ['simulator', 'shaping', 'onlyWhile', 'board', 'pin', 'part'],
}

/** The first station on the way that a value does not get past. */
export const firstStop = (direction: TraceRow['direction'], stops: Stops): TraceRow['stop'] => {
  for (const at of order[direction]) {
    const found = stops[at]
    if (found) return { at, ...found }
  }
  return null
}

/** What stops a value between a part and its board. */
export const wiringStops = (engine: Engine, seat: Seat): Stops => {
  const { wiring } = seat
  if (!isWired(wiring)) return { pin: stop('unwired', wiring.message) }
  const board = engine.rig.board[wiring.boardId]
  if (!seat.board?.up) return { board: stop('away', `${board?.name ?? 'the board'} is away`) }
  if (seat.slot < 0) return { board: stop('not loaded', 'board not loaded: it does not hold this part yet') }
  if (seat.is === 'control' && seat.contradiction)
    return { pin: stop('contradiction', 'these contacts cannot be closed together: look at the wiring') }
  return {}
}

/** Adds what is wrong with the binding itself; a stop that is already there stays. */
export const withMistakes = (stops: Stops, program: Program): Stops => {
  const all: Stops = { ...stops }
  if (!program.row.on) all.shaping ??= stop('off', 'binding is off')
  for (const m of program.mistakes) all[m.station] ??= stop('mistake', m.message)
  if (program.fault !== null) all.shaping ??= stop('fault', `it failed: ${program.fault}`)
  return all
}

/** Why a binding does not act now: another layer is active, or its condition does not hold. */
export const conditionStop = (engine: Engine, program: Program): Stop | undefined => {
  const { layer, onlyWhile } = program
  if (layer && !engine.layers.isActive(layer)) {
    const set = engine.layers.sets.get(layer.setId)
    const active = set ? engine.layers.nameOf(set) : null
    return stop('layer', `layer is ${active ?? 'none'}, this is for ${layer.name}`)
  }
  if (!onlyWhile || holds(onlyWhile)) return undefined
  const absent = absentWords(engine, onlyWhile)
  if (absent) return stop('absent', absent)
  return stop('condition', `only while ${program.settings.onlyWhile}: it is ${valuesIn(engine, onlyWhile)}`)
}
