import type { Compiled } from '../signal/expression/compile'
import { formatValue } from '../signal/format'
import type { Engine } from './engine'
import { standsWords } from './words'

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
export const absentWords = (engine: Engine, compiled: Compiled | null): string | null => {
  const absent = compiled?.needs.find((slot) => !engine.variables.present(slot))
  return absent === undefined ? null : `${slotWords(engine, absent).name} is absent`
}

/** The values an expression reads, with their names when there are several. */
export const valuesIn = (engine: Engine, compiled: Compiled): string => {
  const say = (slot: number) => {
    const { name, value } = slotWords(engine, slot)
    return compiled.reads.length > 1 ? `${name.split('.').at(-1) ?? ''} ${value}` : value
  }
  return compiled.reads.slice(0, 3).map(say).join(', ')
}
