import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type FieldTypeName, fieldTypeNames, fieldTypes } from './field-type'
import { bytesOfOne, type DatagramField, type DatagramLayout, type DatagramPacket, endOf } from './layout'
import { layoutFindings } from './layout-findings'
import { type DatagramValue, LayoutReader } from './read-datagram'
import { writeDatagram } from './write-datagram'

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

const readAll = (layout: DatagramLayout, bytes: Uint8Array): Record<string, DatagramValue> => {
  const reader = new LayoutReader(layout)
  const packet = reader.packetOf(viewOf(bytes))
  const all: Record<string, DatagramValue> = {}
  if (typeof packet !== 'number') throw new Error(`no packet: ${JSON.stringify(packet)}`)
  reader.read(
    viewOf(bytes),
    packet,
    () => true,
    (slot, v) => {
      all[reader.variables[slot]?.name ?? ''] = v
    },
  )
  return all
}

const one = (
  fields: readonly DatagramField[],
  bytes: number,
  order: 'little' | 'big' = 'little',
): DatagramLayout => ({
  craft: '',
  order,
  packets: [{ name: 'P', bytes, fields: [...fields] }],
})

/** What another program packs, as hexadecimal digits. */
const packed = (lines: readonly string[]): string[] =>
  execFileSync('python3', [
    '-c',
    `import struct\n${lines.map((l) => `print(struct.pack(${l}).hex())`).join('\n')}`,
  ])
    .toString()
    .trim()
    .split('\n')

describe('numbers as another program packs them', () => {
  const letters: Record<FieldTypeName, string> = {
    ...{ u8: 'B', i8: 'b', u16: 'H', i16: 'h', u32: 'I', i32: 'i', u64: 'Q', i64: 'q', f32: 'f', f64: 'd' },
  }
  const samples: Record<FieldTypeName, readonly number[]> = {
    u8: [0, 200, 255],
    i8: [-128, -1, 127],
    u16: [513, 65_535],
    i16: [-2, 30_000],
    u32: [305_419_896, 4_294_967_295],
    i32: [-305_419_896, 1],
    u64: [2 ** 40 + 7],
    i64: [-(2 ** 40) - 7],
    f32: [0.15625, -118.625],
    f64: [Math.PI, -1e-300],
  }
  it('each type in both orders is read as it was packed, and written as it is packed', () => {
    const cases = fieldTypeNames.flatMap((as) =>
      (['little', 'big'] as const).flatMap((order) => samples[as].map((value) => ({ as, order, value }))),
    )
    const bytes = packed(
      cases.map(({ as, order, value }) => `'${order === 'little' ? '<' : '>'}3x${letters[as]}x', ${value}`),
    )
    for (const [i, { as, order, value }] of cases.entries()) {
      const theirs = Uint8Array.from(Buffer.from(bytes[i] as string, 'hex'))
      const layout = one([{ name: 'x', at: 3, as }], theirs.length, order)
      expect(readAll(layout, theirs), `${as} ${order}`).toEqual({ x: value })
      const packet = layout.packets[0] as DatagramPacket
      expect(Buffer.from(writeDatagram(packet, layout, [value])).toString('hex')).toBe(bytes[i])
    }
  })

  it('worked out by hand: bits, a scale, choices, texts, several in a row', () => {
    // 0xb5 is 1011 0101: bits 2 to 4 are 101, bit 7 is 1.
    const bytes = Uint8Array.from([0xb5, 0x10, 0x27, ...Buffer.from('Ähre\0xx'), 1, 2, 3, 0xff])
    const layout = one(
      [
        { name: 'mode', at: 0, as: 'u8', bits: { from: 2, width: 3 } },
        { name: 'on', at: 0, as: 'u8', bits: { from: 7, width: 1 } },
        // 0x2710 is 10,000.
        { name: 'volts', at: 1, as: 'u16', scale: 0.001, add: 2, unit: 'V' },
        { name: 'text', at: 3, as: 'text', count: 8 },
        { name: 'row', at: 11, as: 'i8', count: 4 },
      ],
      15,
    )
    expect(readAll(layout, bytes)).toEqual({
      ...{ mode: 5, on: 1, volts: 12, text: 'Ähre', 'row.1': 1, 'row.2': 2, 'row.3': 3, 'row.4': -1 },
    })
  })

  it('a float that is no number, or endless, is absent and not zero', () => {
    const bytes = new Uint8Array(12)
    const v = viewOf(bytes)
    v.setFloat32(0, Number.NaN, true)
    v.setFloat32(4, Number.POSITIVE_INFINITY, true)
    v.setFloat32(8, 3e38, true)
    const all = readAll(one([{ name: 'x', at: 0, as: 'f32', count: 3 }], 12), bytes)
    expect(all).toMatchObject({ 'x.1': null, 'x.2': null })
    expect(all['x.3']).toBeCloseTo(3e38, -33)
  })
})

/** Fields side by side, with gaps; whole numbers that their type can hold. */
const fieldsAndValues = fc
  .array(
    fc.record({
      as: fc.constantFrom<FieldTypeName | 'text'>(...fieldTypeNames, 'text'),
      gap: fc.integer({ min: 0, max: 5 }),
      share: fc.double({ min: 0, max: 1, noNaN: true }),
      big: fc.boolean(),
      scale: fc.constantFrom(undefined, 0.5, -2, 0.125),
      text: fc.string({ maxLength: 12 }),
    }),
    { minLength: 1, maxLength: 40 },
  )
  .map((list) => {
    let at = 0
    const fields: DatagramField[] = []
    const values: (number | string)[] = []
    for (const [i, { as, gap, share, big, scale, text }] of list.entries()) {
      at += gap
      const name = `f${i}`
      if (as === 'text') {
        fields.push({ name, at, as, count: 40 })
        values.push(text.replaceAll('\0', '').trimEnd())
      } else {
        const { least, most, isWhole, bytes } = fieldTypes[as]
        const [low, high] = bytes === 8 || !isWhole ? [-(2 ** 40), 2 ** 40] : [least, most]
        const raw = isWhole
          ? Math.round(Math.max(least, low + share * (high - low)))
          : Math.fround(low + share * (high - low))
        fields.push({ name, at, as, ...(big ? { order: 'big' as const } : {}), ...(scale ? { scale } : {}) })
        values.push(raw * (scale ?? 1) + 0)
      }
      at = endOf(fields.at(-1) as DatagramField)
    }
    return { layout: one(fields, at + 3), values }
  })

describe('any layout', () => {
  it('reads what it writes', () => {
    fc.assert(
      fc.property(fieldsAndValues, ({ layout, values }) => {
        const packet = layout.packets[0] as DatagramPacket
        const all = readAll(layout, writeDatagram(packet, layout, values))
        for (const [i, f] of packet.fields.entries()) expect(all[f.name]).toEqual(values[i])
        expect(layoutFindings(layout)).toEqual([])
      }),
    )
  })

  it('whatever value it is given, writes within its packet, and numbers that the field can hold', () => {
    fc.assert(
      fc.property(
        fieldsAndValues,
        fc.array(fc.oneof(fc.double(), fc.string(), fc.constant(null)), { maxLength: 45 }),
        ({ layout }, values) => {
          const packet = layout.packets[0] as DatagramPacket
          const bytes = writeDatagram(packet, layout, values)
          expect(bytes.length).toBe(packet.bytes)
          expect(bytes.subarray(packet.bytes - 3)).toEqual(new Uint8Array(3))
        },
      ),
    )
  })

  it('any bytes are read without a fault, or refused with their length', () => {
    fc.assert(
      fc.property(fieldsAndValues, fc.uint8Array({ maxLength: 700 }), ({ layout }, bytes) => {
        const reader = new LayoutReader(layout)
        const packet = reader.packetOf(viewOf(bytes))
        if (typeof packet !== 'number') expect(packet.bytes).toBe(bytes.length)
        else
          for (const v of Object.values(readAll(layout, bytes)))
            expect(v === null || typeof v === 'string' || Number.isFinite(v)).toBe(true)
      }),
    )
  })
})

describe('packets', () => {
  const layout: DatagramLayout = {
    craft: '',
    order: 'little',
    packets: [
      { name: 'A', bytes: 4, tell: { at: 0, as: 'u8', is: 1 }, fields: [{ name: 'a', at: 1, as: 'u8' }] },
      { name: 'B', bytes: 4, tell: { at: 0, as: 'u8', is: 2 }, fields: [{ name: 'b', at: 1, as: 'u8' }] },
      { name: 'C', bytes: 9, longer: true, fields: [{ name: 'c', at: 8, as: 'u8' }] },
    ],
  }
  const told = (...bytes: number[]) => new LayoutReader(layout).packetOf(viewOf(Uint8Array.from(bytes)))
  it('are told apart by a number, by their length, and by at least that', () => {
    expect(told(1, 7, 0, 0)).toBe(0)
    expect(told(2, 7, 0, 0)).toBe(1)
    expect(told(0, 0, 0, 0, 0, 0, 0, 0, 5)).toBe(2)
    expect(told(0, 0, 0, 0, 0, 0, 0, 0, 5, 6, 7)).toBe(2)
  })
  it('one that is cut or of another length is none, and said with what was nearest', () => {
    expect(told(1, 7, 0)).toEqual({ bytes: 3, nearest: 'A', wanted: 4 })
    expect(told(2, 7, 0, 0, 0)).toEqual({ bytes: 5, nearest: 'B', wanted: 4 })
    expect(told()).toEqual({ bytes: 0, nearest: 'C', wanted: 9 })
  })
})

it('bits of one number are written side by side, and none touches another', () => {
  const fields: DatagramField[] = [
    { name: 'a', at: 0, as: 'i16', order: 'big', bits: { from: 0, width: 4 } },
    { name: 'b', at: 0, as: 'i16', order: 'big', bits: { from: 4, width: 9 } },
    { name: 'c', at: 0, as: 'i16', order: 'big', bits: { from: 13, width: 3 } },
  ]
  const layout = one(fields, 2)
  const packet = layout.packets[0] as DatagramPacket
  fc.assert(
    fc.property(fc.nat(15), fc.nat(511), fc.nat(7), (a, b, c) => {
      expect(readAll(layout, writeDatagram(packet, layout, [a, b, c]))).toEqual({ a, b, c })
    }),
  )
  expect([...writeDatagram(packet, layout, [0xf, 0, 7])]).toEqual([0xe0, 0x0f])
  expect([...writeDatagram(packet, layout, [99, -4, null])]).toEqual([0, 0x0f])
})

describe('what is wrong in a layout is said, and the rest of it is read', () => {
  const said = (fields: DatagramField[], bytes: number, more: Partial<DatagramPacket> = {}) =>
    layoutFindings({ craft: '', order: 'little', packets: [{ name: 'P', bytes, fields, ...more }] }).map(
      (f) => f.message,
    )
  it.each<[string, DatagramField[], number, Partial<DatagramPacket>, string]>([
    [
      'beyond its end',
      [{ name: 'x', at: 2, as: 'u32' }],
      5,
      {},
      '“x” ends at byte 5; the packet has 5 bytes.',
    ],
    [
      'on the same bytes',
      [
        { name: 'x', at: 0, as: 'u32' },
        { name: 'y', at: 3, as: 'u8' },
      ],
      8,
      {},
      '“x” and “y” lie on the same bytes.',
    ],
    [
      'bits that are not there',
      [{ name: 'x', at: 0, as: 'u8', bits: { from: 6, width: 3 } }],
      1,
      {},
      '“x” takes bits up to 8; its number has 8.',
    ],
    [
      'bits of a float',
      [{ name: 'x', at: 0, as: 'f32', bits: { from: 0, width: 3 } }],
      4,
      {},
      '“x” is a float, which has no bits of its own.',
    ],
    [
      'nothing that grows',
      [{ name: 'x', at: 0, as: 'u8' }],
      1,
      { grows: 'y' },
      '“P” has no number “y” that could only grow.',
    ],
    [
      'nothing to send',
      [{ name: 'x', at: 0, as: 'u8' }],
      1,
      { send: { host: 'a', port: 1, hz: 1, when: 'always' } },
      '“x” has no value to be sent.',
    ],
  ])('%s', (_, fields, bytes, more, sentence) => expect(said(fields, bytes, more)).toEqual([sentence]))

  it('a name twice, and packets that nothing tells apart', () => {
    const fields: DatagramField[] = [{ name: 'x', at: 0, as: 'u8' }]
    const layout: DatagramLayout = {
      ...{ craft: '', order: 'little' },
      packets: [
        { name: 'P', bytes: 1, fields },
        { name: 'Q', bytes: 1, fields },
      ],
    }
    expect(layoutFindings(layout).map((f) => f.message)).toEqual([
      '“x” is there twice, in “P” too; this one is left out.',
      '“Q” cannot be told from “P”: give them a number that differs.',
    ])
    expect(new LayoutReader(layout).variables.map((v) => v.name)).toEqual(['x'])
  })

  it('a field with a fault is no variable’s end: the others are read', () => {
    const layout = one(
      [
        { name: 'far', at: 90, as: 'f64' },
        { name: 'near', at: 0, as: 'u8' },
      ],
      2,
    )
    expect(readAll(layout, Uint8Array.from([9, 0]))).toEqual({ near: 9 })
    expect(bytesOfOne({ as: 'f64' })).toBe(8)
  })
})
