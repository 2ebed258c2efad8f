import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue, control, craft, lamp, smallRig, V } from '../../../../tests/rigs'
import type { Block } from '../block'
import { BlockBuilder } from '../block-builder'
import { Performance } from '../perform'
import { Scene } from '../reel'
import { FileRefused } from './file-refused'
import type { RecordingFormat } from './formats'
import { passagesOf } from './passages'
import { RecordingFileReader } from './read-file'
import type { TakenFile } from './taken-file'
import { writerOf } from './write'

const head = { sources: [craft(catalogue)], armed: true }

/** Blocks of ten seconds with a change a second, some moments between. */
const recorded = (seconds: number): Block[] => {
  const blocks: Block[] = []
  const now = new Float64Array(catalogue.variables.length).fill(Number.NaN)
  now[V.gear] = 0
  now[V.volts] = 28
  const standing = {
    armed: true,
    up: [0],
    quiet: [],
    boards: ['board'],
    controls: [['lever', 'lever', 1]] as [string, string, number][],
  }
  for (let from = 0; from < seconds; from += 10) {
    const builder = new BlockBuilder(from * 1e6, standing, now.slice())
    if (from > 0) builder.putFirst(V.advice, 'Go on')
    for (let s = from; s < Math.min(seconds, from + 10); s++) {
      builder.beginFrame(s * 1e6 + 123_456, s + 0.5, 0)
      builder.change(V.gear, s / 7)
      builder.change(V.height, s % 3 === 0 ? Number.NaN : s * 10)
      if (s === 2) builder.change(V.advice, builder.text('Go on'))
      now[V.gear] = s / 7
      now[V.height] = s % 3 === 0 ? Number.NaN : s * 10
      if (s % 10 === 4)
        builder.moment(s * 1e6 + 400_000, { is: 'mark', words: `Mark, "${from}"`, by: 'builder' })
      if (s % 4 === 1)
        builder.moment(s * 1e6 + 500_000, { is: 'report', partId: 'lever', aspectId: 'lever', value: s % 8 })
    }
    blocks.push(builder.done(Math.min(seconds, from + 10) * 1e6))
  }
  return blocks
}

const write = (
  format: RecordingFormat,
  blocks: readonly Block[],
  from = 0,
  until = Number.POSITIVE_INFINITY,
) => {
  const { begin, passages, end } = writerOf(format, 'Trial', head)
  const scene = new Scene(head.sources)
  const inside = blocks.filter((b) => b.until >= from && b.from <= until)
  const pieces = inside.map((b, i) => passages(passagesOf(scene, b, from, until, i === 0)))
  return [begin(), ...pieces, end(Math.min(until, blocks.at(-1)?.until ?? 0) - from)].join('')
}

const read = (text: string, name = 'A file', pieces = 1): TakenFile => {
  const reader = new RecordingFileReader(name)
  const size = Math.ceil(text.length / pieces)
  for (let at = 0; at < text.length; at += size) reader.push(text.slice(at, at + size))
  return reader.end()
}

/** Every value that a recording tells, in order. */
const told = (file: TakenFile): (readonly [number, string, unknown])[] => {
  const scene = new Scene(file.head.sources)
  const names = file.head.sources.flatMap((s) => s.catalogue?.variables.map((v) => v.name) ?? [])
  const all: (readonly [number, string, unknown])[] = []
  let isFirst = true
  for (const block of file.blocks) {
    for (const p of passagesOf(scene, block, 0, Number.POSITIVE_INFINITY, isFirst)) {
      if (p.is === 'moment') continue
      const places = p.is === 'whole' ? names.map((_, v) => v) : p.variables
      for (const [i, v] of places.entries())
        if (p.is !== 'whole' || p.values[i] !== null)
          all.push([p.at / 1e6, names[v] ?? '', p.values[i] ?? null])
    }
    isFirst = false
  }
  return all
}

const refusal = (text: string): string => {
  try {
    read(text)
    return 'taken'
  } catch (error) {
    expect(error).toBeInstanceOf(FileRefused)
    return (error as Error).message
  }
}

describe('JSON Lines', () => {
  it('hold all of a recording: played again, it does the same, byte for byte', () => {
    const rig = smallRig({ lamp: lamp(), lever: control() })
    const played = (blocks: Iterable<Block>) => {
      const effects: unknown[] = []
      const performance = new Performance(head, rig, (done, at) => effects.push(at, done))
      for (const b of blocks) performance.play(b)
      return JSON.stringify(effects)
    }
    const blocks = recorded(45)
    const file = read(write('jsonl', blocks))
    expect(file.odd).toEqual([])
    expect(file.name).toBe('Trial')
    expect(file.head).toEqual(head)
    expect(file.marks).toHaveLength(5)
    expect(played(file.blocks)).toBe(played(blocks))
  })

  it('each block begins with what was told before it, however long ago', () => {
    const line = (time: number, values: object) => JSON.stringify({ time, values })
    const lines = [line(0, { gear: 0.25, volts: 28 }), line(1, { volts: 27 })]
    for (let t = 2; t < 40; t += 2) lines.push(line(t, { speed: t }))
    const file = read(`${lines.join('\n')}\n`)
    const blocks = [...file.blocks]
    const names = file.head.sources[0]?.catalogue?.variables.map((v) => v.name) ?? []
    expect(blocks.length).toBeGreaterThan(3)
    for (const { first } of blocks.slice(1))
      expect([first[names.indexOf('gear')], first[names.indexOf('volts')]]).toEqual([0.25, 27])
    expect(blocks.slice(1).map((b) => b.first[names.indexOf('speed')])).toEqual([8, 18, 28])
  })

  it('come in pieces of any size', () => {
    const text = write('jsonl', recorded(12))
    const whole = told(read(text))
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 400 }), (pieces) => {
        expect(told(read(text, 'A file', pieces))).toEqual(whole)
      }),
      { numRuns: 20 },
    )
  })

  it('of a stretch begin with how everything stood, at time zero', () => {
    const file = read(write('jsonl', recorded(45), 13.5e6, 21e6))
    const values = told(file)
    expect(values[0]).toEqual([0, 'gear.position', 13 / 7])
    expect(values).toContainEqual([0, 'advice', 'Go on'])
    expect(values.at(-1)?.[0]).toBeCloseTo(20.123456 - 13.5, 6)
  })

  it('of another program are taken: a name and a value a line, or several', () => {
    const text = '{"t":1,"name":"Height","value":100}\n{"time":1.5,"values":{"Height":101,"On":true}}\n'
    expect(told(read(text))).toEqual([
      [0, 'Height', 100],
      [0.5, 'Height', 101],
      [0.5, 'On', 1],
    ])
  })

  it('say what is not understood, and keep the rest', () => {
    const file = read(
      '{"t":1,"name":"a","value":1}\n{"t":2,"name":\nnonsense\n{"t":0.5,"name":"a","value":9}\n{"t":3,"name":"a","value":3}\n',
    )
    expect(told(file).map(([, , v]) => v)).toEqual([1, 3])
    expect(file.odd).toEqual([
      '2 lines are not understood, the first of them line 2; left out.',
      'A line has a time before that of the line above, the first in line 4; left out.',
    ])
  })

  it('from a newer Clavik are refused, and what names what no catalogue has is said', () => {
    const text = write('jsonl', recorded(5))
    expect(refusal(text.replace('"version":1', '"version":7'))).toContain('newer Clavik')
    expect(read(text.replaceAll('"height":', '"nobody":')).odd.join()).toContain(
      '“nobody” is in none of its catalogues',
    )
    expect(refusal('{"clavik":"recording","version":1}\n')).toContain('sources')
  })
})

describe('CSV', () => {
  it.each(['changes', 'columns'] as const)('with %s has what was told', (format) => {
    const text = write(format, recorded(25))
    const file = read(text)
    expect(file.odd).toEqual([])
    const [source] = file.head.sources
    expect(source?.catalogue?.variables.find((v) => v.name === 'height')).toMatchObject({
      unit: 'ft',
      type: 'number',
    })
    const of = (name: string, list: ReturnType<typeof told>) =>
      list.filter(([, n, v]) => n === name && v !== null).map(([t, , v]) => `${t.toFixed(6)} ${v}`)
    const whole = told(read(write('jsonl', recorded(25))))
    for (const name of ['gear.position', 'height', 'advice']) {
      // What stands again is no change.
      const changes = of(name, whole).filter((v, i, all) => v.split(' ')[1] !== all[i - 1]?.split(' ')[1])
      expect(of(name, told(file)).length).toBeGreaterThanOrEqual(changes.length)
      expect(of(name, told(file))).toEqual(expect.arrayContaining(changes))
    }
  })

  it('is read by others as it was meant', () => {
    const program = 'import csv, json, sys; print(json.dumps(list(csv.DictReader(sys.stdin))))'
    const rowsOf = (format: 'changes' | 'columns') =>
      JSON.parse(
        execFileSync('python3', ['-c', program], { input: write(format, recorded(12)) }).toString(),
      ) as Record<string, string>[]
    const changes = rowsOf('changes').filter((r) => r.name === 'height')
    expect(changes.find((r) => r['time (s)'] === '1.123456')).toMatchObject({ value: '10', unit: 'ft' })
    const columns = rowsOf('columns')
    expect(columns.find((r) => r['time (s)'] === '4.123456')).toMatchObject({
      'height (ft)': '40',
      advice: 'Go on',
    })
    // Absent is an empty cell.
    expect(columns.find((r) => r['time (s)'] === '3.123456')?.['height (ft)']).toBe('')
  })

  it.each([
    ['time,a\n0,1\n1,2', [0, 1], [1, 2]],
    ['ms;a\n0;1,5\n250;2,5', [0, 0.25], [1.5, 2.5]],
    ['Time (us)\ta [ft]\n0\t1\n500000\t2', [0, 0.5], [1, 2]],
    ['timestamp,a\n2026-01-01T00:00:00Z,1\n2026-01-01T00:00:01.5Z,2', [0, 1.5], [1, 2]],
    ['t,a\n1:00,1\n1:01:00.5,2', [0, 3600.5], [1, 2]],
    ['\uFEFFa,seconds\r\n1,0\r\n2,3\r\n', [0, 3], [1, 2]],
    ['"time","a"\n"0","1"\n"2","2"\n', [0, 2], [1, 2]],
  ])('of another program is read: %s', (text, times, values) => {
    const all = told(read(text))
    expect(all.map(([t]) => t)).toEqual(times)
    expect(all.map(([, , v]) => v)).toEqual(values)
  })

  it('tells texts, booleans and nothing from numbers; a column with a text in it has texts', () => {
    const file = read('time,a,b,c\n0,1,true,x\n1,,false,5\n2,3,,x\n')
    const types = file.head.sources[0]?.catalogue?.variables.map((v) => v.type)
    expect(types).toEqual(['number', 'boolean', 'text'])
    expect(
      told(file)
        .filter(([, n]) => n === 'c')
        .map(([, , v]) => v),
    ).toEqual(['x', '5', 'x'])
    expect(
      told(file)
        .filter(([, n]) => n === 'a')
        .map(([, , v]) => v),
    ).toEqual([1, null, 3])
  })

  it('says what is wrong with it, and where, and keeps the rest', () => {
    const file = read('time,a (wibble)\n0,1\nlater,2\n2,3,4\n1,9\n3,5\n')
    expect(told(file).map(([, , v]) => v)).toEqual([1, 3, 5])
    expect(file.odd).toEqual([
      'The unit “wibble” is not known, so that nothing is converted; it is kept as it is.',
      'A line has no time that can be read, the first in line 3; left out.',
      'A line has more or fewer columns than the first line names, the first in line 4; what is there is taken.',
      'A line has a time before that of the line above, the first in line 5; left out.',
    ])
  })

  it.each([
    ['', 'There is nothing in the file.'],
    ['\n\n', 'There is nothing in the file.'],
    [
      'what,how many\nbolts,4',
      'Its first line names no column of times (“time (s)”, “t”, “ms” …): there are “what”, “how many”.',
    ],
    ['time\n1\n', 'It has a column of times, and no other with a name.'],
    [
      'time,a\nx,1\n',
      'It has no line that can be taken. A line has no time that can be read, the first in line 2; left out.',
    ],
    ['time,a\n', 'It has no line that can be taken.'],
  ])('that is none is refused: %j', (text, words) => {
    expect(refusal(text)).toBe(words)
  })

  it('of a million lines is taken', () => {
    const reader = new RecordingFileReader('Long')
    reader.push('time,a,b\n')
    for (let n = 0; n < 100; n++)
      reader.push(Array.from({ length: 10_000 }, (_, i) => `${(n * 10_000 + i) / 100},${i},${n}\n`).join(''))
    const file = reader.end()
    let changes = 0
    let until = 0
    for (const block of file.blocks) {
      changes += block.frames.values.length
      expect(block.from).toBe(until)
      until = block.until
    }
    expect(changes).toBe(1_000_000 + 100)
    expect(until / 1e6).toBeCloseTo(9999.99, 2)
  })

  it('with anything in it ends in a recording or a sentence', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.float().map(String),
      fc.constantFrom('"', ',', ';', '\n', '1e999', '{', '-'),
    )
    const text = fc
      .array(fc.array(cell, { maxLength: 5 }), { maxLength: 12 })
      .map((rows) => rows.map((r) => r.join(',')).join('\n'))
    fc.assert(
      fc.property(fc.boolean(), text, (hasHeader, body) => {
        try {
          const file = read(hasHeader ? `time,a,b\n${body}` : body)
          for (const block of file.blocks) expect(block.until).toBeGreaterThanOrEqual(block.from)
        } catch (error) {
          expect(error).toBeInstanceOf(FileRefused)
        }
      }),
      { numRuns: 500 },
    )
  })
})
