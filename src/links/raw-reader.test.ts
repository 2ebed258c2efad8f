import { describe, expect, it } from 'vitest'
import { boardEnd, hostEnd } from './board-link'
import { boardReaders, simulatorReaders } from './raw-reader'
import { line } from './simulator-link'

const names = {
  variable: (i: number) => ['gear.lever', 'flight.speed'][i],
  event: (i: number) => ['horn.cancel'][i],
}
const bytes = (text: string) => new TextEncoder().encode(text)

describe('frames in a raw view', () => {
  it('are shown as bytes and in words, however they are cut', () => {
    const board = boardEnd()
    const reader = boardReaders().in
    const frame = board.encode({ say: 'inputs', micros: 7, number: 3, inputs: [{ slot: 2, value: 1 }] }).bytes
    expect(reader.push(frame.subarray(0, 4))).toEqual([])
    const [piece] = reader.push(frame.subarray(4))
    expect(piece?.words).toBe('№ 0 · inputs · micros 7 · number 3 · inputs 2=1')
    expect(piece?.sound).toBe(true)
    expect(piece?.raw.split(' ')).toHaveLength(frame.length)
  })

  it('say what is damaged, said again, missing before, or of another version', () => {
    const host = hostEnd()
    const reader = boardReaders().out
    const first = host.encode({ say: 'read', offset: 0 }).bytes
    const damaged = first.map((b, i) => (i === 3 ? b ^ 0x10 : b))
    expect(reader.push(first)[0]?.words).toBe('№ 0 · read · offset 0')
    expect(reader.push(first)[0]).toMatchObject({ words: 'said again', sound: true })
    expect(reader.push(damaged)[0]).toMatchObject({ words: 'no sound frame', sound: false })
    host.encode({ say: 'start' })
    expect(reader.push(host.encode({ say: 'start' }).bytes)[0]).toMatchObject({
      words: '1 missing before · № 2 · start',
      sound: false,
    })
  })

  it('of another program are cut at zeros, or somewhere, and never fill the memory', () => {
    const reader = boardReaders().in
    expect(reader.push(bytes('GRBL ready\n\0'))[0]).toMatchObject({ words: 'no sound frame', sound: false })
    expect(reader.push(new Uint8Array(300_000).fill(65)).length).toBeGreaterThan(0)
  })
})

describe('lines in a raw view', () => {
  const read = (text: string) => simulatorReaders(names).in.push(bytes(text))

  it('have names where they have numbers, and stand beside as they were sent', () => {
    const frame = line({ say: 'frame', t: 1.5, i: [1, 0], v: [88.5, 2] })
    expect(read(frame)).toEqual([
      { raw: frame.trim(), words: 'frame · t 1.50 · flight.speed 88.5, gear.lever 2', sound: true },
    ])
    expect(read(line({ say: 'set', id: 7, i: 0, v: 1 }))[0]?.words).toBe('set № 7 · gear.lever 1')
    expect(read(line({ say: 'event', id: 8, e: 0, v: null }))[0]?.words).toBe('event № 8 · horn.cancel ')
    expect(read(line({ say: 'subscribe', i: 'all' }))[0]?.words).toBe('subscribe · all')
    expect(read(line({ say: 'done', id: 7 }))[0]?.words).toBe('done · id 7')
  })

  it('that are none are shown all the same', () => {
    expect(read('BEEP\r\n')[0]).toEqual({ raw: 'BEEP', words: 'BEEP', sound: false })
    expect(read('[1,2]\n')[0]).toMatchObject({ words: '[1,2]', sound: false })
    expect(simulatorReaders(names).in.push(Uint8Array.from([0xff, 0xfe, 10]))[0]).toMatchObject({
      raw: 'ff fe 0a',
      sound: false,
    })
    // A variable that nobody has told of is called by its number.
    expect(read(line({ say: 'frame', t: 0, i: [9], v: [1] }))[0]?.words).toContain('variable 9 1')
  })
})
