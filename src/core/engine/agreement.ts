import { isWired } from '../harness/configuration'
import { formatValue } from '../signal/format'
import { lampWords } from '../signal/lamp-state'
import { inputOf } from './controls'
import type { Engine } from './engine'
import { evaluate } from './evaluate'
import { positionLabel, type Unit } from './unit'

export interface Agreement {
  readonly panel: string
  readonly craft: string
  /** Null where there is nothing to compare. */
  readonly agrees: boolean | null
}

/** What the panel shows and what the craft says of one part, and whether the two agree. */
export const agreement = (engine: Engine, unit: Unit): Agreement =>
  unit.lamp ? lampAgreement(engine, unit) : controlAgreement(engine, unit)

const lampAgreement = (engine: Engine, unit: Unit): Agreement => {
  const program = unit.lamp?.programs[0]
  const info = engine.variables.index.catalogue.variables[program?.source ?? -1]
  const value = program && program.source >= 0 ? engine.variables.read(program.source) : null
  const craft = info ? formatValue(value, info) : '–'
  const reached =
    isWired(unit.wiring) && unit.slot >= 0 && engine.boards.get(unit.wiring.boardId)?.up === true
  const shown = reached ? Math.max(0, unit.lamp?.shown ?? 0) : 0
  const panel = reached ? lampWords(shown) : 'out'
  if (!program || !engine.simulatorUp || value === null || !program.show)
    return { panel, craft, agrees: null }
  const wanted = engine.wantedNow(unit)
  return { panel, craft, agrees: wanted === null ? null : wanted === shown }
}

const controlAgreement = (engine: Engine, unit: Unit): Agreement => {
  const { position } = unit
  const panel =
    position === null || unit.aspect?.momentary
      ? position === 'pressed'
        ? 'pressed'
        : '–'
      : positionLabel(unit.part, position)
  const program = unit.controls[0]?.program
  const target = program?.targets[0]
  if (!program || target?.do !== 'set') return { panel, craft: '–', agrees: null }
  const info = engine.variables.index.catalogue.variables[target.variable]
  const value = engine.variables.read(target.variable)
  const craft = info ? formatValue(value, info) : '–'
  const input = inputOf(unit)
  if (!program.value || input === null || value === null || !engine.simulatorUp)
    return { panel, craft, agrees: null }
  const meant = evaluate(program.value, input)
  return { panel, craft, agrees: meant === null ? null : meant === value }
}
