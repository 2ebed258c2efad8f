import { avrInstruction, CPU } from 'avr8js'
import { expect, it } from 'vitest'
import { randomFrom } from '../src/standins/craft/world'
import { Chip } from './chip'
import { runTo } from './chip-instructions'

const WORDS = 16_384
const SRAM = 2048

/** A chip whose memory is full of chance, with its pointers where there is memory. */
const anyChip = (random: () => number, code: number): [CPU, CPU] => {
  const program = new Uint16Array(WORDS)
  const at = 100 + Math.floor(random() * 8000)
  program.set([code, Math.floor(random() * 0x10000), Math.floor(random() * 0x10000)], at)
  const [one, other] = [new CPU(program, SRAM), new CPU(program, SRAM)]
  for (let i = 0; i < one.data.length; i++) one.data[i] = Math.floor(random() * 256)
  // X, Y, Z and the stack.
  for (const low of [26, 28, 30, 93]) one.dataView.setUint16(low, 0x200 + Math.floor(random() * 1500), true)
  one.pc = at
  other.data.set(one.data)
  other.pc = at
  return [one, other]
}

it('the emulator does the same by its table as by its own search, for every code that there is', () => {
  const random = randomFrom(29)
  const wrong: string[] = []
  for (let code = 0; code < 0x10000; code++) {
    const [one, other] = anyChip(random, code)
    avrInstruction(one)
    runTo(other, other.cycles + 1)
    const isSame =
      one.pc === other.pc && one.cycles === other.cycles && Buffer.compare(one.data, other.data) === 0
    if (!isSame) wrong.push(code.toString(16))
  }
  expect(wrong).toEqual([])
}, 120_000)

it('a program with its timers, its line and its interrupts stands where the emulator has it, however it is run', () => {
  const [one, other] = ['atmega328p', 'atmega328p'].map(() => new Chip('atmega328p'))
  const random = randomFrom(31)
  const cpu = one?.core as CPU
  for (let turn = 0; turn < 200; turn++) {
    const bytes = Array.from({ length: 3 }, () => Math.floor(random() * 256))
    for (const chip of [one, other]) chip?.receive(bytes)
    const count = Math.floor(random() * 20_000)
    for (const end = cpu.cycles + count; cpu.cycles < end; ) {
      avrInstruction(cpu)
      cpu.tick()
    }
    other?.runCycles(count)
    expect([other?.core.pc, other?.core.cycles]).toEqual([cpu.pc, cpu.cycles])
    expect(Buffer.compare(other?.core.data as Uint8Array, cpu.data)).toBe(0)
  }
  expect(cpu.data.some((b) => b !== 0)).toBe(true)
})
