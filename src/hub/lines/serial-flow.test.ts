import { join } from 'node:path'
import { SerialPort } from 'serialport'
import { expect, it } from 'vitest'
import { until } from '../../../tests/app'
import { Ports } from '../../../tests/cable'
import { SerialLine } from './serial-line'

/** A line on a cable, with the package's own port at the far end. */
const cable = async (received: (bytes: Uint8Array) => void) => {
  const ports = new Ports()
  const far = new SerialPort({ path: await ports.plug('a'), baudRate: 115_200 })
  // What it was still writing when its cable is pulled is of no interest.
  far.on('error', () => {})
  const line = new SerialLine(() => ({ path: join(ports.folder, 'a'), speed: 115_200, dataBits: 8 }), {
    opened: () => {},
    received,
    closed: () => {},
  })
  line.open()
  await until('both ends are open', () => line.isUp && far.isOpen)
  const end = async () => {
    // What is still on its way goes first: the package throws where a port is closed over it.
    await new Promise<void>((resolve) => far.drain(() => resolve()))
    line.end()
    await new Promise<void>((resolve) => far.close(() => resolve()))
    ports.remove()
  }
  return { line, far, end }
}

it('every byte that comes over a port arrives, in its order, whatever pieces it comes in', async () => {
  const heard: number[] = []
  const { far, end } = await cable((b) => heard.push(...b))
  const said = Array.from({ length: 20_000 }, (_, i) => (i * 7 + (i >> 8)) & 255)
  for (let at = 0; at < said.length; ) {
    const count = 1 + ((at * 13) % 700)
    far.write(Buffer.from(said.slice(at, at + count)))
    at += count
    await new Promise((resolve) => setTimeout(resolve, 1))
  }
  await until('all has come', () => heard.length >= said.length)
  expect(heard).toEqual(said)
  await end()
})

it('what is said goes out at once, and both ways at the same time', async () => {
  const heard: number[] = []
  const { line, far, end } = await cable((b) => heard.push(...b))
  const there: number[] = []
  far.on('data', (b: Buffer) => {
    there.push(...b)
    far.write(b)
  })
  for (let i = 0; i < 300; i++) {
    line.send(Uint8Array.of(i & 255, 1, 2))
    await new Promise((resolve) => setTimeout(resolve, 1))
  }
  await until('it has come back', () => heard.length === 900)
  expect(there).toEqual(heard)
  expect(heard.filter((_, i) => i % 3 === 0)).toEqual(Array.from({ length: 300 }, (_, i) => i & 255))
  await end()
})

it('a port that floods is held back for a while, and read on after it', async () => {
  let count = 0
  const { line, far, end } = await cable((b) => {
    count += b.length
    // Whoever reads takes long over it.
    const until = performance.now() + 60
    while (performance.now() < until);
  })
  const flood = setInterval(() => far.write(Buffer.alloc(512, 7)), 5)
  await until('it is said', () => line.flooded !== null)
  const before = count
  await until('it is read on', () => count > before + 5000)
  clearInterval(flood)
  expect(line.isUp).toBe(true)
  await end()
})
