import { join } from 'node:path'
import { SerialPort } from 'serialport'
import { afterEach, describe, expect, it } from 'vitest'
import { programChips } from '../src/core/programs/programs'
import { probe } from '../src/hub/programs/probe'
import { writeProgram } from '../src/hub/programs/write'
import { type Bootloader, Messages, ShortCommands } from './bootloader'
import { Ports } from './cable'
import { type ChipName, imageOf } from './chip'

const ports = new Ports()
let far: SerialPort | null = null
afterEach(async () => {
  await new Promise<void>((resolve) => (far ? far.close(() => resolve()) : resolve()))
  await ports.unplug('a')
})

const signatures = { atmega328p: [0x1e, 0x95, 0x0f], atmega2560: [0x1e, 0x98, 0x01] } as const

/** A bootloader at the far end of a cable, which may damage what it writes or fall silent half-way. */
const bootloader = async (
  chip: ChipName,
  more: {
    signature?: readonly [number, number, number]
    spoils?: (a: number) => boolean
    silentAfter?: number
  } = {},
) => {
  far = new SerialPort({ path: await ports.plug('a'), baudRate: 115_200 })
  const program = new Uint8Array(imageOf(chip).length).fill(0xff)
  let heard = 0
  const settings = {
    signature: more.signature ?? signatures[chip],
    program,
    leaves: () => {},
    ...(more.spoils ? { spoils: more.spoils } : {}),
  }
  const there: Bootloader = chip === 'atmega328p' ? new ShortCommands(settings) : new Messages(settings)
  far.on('data', (bytes: Buffer) => {
    heard += bytes.length
    if (heard <= (more.silentAfter ?? Number.POSITIVE_INFINITY)) far?.write(Buffer.from(there.take(bytes)))
  })
  return { program, path: join(ports.folder, 'a') }
}

describe('a chip with nothing but its bootloader', { timeout: 120_000 }, () => {
  it.each(['atmega328p', 'atmega2560'] as const)(
    'is recognised and gets the image that fits, byte for byte: %s',
    async (name) => {
      const { program, path } = await bootloader(name)
      const found = await probe(path)
      if ('problem' in found) throw new Error(found.problem)
      expect(found.chip).toBe(programChips.find((c) => c.id === name))
      const steps: string[] = []
      const problem = await writeProgram(path, found, (at, share) => steps.push(`${at} ${share}`))
      expect(problem).toBeNull()
      expect(Buffer.from(program).equals(Buffer.from(imageOf(name)))).toBe(true)
      expect(steps).toContain('verifying 1')
      expect(steps.filter((s) => s.startsWith('writing')).length).toBeGreaterThan(3)
    },
  )

  it('of another kind is named, and left alone', async () => {
    const { program, path } = await bootloader('atmega328p', { signature: [0x1e, 0x94, 0x0b] })
    expect(await probe(path)).toMatchObject({ problem: expect.stringContaining('ATmega168P') })
    expect(program.every((b) => b === 0xff)).toBe(true)
  })

  it('that writes a byte wrongly is found out', async () => {
    const spoiled = await bootloader('atmega328p', { spoils: (a) => a === 5000 })
    const found = await probe(spoiled.path)
    if ('problem' in found) throw new Error(found.problem)
    const wrong = await writeProgram(spoiled.path, found, () => {})
    expect(wrong?.problem).toBe('what was read back is not what was written')
  })

  it('that falls silent half-way is a sentence with what to try', async () => {
    const silent = await bootloader('atmega328p', { silentAfter: 9000 })
    const found = await probe(silent.path)
    if ('problem' in found) throw new Error(found.problem)
    const broken = await writeProgram(silent.path, found, () => {}, 2500)
    expect(broken?.problem).toBe('its bootloader stopped answering')
    expect(broken?.cure).toContain('reset')
  })

  it('that does not answer at all is a sentence with what to try', async () => {
    far = new SerialPort({ path: await ports.plug('a'), baudRate: 115_200 })
    const none = await probe(join(ports.folder, 'a'))
    expect(none).toMatchObject({ problem: 'no bootloader answers', cure: expect.stringContaining('reset') })
    expect(await probe('/dev/no-such-port')).toHaveProperty('problem')
  })
})
