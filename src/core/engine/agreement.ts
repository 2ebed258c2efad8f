import { firstTold } from '../rig/binding'
import { formatNumber, formatValue } from '../signal/format'
import { sameNumber } from '../signal/same-number'
import { CONFIRM_MS } from './boards'
import type { Engine } from './engine'
import { evaluate } from './evaluate'
import {
  type ControlState,
  type ControlUnit,
  type IndicatorUnit,
  isReached,
  type PartUnit,
  standing,
} from './units'
import { shownWords, standsWords } from './words'

export interface Agreement {
  readonly panel: string
  readonly craft: string
  /** Null where there is nothing to compare, or not yet. */
  readonly agrees: boolean | null
  /** The board whose word is still waited for, or null. What was only sent agrees with nothing. */
  readonly waitsFor: string | null
}

/** What the panel shows and what the craft says of one part, and whether the two agree. */
export const agreement = (engine: Engine, unit: PartUnit): Agreement => {
  const all = [
    ...unit.controls.map((c) => controlAgreement(engine, c)),
    ...unit.indicators.map((i) => indicatorAgreement(engine, i)),
  ]
  const judged =
    all.find((a) => a.agrees === false) ??
    all.find((a) => a.waitsFor !== null) ??
    all.find((a) => a.agrees === true)
  return judged ?? all.find((a) => a.craft !== '–') ?? all[0] ?? nothing
}

const nothing: Agreement = { panel: '–', craft: '–', agrees: null, waitsFor: null }

/**
 * Whether the board itself has said that it shows what it was told. Something that is told anew all the time counts
 * as confirmed for as long as the board's word is no older than that takes.
 */
const isConfirmed = (engine: Engine, indicator: IndicatorUnit): boolean => {
  const since = indicator.board?.queue.waitsSince(indicator.slot) ?? null
  if (since === null) return true
  const heard = indicator.board?.queue.hasConfirmed(indicator.slot) ?? false
  return heard && engine.lineTime - since < CONFIRM_MS
}

const indicatorAgreement = (engine: Engine, indicator: IndicatorUnit): Agreement => {
  const program = indicator.programs.find((p) => engine.showing(p) !== null) ?? indicator.programs[0]
  const info = engine.variables.index.catalogue.variables[program?.source ?? -1]
  const value = program && program.source >= 0 ? engine.variables.read(program.source) : null
  const reached = isReached(indicator)
  const panel = reached
    ? shownWords(indicator.aspect, indicator.unit.part.settings, indicator.shown)
    : 'not reached'
  const wanted = engine.wantedNow(indicator)
  const craft = info
    ? formatValue(value, info)
    : program
      ? shownWords(indicator.aspect, indicator.unit.part.settings, wanted)
      : '–'
  const open = { panel, craft, agrees: null, waitsFor: null }
  if (!program || engine.missing(program.needs) || program.state === null) return open
  if (program.source >= 0 && value === null && !program.showsAbsent) return open
  if (!reached || wanted !== indicator.shown) return { ...open, agrees: false }
  if (isConfirmed(engine, indicator)) return { ...open, agrees: true }
  return { ...open, waitsFor: engine.rig.board[indicator.board?.id ?? '']?.name ?? 'the board' }
}

/** The binding by which a control can be compared: one that sets what it stands at. */
const comparable = (engine: Engine, control: ControlUnit): ControlState | undefined =>
  control.bindings.find(
    ({ program }) =>
      (program.settings.when === 'position' || program.settings.when === 'move') &&
      program.targets[0]?.do === 'set' &&
      engine.layers.isActive(program.layer),
  )

/** How far a lever may be from what the craft says: a share of the variable's range. */
const NEAR = 0.02

const controlAgreement = (engine: Engine, control: ControlUnit): Agreement => {
  const { aspect } = control
  const state = comparable(engine, control)
  const target = state?.program.targets[0]
  if (!state || target?.do !== 'set') return told(engine, control)
  const info = engine.variables.index.catalogue.variables[target.variable]
  const value = engine.variables.read(target.variable)
  const craft = info ? formatValue(value, info) : '–'
  const panel = standsWords(control)
  const input = standing(control)
  if (!state.program.value || input === null || value === null || engine.missing(state.program.needs))
    return { panel, craft, agrees: null, waitsFor: null }
  const meant = evaluate(state.program.value, input)
  if (meant === null) return { panel, craft, agrees: null, waitsFor: null }
  if (typeof meant !== 'number' || typeof value !== 'number')
    return { panel, craft, agrees: meant === value, waitsFor: null }
  if (aspect.kind !== 'travel') return { panel, craft, agrees: sameNumber(meant, value), waitsFor: null }
  const size = info?.range ? info.range[1] - info.range[0] : Math.max(1, Math.abs(value))
  return {
    panel: info ? formatValue(meant, info) : formatNumber(meant),
    craft,
    agrees: Math.abs(meant - value) <= NEAR * size,
    waitsFor: null,
  }
}

/** A control with nothing to compare: what it does now, and what it acts on. */
const told = (engine: Engine, control: ControlUnit): Agreement => {
  const { aspect } = control
  const panel =
    aspect.kind === 'positions' && aspect.momentary
      ? control.position !== null && control.position !== aspect.positions[0].id
        ? standsWords(control)
        : '–'
      : aspect.kind === 'encoder'
        ? '–'
        : standsWords(control)
  const active = control.bindings.find((b) => engine.layers.isActive(b.program.layer))
  const action = active ? firstTold(active.program.settings.actions) : undefined
  if (!action || action.do === 'event') return { panel, craft: '–', agrees: null, waitsFor: null }
  const slot = engine.variables.index.variable.get(action.variable) ?? -1
  const info = engine.variables.index.catalogue.variables[slot]
  return {
    panel,
    craft: info ? formatValue(engine.variables.read(slot), info) : '–',
    agrees: null,
    waitsFor: null,
  }
}
