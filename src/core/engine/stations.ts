import { indicatorKind } from '../aspects/aspects'
import { listedPins } from '../harness/listed-pins'
import { isWired } from '../harness/wiring'
import { type Action, type ControlSettings, takesInput } from '../rig/binding'
import { layerChangeWords } from '../rig/bound-words'
import type { BindingRow } from '../rig/rows'
import { formatValue } from '../signal/format'
import type { Seat } from './boards'
import type { ControlProgram, Program } from './compile-binding'
import type { IndicatorProgram } from './compile-indicator'
import type { Engine } from './engine'
import { valuesIn } from './slot-words'
import type { TraceStation } from './trace-row'
import { type ControlUnit, isReached, positionLabel } from './units'
import { pinWords, shownWords, standsWords } from './words'

/** Part, pin and board of an aspect. */
export const partStations = (engine: Engine, seat: Seat): TraceStation[] => {
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
      what: listedPins(pins) || 'none',
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

const layerWords = (engine: Engine, program: Program): string | null => {
  if (!program.layer) return null
  const set = engine.layers.sets.get(program.layer.setId)
  return `${set?.set.name ?? 'layer'} ${program.layer.name}`
}

/** The layer and the condition of a binding. */
export const onlyWhileStation = (engine: Engine, program: Program): TraceStation => {
  const conditions = [layerWords(engine, program), program.settings.onlyWhile].filter((w) => w !== null)
  return {
    at: 'onlyWhile',
    what: conditions.join(' and ') || 'always',
    value: program.onlyWhile ? valuesIn(engine, program.onlyWhile) : '',
  }
}

/** What an indicator’s shaping is called. */
export const showWords = ({ settings }: IndicatorProgram): string =>
  indicatorKind(settings.kind).shaping(settings)

/** What takes no input reads its variables in its lines or its shaping. */
export const sourceless = ({ settings }: IndicatorProgram): string =>
  takesInput(settings)
    ? 'choose'
    : indicatorKind(settings.kind).main(settings) === null
      ? 'as its lines say'
      : 'as its shaping says'

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

const moments: Record<ControlSettings['when'], string> = {
  press: 'pressed',
  release: 'let go',
  short: 'short',
  long: 'long',
  double: 'double',
  repeat: 'repeated',
  hold: 'held',
  position: 'moved',
  turn: 'turned',
  clockwise: 'clockwise',
  counter: 'counter',
  move: 'moved',
}

/** When a control's binding acts, in a word. */
export const momentWords = ({ settings }: BindingRow): string =>
  settings.kind === 'control' ? moments[settings.when] : ''

/** When a control’s binding acts. */
export const whenWords = (control: ControlUnit, { settings }: BindingRow): string => {
  if (settings.kind !== 'control') return ''
  const { position, when, coarse } = settings
  const at = position === undefined ? '' : `, ${positionLabel(control.unit.part, position)}`
  const fast = coarse ? `, ×${coarse.times} when fast` : ''
  return `${whenSaid[when]}${at}${fast}`
}

/** Which digit a step moves, or what part of the value, where it is not the whole. */
const partOfValue = (action: Extract<Action, { do: 'step' }>): string => {
  if (action.digit) return `, the ${digitWords[action.digit.place] ?? `${action.digit.place}s`} digit`
  return action.within === undefined ? '' : `, within ${action.within}`
}

const digitWords: Readonly<Record<number, string>> = {
  1000: 'thousands',
  100: 'hundreds',
  10: 'tens',
  1: 'ones',
  0.1: 'tenths',
  0.01: 'hundredths',
  0.001: 'thousandths',
}

/** An action in a word or two, behind what it acts on. */
const actionWords = (action: Action, when: ControlSettings['when']): string => {
  switch (action.do) {
    case 'toggle':
      return ' over'
    case 'step':
      return ` ${when === 'turn' ? '±' : action.by > 0 ? '+' : '−'}${Math.abs(action.by)}${partOfValue(action)}`
    case 'choose':
      return action.by > 0 ? ' next' : ' previous'
    default:
      return ''
  }
}

/** What a control’s binding acts on. */
export const simulatorStation = (engine: Engine, program: ControlProgram): TraceStation => {
  const { actions } = program.settings
  const doing = actions.filter((a) => a.do !== 'pause')
  const action = doing[0]
  if (!action) return { at: 'simulator', what: 'choose', value: '' }
  const then = doing.length > 1 ? `, then ${doing.length - 1} more` : ''
  if (action.do === 'event') return { at: 'simulator', what: `${action.event}${then}`, value: 'event' }
  if (action.do === 'layer') {
    const set = engine.layers.sets.get(action.set)
    const active = set ? (engine.layers.nameOf(set) ?? '') : ''
    return { at: 'simulator', what: `${layerChangeWords(engine.rig, action)}${then}`, value: active }
  }
  const slot = engine.variables.index.variable.get(action.variable)
  const info = slot === undefined ? undefined : engine.variables.index.catalogue.variables[slot]
  return {
    at: 'simulator',
    what: `${action.variable}${actionWords(action, program.settings.when)}${then}`,
    value: slot === undefined || !info ? '' : formatValue(engine.variables.read(slot), info),
  }
}
