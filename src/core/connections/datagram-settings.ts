import { type DatagramLayout, datagramLayout, noLayout } from '../datagrams/layout'
import { prefix } from './fields'
import type { OutgoingValue } from './kind'

/** What every kind of connection has that speaks in datagrams. */
export const datagramSettings = { layout: datagramLayout.default(noLayout), prefix }

/** Where a sent value belongs: by its packet and its field. */
export const outgoingKey = (packet: number, field: number): string => `${packet}.${field}`

/** The values of all packets that are sent. */
export const outgoingOf = ({ layout }: { readonly layout: DatagramLayout }): OutgoingValue[] =>
  layout.packets.flatMap((p, packet) =>
    p.send
      ? p.fields.flatMap((f, field) =>
          f.value === undefined || f.value.trim() === ''
            ? []
            : [{ key: outgoingKey(packet, field), expression: f.value }],
        )
      : [],
  )
