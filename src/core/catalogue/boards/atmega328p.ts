import { type BoardModel, named, pinRow } from '../board-model'

const taken = { D0: 'serial link to the computer', D1: 'serial link to the computer' }
const common = {
  logicVolts: 5,
  milliampsPerPin: 20,
  // EEPROM, ATmega328P data sheet, section 8.4.
  keepsBytes: 1024,
  milliampsAllPins: 200,
  ownMilliamps: 45,
  rails: [
    { contact: '5V', volts: 5, milliamps: 500 },
    { contact: '3V3', volts: 3.3, milliamps: 50 },
  ],
} as const

/** ATmega328P data sheet, note on I/O: 150 mA for each of two groups of ports when they give current. */
const groups = (analog: number) => [
  {
    name: 'D0 to D4 and the analog pins',
    pins: [...named('D', 0, 4), ...named('A', 0, analog - 1)],
    milliamps: 150,
  },
  { name: 'D5 to D13', pins: named('D', 5, 13), milliamps: 150 },
]

/** Full-size boards with this chip; 40 mA a pin absolute, 20 mA used. */
export const atmega328p: BoardModel = {
  id: 'atmega328p',
  name: 'ATmega328P board',
  ...common,
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
    interrupt: [2, 3],
    serial: [0, 1],
    twoWire: { data: 18, clock: 19 },
    taken,
  }),
}

/** Small boards with this chip: two rows of fifteen, and two analog pins more that can do nothing else. */
export const atmega328pSmall: BoardModel = {
  id: 'atmega328p-small',
  name: 'ATmega328P board, small',
  ...common,
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
    interrupt: [2, 3],
    serial: [0, 1],
    analogOnly: ['A6', 'A7'],
    twoWire: { data: 18, clock: 19 },
    taken,
  }),
}
