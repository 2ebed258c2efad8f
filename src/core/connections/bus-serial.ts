import { z } from 'zod'
import { noDatabase } from '../bus/database'
import { serialFields, serialPort, USUAL_SPEED } from './board-serial'
import { busSettings, busSpeedField, outgoingToBus } from './bus-settings'
import { prefixField } from './fields'
import type { ConnectionKind } from './kind'

const kind = 'bus serial'
const settings = z.strictObject({ kind: z.literal(kind), ...serialPort, ...busSettings })

export const busSerial: ConnectionKind<typeof settings> = {
  name: 'Vehicle bus on a serial port',
  summary: 'CAN over a serial adapter that speaks the ASCII line protocol (slcan)',
  carries: 'source',
  isSimulated: false,
  settings,
  fresh: {
    ...{ kind, path: '/dev/ttyACM0', speed: USUAL_SPEED, dataBits: 8 },
    ...{ busSpeed: 500_000, database: noDatabase, send: [], prefix: 'bus.' },
  },
  fields: [...serialFields, busSpeedField, prefixField],
  address: (s) => s.path,
  outgoing: outgoingToBus,
}
