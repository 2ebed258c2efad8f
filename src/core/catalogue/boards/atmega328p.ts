import { type BoardModel, named, type PinGroup, pinRow } from '../board-model'

const taken = { D0: 'serial link to the computer', D1: 'serial link to the computer' }
/**
 * Most boards hang their lamp with 1 kΩ straight on the pin: against the pull-up of 20 to 50 kΩ (ATmega328P data sheet,
 * 29.2, R_PU) that leaves the lamp's own 1.7 V or so, which is never high (0.6 of 5 V).
 */
const loaded = { D13: 'a lamp of the board with its resistor' }
/** The linear regulator for VIN: 800 mA at most (NCP1117 data sheet, table 1), and what a small plate of copper carries off. */
const regulator = {
  contact: 'VIN',
  volts: { least: 7, most: 12 },
  milliamps: 800,
  watts: 1,
} as const
const common = {
  logicVolts: 5,
  milliampsPerPin: 20,
  // EEPROM, ATmega328P data sheet, section 8.4.
  keepsBytes: 1024,
  works: { bytes: 980, slots: 100, chips: 4 },
  // Through VCC or through ground, 29.1.
  milliampsAllPins: 200,
  ownMilliamps: 45,
  rails: [
    { contact: '5V', volts: 5, milliamps: 500 },
    { contact: '3V3', volts: 3.3, milliamps: 50 },
  ],
  // Timer 0 counts the board's own time.
  timers: [
    { name: 'timer 1', pins: ['D9', 'D10'], servos: true },
    { name: 'timer 2', pins: ['D3', 'D11'] },
  ],
} as const

/**
 * ATmega328P data sheet, 29.2, notes 3 and 4: giving, 150 mA for ports C, D0 to D4 and for B, D5 to D7; taking in, 100 mA
 * for port C, for B with D5 to D7, and for D0 to D4.
 */
const groups = (analog: number): readonly PinGroup[] => [
  {
    name: 'D0 to D4 and the analog pins',
    pins: [...named('D', 0, 4), ...named('A', 0, analog - 1)],
    only: 'giving',
    milliamps: 150,
  },
  { name: 'D5 to D13', pins: named('D', 5, 13), only: 'giving', milliamps: 150 },
  { name: 'D0 to D4', pins: named('D', 0, 4), only: 'taking', milliamps: 100 },
  { name: 'the analog pins', pins: named('A', 0, analog - 1), only: 'taking', milliamps: 100 },
  { name: 'D5 to D13', pins: named('D', 5, 13), only: 'taking', milliamps: 100 },
]

/** Full-size boards with this chip; 40 mA a pin absolute, 20 mA used. */
export const atmega328p: BoardModel = {
  id: 'atmega328p',
  name: 'ATmega328P board',
  ...common,
  regulator,
  groups: groups(6),
  widthMm: 68.6,
  heightMm: 53.4,
  plug: 'left',
  headers: [
    {
      xMm: 18.8,
      yMm: 2.5,
      runs: 'right',
      faces: 'up',
      contacts: ['SCL', 'SDA', 'AREF', 'GND', ...named('D', 13, 8)],
    },
    { xMm: 45.7, yMm: 2.5, runs: 'right', faces: 'up', contacts: named('D', 7, 0) },
    {
      xMm: 27.9,
      yMm: 50.8,
      runs: 'right',
      faces: 'down',
      contacts: ['–', 'IOREF', 'RESET', '3V3', '5V', 'GND', 'GND', 'VIN'],
    },
    { xMm: 50.8, yMm: 50.8, runs: 'right', faces: 'down', contacts: named('A', 0, 5) },
  ],
  pins: pinRow({
    digital: 14,
    analog: 6,
    pwm: [3, 5, 6, 9, 10, 11],
    steps: [3, 9, 10, 11],
    frequency: [9],
    interrupt: [2, 3],
    serial: [0, 1],
    twoWire: { data: 18, clock: 19 },
    taken,
    loaded,
  }),
}

/** Small boards with this chip: two rows of fifteen, and two analog pins more that can do nothing else. */
export const atmega328pSmall: BoardModel = {
  id: 'atmega328p-small',
  name: 'ATmega328P board, small',
  ...common,
  // Its case is smaller, and so is its plate of copper.
  regulator: { ...regulator, milliamps: 500, watts: 0.6 },
  groups: groups(8),
  widthMm: 18.5,
  heightMm: 43.2,
  plug: 'top',
  headers: [
    {
      xMm: 1.6,
      yMm: 4,
      runs: 'down',
      faces: 'left',
      contacts: ['D13', '3V3', 'AREF', ...named('A', 0, 7), '5V', 'RESET', 'GND', 'VIN'],
    },
    {
      xMm: 16.9,
      yMm: 4,
      runs: 'down',
      faces: 'right',
      contacts: [...named('D', 12, 2), 'GND', 'RESET', 'D0', 'D1'],
    },
  ],
  pins: pinRow({
    digital: 14,
    analog: 8,
    pwm: [3, 5, 6, 9, 10, 11],
    steps: [3, 9, 10, 11],
    frequency: [9],
    interrupt: [2, 3],
    serial: [0, 1],
    analogOnly: ['A6', 'A7'],
    twoWire: { data: 18, clock: 19 },
    taken,
    loaded,
  }),
}
