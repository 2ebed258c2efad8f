import { createInterface } from 'node:readline'
import { SerialPort } from 'serialport'
import { type Bootloader, Messages, ShortCommands } from './bootloader'
import { Chip, type ChipName, chipKinds } from './chip'

/**
 * An emulated chip at the far end of a serial port, as quick as the clock on the wall. What happens to its pins comes in as
 * lines of JSON, and so does what is asked of them: {"pin": 4, "closed": true} or {"pin": 8}; a wiper, which trembles as real ones do,
 * as {"pin": 14, "wiper": 0.3}. With `blank` it has but its
 * bootloader, which takes a program and starts it. A pseudo-terminal has no line to reset a board by: that somebody asks for
 * the bootloader does it.
 */
const [, , path = '', name = 'atmega328p', blank] = process.argv as string[]
const kind = name as ChipName
const signatures = { atmega328p: [0x1e, 0x95, 0x0f], atmega2560: [0x1e, 0x98, 0x01] } as const
const port = new SerialPort({ path, baudRate: 115_200 })
const said: number[] = []
let spoils = 0
const flash = new Uint8Array(chipKinds[kind].programBytes).fill(0xff)
let chip: Chip | null = null
let bootloader: Bootloader | null = null
let askedAt = 0

const run = (program?: Uint8Array) => {
  bootloader = null
  const kept = chip?.memory
  chip = new Chip(kind, kept, program)
  void chip.open({ received: (bytes) => said.push(...bytes), closed: () => {} })
}
const reset = () => {
  const settings = {
    signature: signatures[kind],
    program: flash,
    leaves: () => setTimeout(() => run(flash), 20),
    spoils: (address: number) => spoils > 0 && address % 400 === 7 && spoils-- > 0,
  }
  bootloader = kind === 'atmega328p' ? new ShortCommands(settings) : new Messages(settings)
  askedAt = performance.now()
}
if (blank === 'blank') reset()
else run()

/** What whoever wants the bootloader says first. */
const calls = kind === 'atmega328p' ? [0x30, 0x20] : [0x1b, 0x01, 0x00, 0x01, 0x0e, 0x01]
port.on('data', (bytes: Buffer) => {
  if (!bootloader && bytes.subarray(0, calls.length).equals(Buffer.from(calls))) reset()
  if (!bootloader) chip?.receive(bytes)
  else {
    askedAt = performance.now()
    said.push(...bootloader.take(bytes))
  }
})
/** Where wipers stand, as shares of the supply; each trembles by as much again on every side. */
const wipers = new Map<number, number>()
const TREMBLES = 0.003
let ranTo = performance.now()
setInterval(() => {
  for (const [pin, at] of wipers) chip?.wiper(pin, at + (Math.random() + Math.random() - 1) * TREMBLES)
  const now = performance.now()
  // One that cannot keep up falls behind the wall's clock, and is a slower chip for a moment.
  if (!bootloader) chip?.run(Math.min(20, now - ranTo))
  else if (chip && now - askedAt > 1500) run(flash)
  ranTo = now
  if (said.length > 0) port.write(Buffer.from(said.splice(0)))
}, 3)
createInterface({ input: process.stdin })
  .on('line', (line) => {
    const told = JSON.parse(line) as { pin: number; closed?: boolean; wiper?: number; spoils?: number }
    if (told.spoils !== undefined) spoils = told.spoils
    else if (told.wiper !== undefined) wipers.set(told.pin, told.wiper)
    else if (chip) {
      if (told.closed !== undefined) chip.contact(told.pin, told.closed)
      process.stdout.write(`${JSON.stringify({ pin: told.pin, high: chip.isHigh(told.pin) })}\n`)
    }
  })
  .on('close', () => process.exit(0))
process.stdout.write('running\n')
