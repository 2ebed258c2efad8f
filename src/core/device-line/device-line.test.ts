import { execFile, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type DeviceDescription, deviceDescription } from './description'
import { deviceFindings } from './device-findings'
import { fingerprintOf } from './fingerprint'
import { readDeviceLine } from './read-line'
import { cppSketch } from './sketch-cpp'
import { pythonSketch } from './sketch-python'
import { checkOf, writeLine, writePacket } from './write-line'

const described = (more: object): DeviceDescription =>
  deviceDescription.parse({
    send: [
      { name: 'rpm', value: 'a', as: 'u16' },
      { name: 'speed', value: 'b', decimals: 2, unit: 'km/h', as: 'f32' },
      { name: 'gear', value: 'c', as: 'i8' },
      { name: 'word', value: 'd', as: 'text', bytes: 8 },
    ],
    ...more,
  })

describe('a line as it is sent', () => {
  it('with begin, fingerprint, values in their order, and a check worked out by hand', () => {
    const d = described({ marked: false })
    // XOR over "$1,2": 0x24 ^ 0x31 ^ 0x2c ^ 0x32.
    expect(checkOf('$1,2', 'xor')).toBe('0B')
    // 36 + 49 + 44 + 50 = 179.
    expect(checkOf('$1,2', 'sum')).toBe('B3')
    // The check value of CRC-16/IBM-3740 over 123456789.
    expect(checkOf('123456789', 'crc-16')).toBe('29B1')
    expect(writeLine({ ...d, check: 'none' }, [8123.4, 61.005, -1, 'go'])).toBe('$8123,61.01,-1,go\n')
    expect(
      writeLine({ ...d, check: 'none', marked: true, begins: '', separator: ';', ends: '\r\n' }, [
        1,
        2,
        3,
        'x',
      ]),
    ).toMatch(/^[0-9A-F]{4};1;2\.00;3;x\r\n$/)
    expect(writeLine({ ...d, check: 'none', named: true }, [1, null, -0.2, 'a,b*\n'])).toBe(
      '$rpm=1,speed=,gear=0,word=a b  \n',
    )
  })
  it('zeros fill up in front, behind the sign; what is enormous has no exponent', () => {
    const d = deviceDescription.parse({
      check: 'none',
      marked: false,
      begins: '',
      send: [{ name: 'a', value: 'x', width: 5, decimals: 1 }],
    })
    expect([3, -3, 12_345.67, -0.01].map((v) => writeLine(d, [v]))).toEqual([
      '003.0\n',
      '-03.0\n',
      '12345.7\n',
      '000.0\n',
    ])
    expect(writeLine(d, [1e40])).toBe('1000000000000000.0\n')
  })
  it('has another fingerprint as soon as the ends would misread each other, and the same otherwise', () => {
    const d = described({})
    const other = [
      { ...d, send: d.send.slice(1) },
      { ...d, send: [...d.send].reverse() },
      { ...d, separator: ';' },
      { ...d, check: 'sum' as const },
      { ...d, named: true },
      { ...d, send: d.send.map((s, i) => (i === 1 ? { ...s, unit: 'mph' } : s)) },
    ]
    expect(new Set([d, ...other].map(fingerprintOf)).size).toBe(7)
    expect(
      fingerprintOf({ ...d, hz: 3, when: 'always', send: d.send.map((s) => ({ ...s, value: 'z' })) }),
    ).toBe(fingerprintOf(d))
  })
})

describe('what comes back', () => {
  const d = described({ hear: [{ name: 'knob' }, { name: 'mode', as: 'text' }] })
  it.each<[string, object]>([
    ['12.5,auto', { is: 'values', values: [12.5, 'auto'] }],
    [',', { is: 'values', values: [null, null] }],
    ['mode=off', { is: 'values', values: [undefined, 'off'] }],
    ['mode=off,knob=-3', { is: 'values', values: [-3, 'off'] }],
    ['?3f2a\r', { is: 'fingerprint', fingerprint: '3F2A' }],
    ['1,2,3', { is: 'strange', why: '3 values came, 2 are expected' }],
    ['0x10,a', { is: 'strange', why: 'knob is no number: 0x10' }],
    ['door=1', { is: 'strange', why: 'nobody expects a value called door' }],
  ])('%s', (line, heard) => expect(readDeviceLine(d, line)).toEqual(heard))
  it('is strange where nothing is expected', () => {
    expect(readDeviceLine(described({}), 'hello')).toEqual({
      is: 'strange',
      why: 'nothing is expected to come back',
    })
  })
})

it('what is wrong with a description is said', () => {
  expect(deviceFindings(described({}))).toEqual([])
  expect(
    deviceFindings(
      described({
        form: 'packet',
        check: 'none',
        send: Array.from({ length: 60 }, (_, i) => ({ name: `v${i % 59}`, value: '', as: 'f64' })),
      }),
    ).filter((f) => !f.includes('no value')),
  ).toEqual([
    '“v0” is there twice.',
    'A packet carries at most 255 bytes; these values take 482.',
    'Without a check a damaged packet is taken for a sound one.',
  ])
})

// ---- the reading side, as it is given away: compiled by another compiler, run by another program ----------------------

const run = promisify(execFile)
const folder = mkdtempSync(join(tmpdir(), 'clavik-sketch-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A repeatable noise. */
const noiseFrom = (seed: number) => {
  let a = seed
  return () => {
    a = (Math.imul(a, 1_103_515_245) + 12_345) >>> 0
    return a / 4_294_967_296
  }
}

const forms: readonly (readonly [string, object])[] = [
  ['lines', { check: 'crc-16' }],
  [
    'lines with names, another mark between them',
    { check: 'crc-16', named: true, separator: '; ', begins: '#>', ends: '\r\n' },
  ],
  ['lines without fingerprint', { check: 'crc-16', marked: false }],
  ['packets', { form: 'packet', check: 'crc-16' }],
  ['packets without fingerprint', { form: 'packet', check: 'crc-16', marked: false }],
]
const sound: readonly (readonly [string, object])[] = [
  ['lines with an xor', { check: 'xor' }],
  ['lines with a sum', { check: 'sum', ends: '\r' }],
  ['lines with no check', { check: 'none' }],
  ['packets with an xor', { form: 'packet', check: 'xor' }],
  ['packets with a sum', { form: 'packet', check: 'sum' }],
  ['packets with no check', { form: 'packet', check: 'none' }],
]

const write = (d: DeviceDescription, values: readonly (number | string | null)[]): Buffer =>
  Buffer.from(d.form === 'line' ? writeLine(d, values) : writePacket(d, values))

const cppMain = `
#include <stdio.h>
int main() {
  static ClavikReader reader;
  int c;
  while ((c = getchar()) != EOF)
    if (reader.feed(c)) printf("%.0f %.2f %.0f %s\\n", (double)reader.values.rpm, (double)reader.values.speed, (double)reader.values.gear, reader.values.word);
  printf("other %d\\n", reader.otherDescription);
}
`
const pythonMain = `
import sys
reader = Reader()
data = sys.stdin.buffer.read()
for i in range(0, len(data), 7):
    for v in reader.feed(data[i : i + 7]):
        n = lambda x: float("nan") if x is None else x
        print("%.0f %.2f %.0f %s" % (n(v["rpm"]), n(v["speed"]), n(v["gear"]), v["word"] or ""))
print("other %d" % reader.other_description)
`

const programs = new Map<string, readonly [string, string[]][]>()
const key = (d: DeviceDescription) => JSON.stringify(d)

/** Both readers of a description, over the same bytes. */
const readBy = (d: DeviceDescription, bytes: Buffer): string[][] =>
  (programs.get(key(d)) ?? []).map(([command, args]) =>
    spawnSync(command, args, { input: bytes }).stdout.toString().trim().split('\n'),
  )

describe('the reading side that is generated', () => {
  beforeAll(async () => {
    const make = async ([i, [, more]]: [number, readonly [string, object]]) => {
      const d = described(more)
      const cpp = join(folder, `reader${i}.cpp`)
      const program = join(folder, `reader${i}`)
      const python = join(folder, `reader${i}.py`)
      writeFileSync(join(folder, `reader${i}.h`), cppSketch(d, 'A “display” \\ of my own'))
      writeFileSync(cpp, `#include "reader${i}.h"\n${cppMain}`)
      writeFileSync(python, pythonSketch(d, 'A “display” \\ of my own') + pythonMain)
      await run('g++', [
        ...'-std=c++11 -Wall -Wextra -Werror -O1 -fsanitize=address,undefined -o'.split(' '),
        program,
        cpp,
      ])
      programs.set(key(d), [
        [program, []],
        ['python3', [python]],
      ])
    }
    const waiting = [...[...forms, ...sound].entries()]
    // As many at once as there are cores on a small machine.
    await Promise.all(
      [0, 1].map(async () => {
        for (let next = waiting.shift(); next; next = waiting.shift()) await make(next)
      }),
    )
  }, 120_000)

  it.each([...forms, ...sound])('%s are read as they were meant', (_, more) => {
    const d = described(more)
    const bytes = Buffer.concat([
      write(d, [8123, 61.25, -1, 'go']),
      write(d, [0, -0.5, 6, 'wörd']),
      write(d, [65_535, 1e4, 0, '']),
    ])
    for (const lines of readBy(d, bytes))
      expect(lines).toEqual(
        ['8123 61.25 -1 go', '0 -0.50 6 wörd', '65535 10000.00 0', 'other 0'].map((l) =>
          expect.stringMatching(`^${l} ?$`),
        ),
      )
  })

  it.each(forms)(
    '%s: whatever is lost, damaged or put in between, nothing is taken that was not sent, and it goes on',
    (_, more) => {
      const d = described(more)
      // With 11 one of the 3,000 faults finds the one in 65,536 that such a check cannot see.
      const noise = noiseFrom(12)
      const sent = Array.from({ length: 300 }, (_, i) => [i, i / 4, (i % 8) - 1, `w${i}`] as const)
      const pieces = sent.map((values, i) => {
        const bytes = [...write(d, values)]
        // The first and the last twenty go over a quiet line.
        if (i < 20 || i >= 280) return Buffer.from(bytes)
        const at = Math.floor(noise() * bytes.length)
        const fault = Math.floor(noise() * 5)
        if (fault === 1) bytes.splice(at, 1)
        if (fault === 2) bytes[at] = (bytes[at] as number) ^ (1 << Math.floor(noise() * 8))
        if (fault === 3) bytes.splice(at, 0, Math.floor(noise() * 256), 0xa5)
        if (fault === 4) bytes.splice(at)
        return Buffer.from(bytes)
      })
      for (const lines of readBy(d, Buffer.concat(pieces))) {
        const meant = new Set(sent.map(([a, b, c, w]) => `${a} ${b.toFixed(2)} ${c} ${w}`))
        const taken = lines.slice(0, -1).map((l) => l.trim())
        for (const line of taken) expect(meant).toContain(line)
        expect(taken.length).toBeGreaterThan(60)
        // One that ends broken may take the next one with it.
        for (const [a, b, c, w] of sent.slice(282)) expect(taken).toContain(`${a} ${b.toFixed(2)} ${c} ${w}`)
      }
    },
  )

  it.each(forms.filter(([, more]) => !('marked' in more)))(
    '%s by another description are not taken, and noticed',
    (_, more) => {
      const d = described(more)
      const other = {
        ...d,
        send: [d.send[0], { ...d.send[1], name: 'torque' }, d.send[2], d.send[3]],
      } as DeviceDescription
      for (const lines of readBy(d, write(other, [1, 2, 3, 'x']))) expect(lines).toEqual(['other 1'])
      for (const lines of readBy(d, Buffer.concat([write(other, [1, 2, 3, 'x']), write(d, [1, 2, 3, 'x'])])))
        expect(lines).toEqual(['1 2.00 3 x', 'other 0'])
    },
  )
})
