import type { Milliamps, Millimetres, Volts, Watts } from '../units-of-measure'

export type PinAbility =
  /** Reads and drives two levels. */
  | 'digital'
  | 'pull-up'
  | 'pwm'
  | 'analog'
  | 'interrupt'
  | 'serial'
  | 'two-wire-data'
  | 'two-wire-clock'
  /** Its timer can be given up for a clock of some megahertz. */
  | 'steps'
  /** Its timer can be given up for a frequency of its own. */
  | 'frequency'

export interface Pin {
  readonly name: string
  /** The number the board itself uses for this pin, as it travels in a configuration. */
  readonly number: number
  readonly abilities: readonly PinAbility[]
  /** A pin that lacks what pins usually can. */
  readonly only?: 'input' | 'analog'
  /** What hangs on it on the board itself, so that its own pull-up does not reach high. */
  readonly loaded?: string
  /** The channel of the timer that dims it; pins of one channel can only be alike. */
  readonly pwmChannel?: string
  /** What the board itself uses this pin for, if anything. */
  readonly taken?: string
}

/** A row of contacts on a board, in the order in which they lie, first one at x, y. */
export interface Header {
  readonly xMm: Millimetres
  readonly yMm: Millimetres
  /** The way to the next contact. */
  readonly runs: 'right' | 'down' | 'up'
  /** Where there is room for what hangs on it. */
  readonly faces: 'up' | 'down' | 'left' | 'right'
  /** Names of pins, and of contacts that are none: supplies, ground, reset. */
  readonly contacts: readonly string[]
}

/** Pins that share one way to the chip's supply or ground, and what may flow through all of them together. */
export interface PinGroup {
  readonly name: string
  readonly pins: readonly string[]
  /** Where the limit is only for what they give, or take in; left out where it holds for either. */
  readonly only?: 'giving' | 'taking'
  readonly milliamps: Milliamps
}

/** A supply that the board itself gives on a contact. */
export interface Rail {
  readonly contact: string
  readonly volts: Volts
  readonly milliamps: Milliamps
}

/** Room that the boards' program has on a chip: for slots and what they need, for slots, and for chips. */
export interface WorkingRoom {
  readonly bytes: number
  readonly slots: number
  readonly chips: number
}

/** What makes the board's own 5 V from more volts. */
export interface Regulator {
  /** The contact at which those go in. */
  readonly contact: string
  readonly volts: { readonly least: Volts; readonly most: Volts }
  readonly milliamps: Milliamps
  /** The heat it can be rid of on such a board. */
  readonly watts: Watts
}

/** A timer that something can have for itself; its pins are then without shares of brightness. */
export interface BoardTimer {
  readonly name: string
  readonly pins: readonly string[]
  /** It is the one that servos on pins of the board take. */
  readonly servos?: boolean
}

export interface BoardModel {
  readonly id: string
  readonly name: string
  /** What one should know before one trusts the drawing. */
  readonly note?: string
  /** A bought device: what hangs on its contacts is inside, joined to what it needs, and nothing of it can be loaded or driven. */
  readonly given?: true
  readonly logicVolts: Volts
  readonly milliampsPerPin: Milliamps
  /** What may flow through all pins together, and through groups of them, as the chip's data sheet has it. */
  readonly milliampsAllPins: Milliamps
  readonly groups: readonly PinGroup[]
  /** Bytes that it keeps without power for what is loaded; left out where nobody has said. */
  readonly keepsBytes?: number
  /** What Clavik's own program on it works with; left out where it has none. */
  readonly works?: WorkingRoom
  /** What the board itself takes. */
  readonly ownMilliamps: Milliamps
  readonly rails: readonly Rail[]
  /** Left out where the board has none, or nobody knows. */
  readonly regulator?: Regulator
  readonly widthMm: Millimetres
  readonly heightMm: Millimetres
  /** The edge at which its cable goes in. */
  readonly plug: 'left' | 'top'
  readonly headers: readonly Header[]
  readonly pins: readonly Pin[]
  /** Left out where each pin has a timer of its own, or nobody has said. */
  readonly timers?: readonly BoardTimer[]
}

/** From one contact of a header to the next. */
export const PITCH_MM: Millimetres = 2.54

/** What a port of a computer gives at most to one board. */
export const USB_MILLIAMPS: Milliamps = 500

const step: Record<Header['runs'], readonly [number, number]> = {
  right: [PITCH_MM, 0],
  down: [0, PITCH_MM],
  up: [0, -PITCH_MM],
}

/** Every contact of a board where it lies, row by row. */
export const contactsOf = (model: Pick<BoardModel, 'headers'>) =>
  model.headers.flatMap((header, row) =>
    header.contacts.map((name, index) => ({
      ...{ name, header, row, index },
      xMm: header.xMm + step[header.runs][0] * index,
      yMm: header.yMm + step[header.runs][1] * index,
    })),
  )

interface PinRow {
  readonly digital: number
  readonly analog: number
  readonly pwm: readonly number[]
  /** Pins whose timer can be given up, for a quick clock and for a frequency. */
  readonly steps: readonly number[]
  readonly frequency: readonly number[]
  readonly interrupt: readonly number[]
  readonly serial?: readonly number[]
  /** Digital pins that can also measure, beside the analog ones. */
  readonly measures?: readonly number[]
  /** Analog pins that can do nothing else. */
  readonly analogOnly?: readonly string[]
  /** Pin numbers of the two-wire bus. */
  readonly twoWire: { readonly data: number; readonly clock: number }
  readonly taken: Readonly<Record<string, string>>
  readonly loaded?: Readonly<Record<string, string>>
}

/** Digital pins D0… followed by analog ones A0…, as such boards number them. */
export const pinRow = (row: PinRow): Pin[] => {
  const pins: Pin[] = []
  for (let n = 0; n < row.digital + row.analog; n++) {
    const isAnalog = n >= row.digital
    const name = isAnalog ? `A${n - row.digital}` : `D${n}`
    const use = row.taken[name]
    const analogOnly = row.analogOnly?.includes(name) ?? false
    pins.push({
      name,
      number: n,
      abilities: analogOnly ? ['analog'] : abilitiesOf(row, n, isAnalog),
      ...(row.loaded?.[name] ? { loaded: row.loaded[name] } : {}),
      ...(analogOnly ? { only: 'analog' as const } : {}),
      ...(use ? { taken: use } : {}),
    })
  }
  return pins
}

const abilitiesOf = (row: PinRow, n: number, isAnalog: boolean): PinAbility[] => {
  const abilities: PinAbility[] = ['digital', 'pull-up']
  if (row.pwm.includes(n)) abilities.push('pwm')
  if (row.steps.includes(n)) abilities.push('steps')
  if (row.frequency.includes(n)) abilities.push('frequency')
  if (isAnalog || row.measures?.includes(n)) abilities.push('analog')
  if (row.interrupt.includes(n)) abilities.push('interrupt')
  if (row.serial?.includes(n)) abilities.push('serial')
  if (n === row.twoWire.data) abilities.push('two-wire-data')
  if (n === row.twoWire.clock) abilities.push('two-wire-clock')
  return abilities
}

/** Names in a row, as D2 to D7, or down again. */
export const named = (prefix: string, from: number, to: number): string[] => {
  const step = from <= to ? 1 : -1
  return Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => `${prefix}${from + i * step}`)
}
