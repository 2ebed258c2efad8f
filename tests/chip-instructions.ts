import { readFileSync } from 'node:fs'
import type { CPU } from 'avr8js'

/** The emulator's own module, in which one function looks for an instruction among ninety, one after the other. */
const SOURCE = 'node_modules/avr8js/dist/esm/cpu/instruction.js'
const CODES = 0x10000

type Does = (cpu: CPU, opcode: number) => void

/**
 * The emulator's instructions, each as it is there, found by a table in place of a search: which of its conditions holds first
 * is looked up once for each of the 65,536 codes. Nothing of what an instruction does is written here; `chip-instructions.test.ts`
 * holds the one against the other.
 */
const read = (): { does: readonly Does[]; of: Uint8Array } => {
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
  const does = pieces.map(
    ([, , body]) => new Function(`${helper}\nreturn (cpu, opcode) => {\n${body}}`)() as Does,
  )
  const of = Uint8Array.from({ length: CODES }, (_, code) => {
    const found = conditions.findIndex((holds) => holds(code))
    return found < 0 ? does.length : found
  })
  return { does: [...does, () => {}], of }
}

const { does, of } = read()

/** One instruction of a chip: the same as the emulator's own `avrInstruction`, sooner. */
export const instruct = (cpu: CPU): void => {
  const opcode = cpu.progMem[cpu.pc] as number
  ;(does[of[opcode] as number] as Does)(cpu, opcode)
  cpu.pc = (cpu.pc + 1) % cpu.progMem.length
  cpu.cycles++
}
