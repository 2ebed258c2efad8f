import {
  AVRIOPort,
  AVRTimer,
  CPU,
  portBConfig,
  portDConfig,
  timer0Config,
  timer1Config,
  timer2Config,
} from 'avr8js'
import { expect, it } from 'vitest'
import { randomFrom } from '../src/standins/craft/world'
import { ChipTimer } from './chip-timer'

const registersOf = { timer0: timer0Config, timer1: timer1Config, timer2: timer2Config }

/** A chip that has one timer and the pins that it may drive. */
const chipWith = (Timer: typeof AVRTimer, registers: typeof timer0Config) => {
  const cpu = new CPU(new Uint16Array(16))
  for (const config of [portBConfig, portDConfig]) new AVRIOPort(cpu, config)
  new Timer(cpu, registers)
  for (const { DDR } of [portBConfig, portDConfig]) cpu.writeData(DDR, 0xff)
  const [a, b] = [registers.compPortA, registers.compPortB].map((port) => cpu.gpioByPort[port])
  const pins = () => `${a?.pinState(registers.compPinA)} ${b?.pinState(registers.compPinB)}`
  return { cpu, pins }
}

const isDue = (cpu: CPU) => {
  const next = (cpu as unknown as { nextClockEvent: { cycles: number } | null }).nextClockEvent
  return next !== null && next.cycles <= cpu.cycles
}

it.each(Object.keys(registersOf) as (keyof typeof registersOf)[])(
  '%s is woken where something happens, and is at each instruction as the emulator’s own',
  (name) => {
    const registers = registersOf[name]
    const { TCCRA, TCCRB, OCRA, OCRB, ICR, TCNT, TIFR, TIMSK } = registers
    const isWide = registers.bits === 16
    const random = randomFrom(41)
    const upTo = (n: number) => Math.floor(random() * n)
    const wrong: string[] = []
    const woken = [0, 0]
    for (let program = 0; program < 250 && wrong.length < 5; program++) {
      const one = chipWith(AVRTimer, registers)
      const other = chipWith(ChipTimer, registers)
      const both = [one.cpu, other.cpu]
      const write = (register: number, value: number) => {
        for (const cpu of both) cpu.writeData(register, value)
      }
      const any = () => {
        const [what, low, high] = [upTo(8), upTo(256), random() < 0.7 ? 0 : upTo(256)]
        const wide = (register: number, value: number) => {
          if (isWide) write(register + 1, high)
          write(register, value)
        }
        if (what === 0) write(TCCRA, low & 0xf3)
        else if (what === 1) write(TCCRB, (low & 0x18) | (1 + upTo(4)))
        else if (what === 2) wide(OCRA, random() < 0.2 ? upTo(5) : low)
        else if (what === 3) wide(OCRB, low)
        else if (what === 4 && ICR > 0) wide(ICR, low)
        else if (what === 5) wide(TCNT, low)
        else if (what === 6) write(TIFR, 7)
        else if (what === 7) write(TIMSK, low & 7)
      }
      for (let i = 0; i < 6; i++) any()
      for (let step = 0; step < 1500; step++) {
        if (random() < 0.004) any()
        const cycles = 1 + upTo(4)
        for (const [i, cpu] of both.entries()) {
          cpu.cycles += cycles
          if (!isDue(cpu)) continue
          cpu.tick()
          woken[i] = (woken[i] as number) + 1
        }
        // The count itself is read now and then only: reading it brings it up to date.
        const look = (cpu: CPU) => `${cpu.data[TIFR]} ${step % 50 === 0 ? cpu.readData(TCNT) : ''}`
        const [a, b] = [`${look(one.cpu)} ${one.pins()}`, `${look(other.cpu)} ${other.pins()}`]
        if (a !== b) {
          const how = [TCCRA, TCCRB, OCRA, OCRB].map((r) => one.cpu.data[r]).join(' ')
          wrong.push(`program ${program}, step ${step}, registers ${how}: ${a} and ${b}`)
          break
        }
      }
    }
    expect(wrong).toEqual([])
    expect(woken[1]).toBeLessThan((woken[0] as number) / 3)
  },
  120_000,
)
