import { Can, Dbc } from 'candied'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AdapterReader, frameLine, openingLines, statusWords } from './adapter-line'
import { fitsIn, placesOf, readerOf, writeSignal } from './bits'
import type { BusFrame } from './bus-frame'
import type { BusMessage, BusSignal } from './database'
import { databaseFindings } from './database-findings'
import { checkOver, crc8, guessedGuards } from './message-check'
import { readDbc } from './read-dbc'
import { slowStep, slowTime } from './slow'

const signal = (more: Partial<BusSignal>): BusSignal => ({
  ...{
    name: 's',
    start: 0,
    length: 8,
    order: 'little',
    as: 'unsigned',
    scale: 1,
    add: 0,
    range: null,
    unit: '',
  },
  ...more,
})
const message = (signals: BusSignal[], bytes = 8): BusMessage => ({
  name: 'M',
  id: 1,
  extended: false,
  bytes,
  signals,
})

describe('bits of a signal, worked out by hand', () => {
  it.each<[string, Partial<BusSignal>, number[], number]>([
    // 0x2345: its low byte first.
    ['two bytes, low first', { length: 16 }, [0x45, 0x23], 0x2345],
    // From bit 4 on: b of the first byte's upper half, then the whole second one: 0xCDB.
    ['twelve bits from the middle of a byte', { start: 4, length: 12 }, [0xb0, 0xcd], 0xcdb],
    // With the high byte first bit 7 of byte 0 is the highest.
    ['two bytes, high first', { start: 7, length: 16, order: 'big' }, [0x23, 0x45], 0x2345],
    // Bits 3 to 0 of byte 0, then all of byte 1: 0xABC.
    ['twelve bits, high first', { start: 3, length: 12, order: 'big' }, [0xfa, 0xbc], 0xabc],
    // 1011 of 0x16 from bit 4 down to bit 1.
    ['four bits within a byte, high first', { start: 4, length: 4, order: 'big' }, [0x16], 0b1011],
    ['a sign', { length: 12, as: 'signed' }, [0xfe, 0x0f], -2],
    ['a sign in one bit', { length: 1, as: 'signed' }, [0x01], -1],
    ['a scale and what is added', { length: 8, scale: 0.5, add: -40 }, [0xc8], 60],
    // 0x42F6E979 is 123.456 as IEEE 754 rounds it.
    ['a float', { length: 32, as: 'float', start: 8 }, [0, 0x79, 0xe9, 0xf6, 0x42], Math.fround(123.456)],
    [
      'a float, high first',
      { length: 32, as: 'float', start: 7, order: 'big' },
      [0x42, 0xf6, 0xe9, 0x79],
      Math.fround(123.456),
    ],
    // All 64 bits are -1.
    [
      'sixty-four bits with a sign',
      { length: 64, as: 'signed' },
      [255, 255, 255, 255, 255, 255, 255, 255],
      -1,
    ],
  ])('%s', (_, more, bytes, value) => {
    const data = new Uint8Array(8)
    data.set(bytes)
    expect(readerOf(signal(more))(data)).toBe(value)
    const mine = new Uint8Array(8)
    writeSignal(mine, signal(more), value)
    // What does not belong to it stays as it was.
    const mask = new Uint8Array(8)
    for (const p of placesOf(signal(more))) mask[p >> 3] = (mask[p >> 3] as number) | (1 << (p & 7))
    expect([...mine]).toEqual([...data].map((b, i) => b & (mask[i] as number)))
  })
})

const anySignal = fc
  .record({
    start: fc.nat(63),
    length: fc.integer({ min: 1, max: 32 }),
    order: fc.constantFrom<'little' | 'big'>('little', 'big'),
    as: fc.constantFrom<'signed' | 'unsigned'>('signed', 'unsigned'),
  })
  .map(signal)
  .filter((s) => fitsIn({ bytes: 8 }, s))

describe('any signal', () => {
  it('reads what it writes, and leaves all other bits alone', () => {
    fc.assert(
      fc.property(
        anySignal,
        fc.uint8Array({ minLength: 8, maxLength: 8 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (s, data, share) => {
          const [least, most] =
            s.as === 'signed' ? [-(2 ** (s.length - 1)), 2 ** (s.length - 1) - 1] : [0, 2 ** s.length - 1]
          // Adding 0 makes the -0 of rounding the 0 that bits have.
          const value = Math.round(least + share * (most - least)) + 0
          const after = data.slice()
          writeSignal(after, s, value)
          expect(readerOf(s)(after)).toBe(value)
          const own = new Set(placesOf(s))
          for (let p = 0; p < 64; p++)
            if (!own.has(p))
              expect(((after[p >> 3] as number) >> (p & 7)) & 1).toBe(
                ((data[p >> 3] as number) >> (p & 7)) & 1,
              )
          // What is more than it can hold is the nearest that it can.
          writeSignal(after, s, 1e30)
          expect(readerOf(s)(after)).toBe(most)
        },
      ),
    )
  })

  it('with the high byte first, is what stands there in one long number', () => {
    fc.assert(
      fc.property(
        anySignal.filter((x) => x.order === 'big' && x.as === 'unsigned'),
        fc.uint8Array({ minLength: 8, maxLength: 8 }),
        (s, data) => {
          const all = data.reduce((n, b) => n * 256n + BigInt(b), 0n)
          // Its start is its highest bit: so far from the front.
          const before = (s.start >> 3) * 8 + 7 - (s.start & 7)
          const value = (all >> BigInt(64 - before - s.length)) & ((1n << BigInt(s.length)) - 1n)
          expect(readerOf(s)(data)).toBe(Number(value))
        },
      ),
    )
  })

  // Of numbers with the high byte first that decoder takes the start for the lowest bit, which the format does not.
  it('with the low byte first, is read as somebody else’s decoder reads it', () => {
    fc.assert(
      fc.property(
        anySignal.filter((x) => x.order === 'little'),
        fc.uint8Array({ minLength: 8, maxLength: 8 }),
        (s, data) => {
          const dbc = new Dbc()
          const sign = s.as === 'signed' ? '-' : '+'
          dbc.load(
            `VERSION ""\n\nBU_: A\n\nBO_ 291 M: 8 A\n SG_ s : ${s.start}|${s.length}@${s.order === 'little' ? 1 : 0}${sign} (1,0) [0|0] "" A\n`,
            false,
          )
          const can = new Can()
          can.database = dbc.data
          const theirs = can.decode(can.createFrame(291, [...data]))?.boundSignals.get('s')?.value
          expect(readerOf(s)(data)).toBe(Number(theirs) + 0)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('the line of an adapter', () => {
  const frames = fc
    .record({ extended: fc.boolean(), id: fc.nat(2 ** 29 - 1), data: fc.uint8Array({ maxLength: 8 }) })
    .map(({ extended, id, data }): BusFrame => ({ extended, id: extended ? id : id % 2048, data }))

  it('reads what it writes, however it is cut into pieces', () => {
    fc.assert(
      fc.property(
        fc.array(frames, { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 1, max: 40 }),
        (list, piece) => {
          const bytes = new TextEncoder().encode(list.map(frameLine).join(''))
          const reader = new AdapterReader()
          const heard = []
          for (let i = 0; i < bytes.length; i += piece)
            heard.push(...reader.push(bytes.subarray(i, i + piece)))
          expect(heard).toEqual(list.map((frame) => ({ is: 'frame', frame })))
        },
      ),
    )
  })
  it('whatever noise comes, nothing that was not whole is taken, and it goes on', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => {
        const reader = new AdapterReader()
        reader.push(noise)
        const said = reader.push(new TextEncoder().encode('\rt1231AB\r'))
        expect(said.at(-1)).toEqual({
          is: 'frame',
          frame: { id: 0x123, extended: false, data: Uint8Array.of(0xab) },
        })
      }),
    )
  })
  it.each([
    ['t7FF0', 0x7ff],
    ['t8000', null],
    ['T1FFFFFFF0', 0x1fffffff],
    ['T200000000', null],
  ])('an identifier has the bits of its kind and no more: %s', (text, id) => {
    const [said] = new AdapterReader().push(new TextEncoder().encode(`${text}\r`))
    if (id === null) expect(said).toEqual({ is: 'strange', text })
    else expect(said).toMatchObject({ is: 'frame', frame: { id } })
  })
  it('as others write it: in small letters, with a time, with answers between', () => {
    const said = new AdapterReader().push(
      new TextEncoder().encode('z\r\rt7ff2abcd12F4\rT1ABCDEF00\r\x07V1013\rF84\rt12\rr1230\r'),
    )
    expect(said).toEqual([
      { is: 'done' },
      { is: 'done' },
      { is: 'frame', frame: { id: 0x7ff, extended: false, data: Uint8Array.of(0xab, 0xcd) } },
      { is: 'frame', frame: { id: 0x1abcdef0, extended: true, data: new Uint8Array(0) } },
      { is: 'refused' },
      { is: 'version', text: '1013' },
      { is: 'status', flags: 0x84 },
      { is: 'strange', text: 't12' },
    ])
    expect(statusWords(0x84)).toHaveLength(2)
    expect(openingLines(500_000)).toEqual(['C\r', 'S6\r', 'O\r'])
  })
})

const DBC = `VERSION "1"

NS_ :

BS_:

BU_: Cluster Engine

BO_ 640 Engine: 8 Engine
 SG_ EngineSpeed : 16|16@1+ (0.25,0) [0|10000] "rpm" Cluster
 SG_ WaterTemp : 39|8@0+ (1,-40) [-40|215] "degC" Cluster
 SG_ RollingCount : 52|4@1+ (1,0) [0|15] "" Cluster
 SG_ Checksum : 56|8@1+ (1,0) [0|255] "" Cluster

BO_ 2566844926 Wide: 8 Engine
 SG_ Mux M : 0|8@1+ (1,0) [0|0] "" Cluster
 SG_ A m0 : 8|32@1- (1,0) [0|0] "m" Cluster
 SG_ B m1 : 15|16@0+ (0.01,0) [0|0] "V" Cluster

BO_ 700 Long: 64 Engine
 SG_ X : 0|8@1+ (1,0) [0|0] "" Cluster

CM_ SG_ 640 EngineSpeed "Speed of the engine";
BA_DEF_ BO_  "GenMsgCycleTime" INT 0 65535;
BA_ "GenMsgCycleTime" BO_ 640 20;
VAL_ 640 RollingCount 0 "none" 1 "one" ;
SIG_VALTYPE_ 2566844926 A : 1;
SG_ this is no rule
`

describe('a database of a vehicle', () => {
  it('is read as it says, and what is not read is named', () => {
    const read = readDbc(DBC, 'truck.dbc')
    if ('problem' in read) throw new Error(read.problem)
    const [engine, wide] = read.database.messages
    expect(engine).toMatchObject({
      name: 'Engine',
      id: 640,
      extended: false,
      bytes: 8,
      everyMs: 20,
      sender: 'Engine',
    })
    expect(engine?.signals[0]).toEqual({
      ...{ name: 'EngineSpeed', start: 16, length: 16, order: 'little', as: 'unsigned', scale: 0.25, add: 0 },
      ...{ range: [0, 10_000], unit: 'rpm', description: 'Speed of the engine' },
    })
    expect(engine?.signals[2]?.choices).toEqual([
      [0, 'none'],
      [1, 'one'],
    ])
    expect(wide).toMatchObject({ name: 'Wide', id: 419_361_278, extended: true })
    expect(wide?.signals.map((s) => [s.name, s.multiplex, s.as])).toEqual([
      ['Mux', 'chooses', 'unsigned'],
      ['A', 0, 'float'],
      ['B', 1, 'unsigned'],
    ])
    expect(read.notes).toEqual([
      expect.stringContaining('SG_ this is no rule'),
      'Long has 64 bytes; messages of more than 8 are left out.',
    ])
    expect(databaseFindings(read.database)).toEqual([])
    expect(engine && guessedGuards(engine)).toEqual({ counter: 'RollingCount', check: 'Checksum' })
  })
  it.each([
    [
      'a million lines',
      `VERSION "1"\n${'BO_ 1 A: 8 B\n'.repeat(1_000_000 / 13)}${'\n'.repeat(900_000)}`,
      'lines; up to 60,000 are read',
    ],
    ['something else', '<html></html>', 'no messages'],
    ['nothing in it', 'VERSION "1"\n\nBU_: A\n', 'no messages of up to 8 bytes'],
  ])('%s is refused at once, with a sentence', (_, text, words) => {
    const began = performance.now()
    const read = readDbc(text, 'x.dbc')
    expect('problem' in read && read.problem).toContain(words)
    expect(performance.now() - began).toBeLessThan(2000)
  })
  it.each([
    ['messages', 501, 1, 500],
    ['signals', 100, 64, 78],
  ])('more %s than are kept are left out, and said', (_, messages, signals, kept) => {
    const lines = Array.from({ length: messages }, (_m, m) => [
      `BO_ ${m + 1} M${m}: 8 A`,
      ...Array.from({ length: signals }, (_s, s) => ` SG_ S${m}_${s} : ${s}|1@1+ (1,0) [0|1] "" A`),
      '',
    ]).flat()
    const read = readDbc(`VERSION ""\n\nBU_: A\n\n${lines.join('\n')}\n`, 'x.dbc')
    if ('problem' in read) throw new Error(read.problem)
    expect(read.database.messages).toHaveLength(kept)
    expect(read.notes).toContain(`Only the first ${kept} messages are taken.`)
  })
  it('signals that overlap, lie beyond the end, or twins of one number are said', () => {
    const findings = databaseFindings({
      name: '',
      messages: [
        message(
          [
            signal({ name: 'a', length: 12 }),
            signal({ name: 'b', start: 8 }),
            signal({ name: 'c', start: 12, length: 8 }),
          ],
          2,
        ),
        { ...message([signal({ name: 'x', multiplex: 1 }), signal({ name: 'y', multiplex: 2 })]), name: 'N' },
      ],
    })
    expect(findings).toEqual([
      'M: a and b lie on the same bits.',
      'M: b and c lie on the same bits.',
      'M: c lies beyond its 2 bytes and is left out.',
      'N has the number 001 of M; it is left out.',
      'N: nothing says which of its alternatives is in it; those are left out.',
    ])
  })
})

it('checks over a message, worked out by hand', () => {
  const data = Uint8Array.of(1, 2, 4, 0)
  expect(checkOver(data, 3, 'xor')).toBe(7)
  expect(checkOver(Uint8Array.of(0xff, 0, 0xff), 1, 'sum')).toBe(0xfe)
  // The check value of CRC-8/SAE-J1850 over 123456789.
  expect(crc8(new TextEncoder().encode('123456789'))).toBe(0x4b)
})

it('what moves slowly arrives when it is said to, and never goes past', () => {
  fc.assert(
    fc.property(
      fc.record({
        perS: fc.double({ min: 1, max: 5000, noNaN: true }),
        lagS: fc.double({ min: 0.05, max: 3, noNaN: true }),
      }),
      fc.double({ min: -1000, max: 1000, noNaN: true }),
      fc.double({ min: -1000, max: 1000, noNaN: true }),
      (slow, from, told) => {
        let at = from
        let sound = true
        const dt = 0.01
        for (let t = 0; t < slowTime(from, told, slow) + 5 * slow.lagS; t += dt) {
          const next = slowStep(at, told, slow, dt)
          sound &&=
            Math.abs(told - next) <= Math.abs(told - at) + 1e-9 &&
            Math.abs(next - at) <= slow.perS * dt + 1e-9
          at = next
        }
        expect(sound).toBe(true)
        expect(Math.abs(told - at)).toBeLessThanOrEqual(0.02 * Math.abs(told - from) + 1e-6)
      },
    ),
    { numRuns: 40 },
  )
})
