import { z } from 'zod'
import { noDescription } from '../device-line/description'
import { serialFields, serialPort, USUAL_SPEED } from './board-serial'
import { deviceSettings, outgoingToDevice } from './device-settings'
import { prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'device serial'
const settings = z.strictObject({ kind: z.literal(kind), ...serialPort, ...deviceSettings })

export const deviceSerial: ConnectionKind<typeof settings> = {
  name: 'Own device on a serial port',
  summary: 'a display or a box of one’s own: chosen values as lines or packets, and what it says back',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: {
    kind,
    path: '/dev/ttyUSB0',
    speed: USUAL_SPEED,
    dataBits: 8,
    prefix: '',
    description: noDescription,
  },
  fields: [...serialFields, prefixField],
  address: (s) => s.path,
  outgoing: outgoingToDevice,
}
