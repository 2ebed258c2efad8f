import { describe, expect, it } from 'vitest'
import type { ProgramState } from '../../core/programs/programs'
import { chipOfSignature, PROGRAM, programChips } from '../../core/programs/programs'
import { hostEnd } from '../../links/board-link'
import { SimulatedBoard } from '../../standins/boards/simulated-board'
import type { FoundChip } from './probe'
import { Programs, type Tools } from './programs'
import { progressOf, troubleOf } from './write'

const chip = programChips[0] as (typeof programChips)[number]
const found: FoundChip = { chip, way: { talk: 'commands', speed: 115_200 } }

/** A port of which is written down who has it, and each state that was told. */
const port = (tools: Partial<Tools>, answers = true) => {
  const told: ProgramState[] = []
  const hands: string[] = []
  const programs: Programs = new Programs(
    {
      take: () => {
        hands.push('taken')
        return () => hands.push('given back')
      },
      ask: () => hands.push('asked'),
      answers: () => answers,
      changed: () => {
        const state = programs.stateOf('/dev/a')
        if (state) told.push(state)
      },
    },
    { probe: async () => found, write: async () => null, ...tools },
  )
  return { programs, told, hands }
}

describe('a program that is loaded', () => {
  it('is told from the first question to the hello', async () => {
    const { programs, told, hands } = port({
      write: async (_, __, progress) => {
        progress('writing', 0.5)
        progress('verifying', 0.25)
        return null
      },
    })
    await programs.load('/dev/a')
    expect(told).toEqual([
      { at: 'asking' },
      { at: 'writing', chip: 'ATmega328P', share: 0 },
      { at: 'writing', chip: 'ATmega328P', share: 0.5 },
      { at: 'verifying', chip: 'ATmega328P', share: 0.25 },
      { at: 'starting', chip: 'ATmega328P' },
      { at: 'done', chip: 'ATmega328P' },
    ])
    // Whoever had the port has it back before the board is asked.
    expect(hands.slice(0, 3)).toEqual(['taken', 'given back', 'asked'])
  })

  it('fails with a sentence, gives the port back, and can be begun again', async () => {
    let tries = 0
    const { programs, hands } = port({
      write: async (_, __, progress) => {
        progress('verifying', 0.5)
        return tries++ === 0 ? { problem: 'it broke off', cure: null } : null
      },
    })
    await programs.load('/dev/a')
    expect(programs.stateOf('/dev/a')).toEqual({
      ...{
        at: 'failed',
        during: 'verifying',
        chip: 'ATmega328P',
        problem: 'it broke off',
        cure: 'Try again.',
      },
    })
    expect(hands).toEqual(['taken', 'given back'])
    await programs.load('/dev/a')
    expect(programs.stateOf('/dev/a')?.at).toBe('done')
    programs.forget('/dev/a')
    expect(programs.stateOf('/dev/a')).toBeNull()
  })

  it('is not begun twice, and is not forgotten half-way', async () => {
    let writes = 0
    const { programs } = port({
      write: async () => {
        writes++
        await new Promise((resolve) => setTimeout(resolve, 20))
        return null
      },
    })
    const first = programs.load('/dev/a')
    await programs.load('/dev/a')
    expect(programs.isBusy('/dev/a')).toBe(true)
    programs.forget('/dev/a')
    expect(programs.stateOf('/dev/a')?.at).toBe('writing')
    await first
    expect(writes).toBe(1)
  })

  it('whatever is thrown on the way is a sentence too', async () => {
    const { programs, hands } = port({
      probe: async () => {
        throw new Error('the sky fell')
      },
    })
    await programs.load('/dev/a')
    expect(programs.stateOf('/dev/a')).toMatchObject({ at: 'failed', chip: null })
    expect(hands).toEqual(['taken', 'given back'])
  })
})

describe('what the writing program says', () => {
  it('is a share of each of its two steps', () => {
    expect(progressOf('avrdude: writing 26832 bytes flash ...\n')).toBeNull()
    expect(progressOf('Writing | #####')).toEqual({ at: 'writing', share: 0.1 })
    const all = `Writing | ${'#'.repeat(50)} | 100% 1.91s\n\nReading | ${'#'.repeat(25)}`
    expect(progressOf(all)).toEqual({ at: 'verifying', share: 0.5 })
    // The signature is read with a bar of its own, before anything is written.
    expect(progressOf(`Reading | ${'#'.repeat(50)} | 100% 0.00s\nWriting | #`)).toEqual({
      at: 'writing',
      share: 0.02,
    })
  })

  it.each([
    ['avrdude warning: attempt 10 of 10: not in sync: resp=0x07', 'its bootloader stopped answering'],
    ['avrdude error: verification mismatch', 'what was read back is not what was written'],
    ['avrdude OS error: cannot open port /dev/x: Permission denied', 'this program may not open the port'],
    ['avrdude OS error: cannot open port /dev/x: No such file or directory', 'the port went away'],
    ['avrdude error: something else entirely', 'something else entirely'],
  ])('means something: %s', (said, means) => {
    expect(troubleOf(said).problem).toContain(means)
    expect(troubleOf(said).cure).toBeTruthy()
  })
})

describe('the records', () => {
  it('know each chip by its signature', () => {
    for (const c of programChips) expect(chipOfSignature(c.signature)).toBe(c)
  })

  it('have the number that the program itself says', () => {
    const host = hostEnd()
    let number: number | undefined
    const board = new SimulatedBoard('00112233445566aa', 'ATmega328P board', null, Math.random, (bytes) => {
      for (const { message } of host.decode(bytes))
        if (message.say === 'hello') number = message.model === 'ATmega328P board' ? message.program : -1
    })
    board.connect(1000)
    expect(number).toBe(PROGRAM)
  })
})
