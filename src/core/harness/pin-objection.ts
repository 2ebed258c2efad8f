import type { Pin, PinAbility } from '../catalogue/board-model'
import type { Terminal } from '../catalogue/part-kind'

/** What a pin must be able to do for what ends on it. */
export const abilityNeeded: Partial<Record<Terminal['role'], PinAbility>> = {
  contact: 'pull-up',
  wiper: 'analog',
  signal: 'pull-up',
  drive: 'digital',
  'lamp-plus': 'digital',
  'lamp-minus': 'digital',
  'two-wire-data': 'two-wire-data',
  'two-wire-clock': 'two-wire-clock',
}

export const abilityWords: Record<PinAbility, string> = {
  digital: 'cannot be driven; it can only measure',
  'pull-up': 'has no pull-up',
  pwm: 'has no timer output, which this line needs',
  steps: 'has no timer that could be given up for this clock',
  frequency: 'has no timer that could be given up for a frequency',
  analog: 'cannot measure; an analog pin is needed',
  interrupt: 'has no interrupt',
  serial: 'is no serial pin',
  'two-wire-data': 'is not the data pin of its two-wire bus',
  'two-wire-clock': 'is not the clock pin of its two-wire bus',
}

/** What a terminal asks of a pin. */
export type AsksOfPin = Pick<Terminal, 'role' | 'needs'>

/** Why a pin will not do for a terminal, or null. */
export const pinObjection = (pin: Pin, terminal: AsksOfPin | undefined): string | null => {
  if (pin.taken) return `is taken by the ${pin.taken}`
  const needed = terminal && abilityNeeded[terminal.role]
  if (needed === 'pull-up' && pin.loaded && pin.abilities.includes(needed))
    return `has ${pin.loaded} on it, against which its pull-up does not reach high; it would read as closed for ever`
  if (needed && !pin.abilities.includes(needed)) return abilityWords[needed]
  return terminal?.needs && !pin.abilities.includes(terminal.needs) ? abilityWords[terminal.needs] : null
}
