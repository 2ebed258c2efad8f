import { numbered } from '../rig/numbered'
import { type DatagramField, type DatagramLayout, type DatagramPacket, namesOf } from './layout'

/** The names that a layout’s fields have, but for one of them. */
export const fieldNames = (layout: DatagramLayout, but: DatagramField | null = null): Set<string> =>
  new Set(layout.packets.flatMap((p) => p.fields.flatMap((f) => (f === but ? [] : [f.name, ...namesOf(f)]))))

const withPacketAt = (
  layout: DatagramLayout,
  at: number,
  change: (p: DatagramPacket) => DatagramPacket,
): DatagramLayout => ({ ...layout, packets: layout.packets.map((p, i) => (i === at ? change(p) : p)) })

export const changePacket = (
  layout: DatagramLayout,
  at: number,
  changed: Partial<DatagramPacket>,
): DatagramLayout => withPacketAt(layout, at, (p) => ({ ...p, ...changed }))

/** The layout with another packet at its end, for datagrams of so many bytes. */
export const addPacket = (
  layout: DatagramLayout,
  bytes: number,
  more: Partial<DatagramPacket> = {},
): DatagramLayout => {
  const names = new Set(layout.packets.map((p) => p.name))
  return {
    ...layout,
    packets: [...layout.packets, { name: numbered('Packet', names), bytes, fields: [], ...more }],
  }
}

export const removePacket = (layout: DatagramLayout, at: number): DatagramLayout => ({
  ...layout,
  packets: layout.packets.filter((_, i) => i !== at),
})

/** The layout with a field more, under a name that is free. */
export const addField = (layout: DatagramLayout, packet: number, field: DatagramField): DatagramLayout => {
  const names = fieldNames(layout)
  const name = names.has(field.name) ? numbered(field.name, names, 2).replaceAll(' ', '.') : field.name
  return withPacketAt(layout, packet, (p) => ({
    ...p,
    fields: [...p.fields, { ...field, name }].sort((a, b) => a.at - b.at),
  }))
}

/** The layout with one of its fields as it is to be now. */
export const changeField = (
  layout: DatagramLayout,
  packet: number,
  was: DatagramField,
  is: DatagramField,
): DatagramLayout =>
  withPacketAt(layout, packet, (p) => ({
    ...p,
    grows: p.grows === was.name ? is.name : p.grows,
    fields: p.fields.map((f) => (f === was ? is : f)).sort((a, b) => a.at - b.at),
  }))

export const removeField = (layout: DatagramLayout, packet: number, field: DatagramField): DatagramLayout =>
  withPacketAt(layout, packet, ({ grows, ...p }) => ({
    ...p,
    ...(grows === undefined || grows === field.name ? {} : { grows }),
    fields: p.fields.filter((f) => f !== field),
  }))

const usual: Readonly<Record<number, DatagramField['as']>> = { 1: 'u8', 2: 'u16', 4: 'f32', 8: 'f64' }

/** A field for these bytes, as what so many bytes mostly are; anything else is a text until the builder says otherwise. */
export const fieldFor = (from: number, bytes: number): DatagramField => {
  const as = usual[bytes] ?? 'text'
  return { name: `byte.${from}`, at: from, as, ...(as === 'text' ? { count: bytes } : {}) }
}
