import { type BoardModel, pinRow } from '../board-model'

/** PWM, two-wire and serial pins as on boards with this chip's full pin row; ATmega2560 data sheet, 40 mA absolute, 20 mA used. */
export const atmega2560: BoardModel = {
  id: 'atmega2560',
  name: 'ATmega2560 board',
  logicVolts: 5,
  milliampsPerPin: 20,
  pins: pinRow({
    digital: 54,
    analog: 16,
    pwm: [2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 44, 45, 46],
    twoWire: { data: 20, clock: 21 },
    taken: { D0: 'serial link to the computer', D1: 'serial link to the computer' },
  }),
}
