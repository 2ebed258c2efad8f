import { type BoardModel, named, pinRow } from '../board-model'

/** Small boards with this chip; its cable needs no pins. ATmega32U4 data sheet, 40 mA a pin absolute, 20 mA used. */
export const atmega32u4: BoardModel = {
  id: 'atmega32u4',
  name: 'ATmega32U4 board',
  logicVolts: 5,
  milliampsPerPin: 20,
  // EEPROM, ATmega32U4 data sheet, section 5.3.
  keepsBytes: 1024,
  works: { bytes: 1400, slots: 100, chips: 4 },
  milliampsAllPins: 200,
  // ATmega32U4 data sheet, 29.2, notes 3 and 4: 100 mA for each of these, giving or taking in.
  groups: [
    { name: 'port D', pins: ['D0', 'D1', 'D2', 'D3', 'D4', 'D6', 'D12'], milliamps: 100 },
    {
      name: 'ports B and E',
      pins: ['D7', 'D8', 'D9', 'D10', 'D11', 'D14', 'D15', 'D16'],
      milliamps: 100,
    },
    { name: 'the analog pins', pins: named('A', 0, 5), milliamps: 100 },
  ],
  // The small linear regulator that such boards have for their RAW or VIN contact.
  regulator: { contact: 'VIN', volts: { least: 7, most: 12 }, milliamps: 500, watts: 0.6 },
  ownMilliamps: 45,
  rails: [
    { contact: '5V', volts: 5, milliamps: 500 },
    { contact: '3V3', volts: 3.3, milliamps: 50 },
  ],
  // Timer 0 counts the board's own time; timer 4 has its pins for brightness alone.
  timers: [
    { name: 'timer 1', pins: ['D9', 'D10'] },
    { name: 'timer 3', pins: ['D5'], servos: true },
  ],
  widthMm: 18.5,
  heightMm: 48.3,
  plug: 'top',
  headers: [
    {
      xMm: 1.6,
      yMm: 4,
      runs: 'down',
      faces: 'left',
      contacts: [
        'D13',
        '3V3',
        'AREF',
        ...named('A', 0, 5),
        '–',
        '–',
        '5V',
        'RESET',
        'GND',
        'VIN',
        'D14',
        'D15',
      ],
    },
    {
      xMm: 16.9,
      yMm: 4,
      runs: 'down',
      faces: 'right',
      contacts: [...named('D', 12, 2), 'GND', 'RESET', 'D0', 'D1', 'D17', 'D16'],
    },
  ],
  pins: pinRow({
    digital: 18,
    analog: 6,
    pwm: [3, 5, 6, 9, 10, 11, 13],
    steps: [5, 9, 10],
    frequency: [5, 9],
    interrupt: [0, 1, 2, 3, 7],
    serial: [0, 1],
    measures: [4, 6, 8, 9, 10, 12],
    twoWire: { data: 2, clock: 3 },
    taken: { D17: 'lamp of the board itself' },
  }),
}
