import type { Milliamps, Volts } from '../units-of-measure'

export type PinAbility = 'digital' | 'pull-up' | 'pwm' | 'analog' | 'two-wire-data' | 'two-wire-clock'

export interface Pin {
  readonly name: string
  /** The number the board itself uses for this pin, as it travels in a configuration. */
  readonly number: number
  readonly abilities: readonly PinAbility[]
  /** What the board itself uses this pin for, if anything. */
  readonly taken?: string
}

export interface BoardModel {
  readonly id: string
  readonly name: string
  readonly logicVolts: Volts
  readonly milliampsPerPin: Milliamps
  readonly pins: readonly Pin[]
}

interface PinRow {
  readonly digital: number
  readonly analog: number
  readonly pwm: readonly number[]
  /** Pin numbers of the two-wire bus. */
  readonly twoWire: { readonly data: number; readonly clock: number }
  readonly taken: Readonly<Record<string, string>>
}

/** Digital pins D0… followed by analog ones A0…, as such boards number them. */
export const pinRow = ({ digital, analog, pwm, twoWire, taken }: PinRow): Pin[] => {
  const pins: Pin[] = []
  for (let n = 0; n < digital + analog; n++) {
    const isAnalog = n >= digital
    const name = isAnalog ? `A${n - digital}` : `D${n}`
    const abilities: PinAbility[] = ['digital', 'pull-up']
    if (pwm.includes(n)) abilities.push('pwm')
    if (isAnalog) abilities.push('analog')
    if (n === twoWire.data) abilities.push('two-wire-data')
    if (n === twoWire.clock) abilities.push('two-wire-clock')
    const use = taken[name]
    pins.push({ name, number: n, abilities, ...(use ? { taken: use } : {}) })
  }
  return pins
}
