import { spawn, spawnSync } from 'node:child_process'
import { symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'
import { SerialPort } from 'serialport'
import { afterEach, describe, expect, it, vi } from 'vitest'
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
  // A cable may be pulled out.
  far.on('error', () => {})
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

  it('that is pulled out half-way is a sentence at once', async () => {
    const { path } = await bootloader('atmega328p')
    const found = await probe(path)
    if ('problem' in found) throw new Error(found.problem)
    let isOut = false
    const began = performance.now()
    const broken = await writeProgram(path, found, () => {
      if (!isOut) void ports.unplug('a')
      isOut = true
    })
    expect(broken).toMatchObject({ problem: 'the port went away', cure: expect.stringContaining('again') })
    // Not after ten seconds of its silence.
    expect(performance.now() - began).toBeLessThan(9000)
  })

  it('is let go of when whoever writes is gone, however that came', async () => {
    const { path } = await bootloader('atmega328p', { silentAfter: 9000 })
    const found = await probe(path)
    if ('problem' in found) throw new Error(found.problem)
    const outfile = 'build/writer-alone.mjs'
    await build({
      stdin: {
        contents: `import { writeProgram } from './src/hub/programs/write'
          void writeProgram(process.argv[2], JSON.parse(process.argv[3]), () => console.log('goes on'), 60000)`,
        ...{ resolveDir: '.', loader: 'ts' },
      },
      ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', outfile },
    })
    const writer = spawn(process.execPath, [outfile, path, JSON.stringify(found)])
    await new Promise((resolve) => writer.stdout.once('data', resolve))
    const writes = () => spawnSync('pgrep', ['-f', `^avrdude .*${path}`]).status === 0
    expect(writes()).toBe(true)
    // With the port gone as well it says nothing more, and would notice neither.
    const isOut = ports.unplug('a')
    writer.kill('SIGKILL')
    await isOut
    await vi.waitFor(() => expect(writes()).toBe(false), 10_000)
  })

  it('cannot be written where the program for that is not installed, and that is said', async () => {
    const { path } = await bootloader('atmega328p')
    const found = await probe(path)
    if ('problem' in found) throw new Error(found.problem)
    vi.stubEnv('PATH', ports.folder)
    const none = await writeProgram(path, found, () => {})
    symlinkSync('/usr/bin/setpriv', join(ports.folder, 'setpriv'))
    symlinkSync('/usr/bin/true', join(ports.folder, 'true'))
    const noneToo = await writeProgram(path, found, () => {})
    vi.unstubAllEnvs()
    expect(none?.problem).toBe('avrdude, which writes programs, is not installed')
    expect(noneToo).toEqual(none)
  })

  it('that does not answer at all is a sentence with what to try', async () => {
    far = new SerialPort({ path: await ports.plug('a'), baudRate: 115_200 })
    const none = await probe(join(ports.folder, 'a'))
    expect(none).toMatchObject({ problem: 'no bootloader answers', cure: expect.stringContaining('reset') })
    expect(await probe('/dev/no-such-port')).toHaveProperty('problem')
  })
})
