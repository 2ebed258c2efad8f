import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { until } from '../../../tests/app'
import { Ports } from '../../../tests/cable'
import { SerialLine, serialTrouble } from './serial-line'

// As systems and the package for serial ports say it.
it.each([
  ['Error: Permission denied, cannot open /dev/ttyACM0', 'belongs to another user', 'dialout'],
  ['Error: Access denied', 'belongs to another user', ''],
  [
    'Error Resource temporarily unavailable Cannot lock port',
    'another program holds /dev/ttyACM0',
    'goes on by itself',
  ],
  ['Error: Device or resource busy, cannot open /dev/ttyACM0', 'another program holds', 'Close it'],
  ['Error: No such file or directory, cannot open /dev/ttyACM0', 'nothing is plugged in', 'Plug it in'],
  [
    'Error: Inappropriate ioctl for device setting custom baud rate of 9600',
    'is no serial port',
    'another port',
  ],
  ['Error: Invalid argument setting custom baud rate', 'does not know this speed', 'another speed'],
  ['Error: The moon is full', 'cannot be opened: The moon is full', ''],
])('“%s” is said in words, with what to do', (message, problem, cure) => {
  const said = serialTrouble(message, '/dev/ttyACM0')
  expect(said.problem).toContain(problem)
  expect(said.cure ?? '').toContain(cure)
})

it('a port that is none, or not there, is named, and tried again until the line is ended', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-serial-'))
  const path = join(folder, 'port')
  const said: string[] = []
  const line = new SerialLine(() => ({ path, speed: 9600, dataBits: 8 }), {
    opened: () => said.push('opened'),
    received: () => {},
    closed: ({ problem }) => said.push(problem),
  })
  line.open()
  await until('it is missed', () => said.includes(`nothing is plugged in as ${path}`))
  writeFileSync(path, 'a plain file')
  line.tryNow()
  await until('it is no port', () => said.includes(`${path} is no serial port`))
  expect(line.isUp).toBe(false)
  line.send(Uint8Array.from([1]))
  line.end()
  const count = said.length
  await new Promise((resolve) => setTimeout(resolve, 400))
  expect(said).toHaveLength(count)
  rmSync(folder, { recursive: true })
})

it('a port that vanishes in the middle of a write is said, and opened again when it is back', async () => {
  const ports = new Ports()
  await ports.plug('a')
  const path = join(ports.folder, 'a')
  const said: string[] = []
  const line = new SerialLine(() => ({ path, speed: 115_200, dataBits: 8 }), {
    opened: () => said.push('opened'),
    received: () => {},
    closed: ({ problem }) => said.push(problem),
  })
  line.open()
  await until('it is open', () => said.includes('opened'))
  // Nobody reads at the far end, so that what is written waits in the port.
  const writing = setInterval(() => line.send(new Uint8Array(4096).fill(7)), 1)
  await new Promise((resolve) => setTimeout(resolve, 60))
  await ports.unplug('a')
  // Tried again and again meanwhile, it is still said what became of it.
  await until('it was tried a few times', () => said.length > 4 && !line.isUp)
  expect(said.slice(-3)).toEqual(Array(3).fill(`${path} was unplugged`))
  await ports.plug('a')
  await until('it is open again', () => line.isUp)
  clearInterval(writing)
  line.end()
  ports.remove()
})
