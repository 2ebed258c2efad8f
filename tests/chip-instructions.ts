import { readFileSync } from 'node:fs'
import type { CPU } from 'avr8js'

/** The emulator's own module, in which one function looks for an instruction among ninety, one after the other. */
const SOURCE = 'node_modules/avr8js/dist/esm/cpu/instruction.js'
const CODES = 0x10000

/**
 * The emulator's instructions, each as it is there, found by a table in place of a search: which of its conditions holds first
 * is looked up once for each of the 65,536 codes. Nothing of what an instruction does is written here; `chip-instructions.test.ts`
 * holds the one against the other.
 */
const read = (): { bodies: readonly string[]; helper: string; of: Uint8Array } => {
  const source = readFileSync(SOURCE, 'utf8')
  const helper = /^function isTwoWordInstruction[\s\S]*?^\}/m.exec(source)?.[0]
  const whole =
    /^export function avrInstruction\(cpu\) \{\n {4}const opcode = .*;\n([\s\S]*?)^ {4}cpu\.pc = /m.exec(
      source,
    )?.[1]
  const pieces = [...(whole ?? '').matchAll(/^ {4}(?:else )?if \(([\s\S]*?)\) \{\n([\s\S]*?)^ {4}\}\n/gm)]
  const rest = pieces.reduce((text, [piece]) => text.replace(piece, ''), whole ?? '')
  if (!helper || pieces.length < 80 || rest.trim() !== '')
    throw new Error('the emulator is written otherwise than when it was taken apart')
  const conditions = pieces.map(
    ([, c]) => new Function('opcode', `return ${c}`) as (opcode: number) => boolean,
  )
  const bodies = pieces.map(([, , body]) => body as string)
  const of = Uint8Array.from({ length: CODES }, (_, code) => {
    const found = conditions.findIndex((holds) => holds(code))
    return found < 0 ? pieces.length : found
  })
  return { bodies, helper, of }
}

const { bodies, helper, of } = read()

/** What belongs to a chip for as long as it has power is looked up once. */
const local = (body: string) => body.replaceAll(/\bcpu\.(data|dataView|progMem|progBytes)\b/g, '$1')

/**
 * Lets a chip run until so many cycles have passed since it began: the same as the emulator's `avrInstruction` and `tick`
 * in turn, sooner.
 */
export const runTo = new Function(
  'of',
  `${helper}
  return (cpu, end) => {
    const { data, dataView, progMem, progBytes } = cpu
    const last = progMem.length - 1
    while (cpu.cycles < end) {
      const opcode = progMem[cpu.pc]
      switch (of[opcode]) {
        ${bodies.map((body, k) => `case ${k}: {\n${local(body)} break }`).join('\n')}
      }
      cpu.pc = cpu.pc >= last ? (cpu.pc + 1) % progMem.length : cpu.pc + 1
      cpu.cycles++
      const next = cpu.nextClockEvent
      if ((next !== null && next.cycles <= cpu.cycles) || (cpu.nextInterrupt >= 0 && (data[95] & 0x80) !== 0)) cpu.tick()
    }
  }`,
)(of) as (cpu: CPU, end: number) => void
