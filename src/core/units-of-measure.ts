/** Plain aliases that say what a number measures. */
export type Millimetres = number
export type Degrees = number
export type Millis = number
export type Micros = number
export type Milliamps = number
export type Volts = number

export type Watts = number
