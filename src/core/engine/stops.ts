import { isWired } from '../harness/wiring'
import type { Seat } from './boards'
import type { Program } from './compile-binding'
import type { Engine } from './engine'
import { holds } from './evaluate'
import type { Station } from './mistakes'
import { absentWords, valuesIn } from './slot-words'
import type { TraceRow } from './trace-row'

/** Why a value does not get past a station, in words. */
export type Stops = Partial<Record<Station, string>>

/** The way a value takes, station by station. */
const order: Record<TraceRow['direction'], readonly Station[]> = {
  'to simulator': ['part', 'pin', 'board', 'shaping', 'onlyWhile', 'simulator'],
  'from simulator': ['simulator', 'shaping', 'onlyWhile', 'board', 'pin', 'part'],
}

/** The first station on the way that a value does not get past. */
export const firstStop = (direction: TraceRow['direction'], stops: Stops): TraceRow['stop'] => {
  for (const at of order[direction]) {
    const reason = stops[at]
    if (reason) return { at, reason }
  }
  return null
}

/** What stops a value between a part and its board. */
export const wiringStops = (engine: Engine, seat: Seat): Stops => {
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
export const withMistakes = (stops: Stops, program: Program): Stops => {
  const all: Stops = { ...stops }
  if (!program.row.on) all.shaping ??= 'binding is off'
  for (const m of program.mistakes) all[m.station] ??= m.message
  if (program.fault !== null) all.shaping ??= `it failed: ${program.fault}`
  return all
}

/** Why a binding does not act now: another layer is active, or its condition does not hold. */
export const conditionStop = (engine: Engine, program: Program): string | undefined => {
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
