import type { DeviceDescription } from '../device-line/description'
import { deviceDescription, noDescription } from '../device-line/description'
import { prefix } from './fields'
import type { OutgoingValue } from './kind'

/** What every connection to a device of one’s own has. */
export const deviceSettings = { description: deviceDescription.default(noDescription), prefix }

/** The values that go to the device, by their place in the line. */
export const outgoingToDevice = ({
  description,
}: {
  readonly description: DeviceDescription
}): OutgoingValue[] =>
  description.send.flatMap(({ value, unit }, i) =>
    value.trim() === '' ? [] : [{ key: String(i), expression: value, ...(unit ? { unit } : {}) }],
  )
