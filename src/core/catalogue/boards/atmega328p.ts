import { type BoardModel, pinRow } from '../board-model'

/** Pin row of full-size boards with this chip; ATmega328P data sheet, 40 mA absolute, 20 mA used. */
export const atmega328p: BoardModel = {
  id: 'atmega328p',
  name: 'ATmega328P board',
  logicVolts: 5,
  milliampsPerPin: 20,
  pins: pinRow({
    digital: 14,
    analog: 6,
    pwm: [3, 5, 6, 9, 10, 11],
    twoWire: { data: 18, clock: 19 },
    taken: { D0: 'serial link to the computer', D1: 'serial link to the computer' },
  }),
}
