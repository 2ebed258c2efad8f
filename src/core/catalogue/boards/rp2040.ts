import { type BoardModel, named, type Pin, type PinAbility } from '../board-model'

/** RP2040 data sheet, 4.5.2, table 525: eight slices of two channels, which every sixteenth pin shares. */
const channelOf = (n: number): string => `PWM ${Math.floor(n / 2) % 8} ${n % 2 === 0 ? 'A' : 'B'}`

/** Three of its pins can measure; the first two-wire bus is used on its usual pins, 4 and 5. */
const pin = (n: number): Pin => {
  const abilities: PinAbility[] = ['digital', 'pull-up', 'pwm', 'steps', 'frequency', 'interrupt']
  if (n === 26 || n === 27 || n === 28) abilities.push('analog')
  if (n === 0 || n === 1) abilities.push('serial')
  if (n === 4) abilities.push('two-wire-data')
  if (n === 5) abilities.push('two-wire-clock')
  return { name: `GP${n}`, number: n, abilities, pwmChannel: channelOf(n) }
}

/** Boards with this chip in their usual size, 3.3 V; RP2040 data sheet, 5.5.3.1: 12 mA a pin, 50 mA through all, giving or taking in. */
export const rp2040: BoardModel = {
  id: 'rp2040',
  name: 'RP2040 board',
  logicVolts: 3.3,
  milliampsPerPin: 12,
  // one sector of its flash.
  keepsBytes: 4096,
  milliampsAllPins: 50,
  groups: [],
  ownMilliamps: 30,
  rails: [
    { contact: 'VBUS', volts: 5, milliamps: 500 },
    { contact: '3V3', volts: 3.3, milliamps: 300 },
  ],
  widthMm: 21,
  heightMm: 51,
  plug: 'top',
  headers: [
    {
      xMm: 1.6,
      yMm: 1.4,
      runs: 'down',
      faces: 'left',
      contacts: [
        ...named('GP', 0, 1),
        'GND',
        ...named('GP', 2, 5),
        'GND',
        ...named('GP', 6, 9),
        'GND',
        ...named('GP', 10, 13),
        'GND',
        ...named('GP', 14, 15),
      ],
    },
    {
      xMm: 19.4,
      yMm: 1.4,
      runs: 'down',
      faces: 'right',
      contacts: [
        ...[
          'VBUS',
          'VSYS',
          'GND',
          '3V3 EN',
          '3V3',
          'VREF',
          'GP28',
          'GND',
          'GP27',
          'GP26',
          'RUN',
          'GP22',
          'GND',
        ],
        ...named('GP', 21, 18),
        'GND',
        ...named('GP', 17, 16),
      ],
    },
  ],
  pins: [...Array.from({ length: 23 }, (_, n) => pin(n)), pin(26), pin(27), pin(28)],
}
