import { type BoardModel, named, pinRow } from '../board-model'

const pins = pinRow({
  digital: 54,
  analog: 16,
  pwm: [2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 44, 45, 46],
  steps: [2, 3, 5, 6, 7, 8, 9, 10, 11, 12, 44, 45, 46],
  frequency: [5, 6, 11],
  interrupt: [2, 3, 18, 19, 20, 21],
  serial: [0, 1, 14, 15, 16, 17, 18, 19],
  twoWire: { data: 20, clock: 21 },
  taken: { D0: 'serial link to the computer', D1: 'serial link to the computer' },
})

/**
 * ATmega2560 data sheet, 31.1 and 31.2, notes 3 and 4: 200 mA through its supply and through ground, 100 mA for two groups of
 * ports (E with G5; F and K), giving or taking in; 40 mA a pin absolute, 20 mA used.
 */
const electrical = {
  logicVolts: 5,
  milliampsPerPin: 20,
  // EEPROM, ATmega2560 data sheet, section 8.3.
  keepsBytes: 4096,
  works: { bytes: 5000, slots: 250, chips: 8 },
  milliampsAllPins: 200,
  ownMilliamps: 75,
  groups: [
    { name: 'D0 to D5', pins: named('D', 0, 5), milliamps: 100 },
    { name: 'the analog pins', pins: named('A', 0, 15), milliamps: 100 },
  ],
  // A linear regulator for VIN, NCP1117 data sheet, table 1.
  regulator: { contact: 'VIN', volts: { least: 7, most: 12 }, milliamps: 800, watts: 1 },
  rails: [
    { contact: '5V', volts: 5, milliamps: 500 },
    { contact: '3V3', volts: 3.3, milliamps: 50 },
  ],
  // Timer 0 counts the board's own time.
  timers: [
    { name: 'timer 1', pins: ['D11', 'D12'] },
    { name: 'timer 2', pins: ['D9', 'D10'] },
    { name: 'timer 3', pins: ['D2', 'D3', 'D5'] },
    { name: 'timer 4', pins: ['D6', 'D7', 'D8'] },
    { name: 'timer 5', pins: ['D44', 'D45', 'D46'], servos: true },
  ],
} as const

/** Full-size boards with this chip. */
export const atmega2560: BoardModel = {
  id: 'atmega2560',
  name: 'ATmega2560 board',
  ...electrical,
  widthMm: 101.6,
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
    { xMm: 68.6, yMm: 2.5, runs: 'right', faces: 'up', contacts: named('D', 14, 21) },
    {
      xMm: 27.9,
      yMm: 50.8,
      runs: 'right',
      faces: 'down',
      contacts: ['–', 'IOREF', 'RESET', '3V3', '5V', 'GND', 'GND', 'VIN'],
    },
    { xMm: 50.8, yMm: 50.8, runs: 'right', faces: 'down', contacts: named('A', 0, 7) },
    { xMm: 73.7, yMm: 50.8, runs: 'right', faces: 'down', contacts: named('A', 8, 15) },
    { xMm: 93.5, yMm: 5.1, runs: 'down', faces: 'left', contacts: ['5V', ...odd(22, 52), 'GND'] },
    { xMm: 96.1, yMm: 5.1, runs: 'down', faces: 'right', contacts: ['5V', ...odd(23, 53), 'GND'] },
  ],
  pins,
}

/** Small boards with this chip: the same pins, two rows on either long side and the rest at the end. */
export const atmega2560Small: BoardModel = {
  id: 'atmega2560-small',
  name: 'ATmega2560 board, small',
  note: 'Makers order the contacts of this board in different ways. Where yours differs, save it as a file, put its rows right and take that in.',
  ...electrical,
  widthMm: 38,
  heightMm: 56,
  plug: 'top',
  headers: [
    {
      xMm: 1.7,
      yMm: 4,
      runs: 'down',
      faces: 'left',
      contacts: ['VIN', 'GND', '5V', '3V3', 'AREF', 'D1', ...odd(3, 21), 'D43', 'D45'],
    },
    {
      xMm: 4.2,
      yMm: 4,
      runs: 'down',
      faces: 'right',
      contacts: ['VIN', 'GND', '5V', '3V3', 'RESET', 'D0', ...odd(2, 20), 'D42', 'D44'],
    },
    { xMm: 33.8, yMm: 4, runs: 'down', faces: 'left', contacts: [...every('A', 0, 14), ...odd(22, 40)] },
    { xMm: 36.3, yMm: 4, runs: 'down', faces: 'right', contacts: [...every('A', 1, 15), ...odd(23, 41)] },
    { xMm: 14, yMm: 54, runs: 'right', faces: 'down', contacts: named('D', 46, 49) },
    { xMm: 24.2, yMm: 54, runs: 'right', faces: 'down', contacts: named('D', 50, 53) },
  ],
  pins,
}

/** Every other one, as D22, D24 and so on. */
function every(prefix: string, from: number, to: number): string[] {
  return Array.from({ length: (to - from) / 2 + 1 }, (_, i) => `${prefix}${from + 2 * i}`)
}
function odd(from: number, to: number): string[] {
  return every('D', from, to)
}
