import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { Devices } from './devices'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'clavik-devices-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

const pairOne = (devices: Devices): void => {
  devices.offer()
  const { offered } = devices.state()
  expect(devices.pair(offered?.code ?? '', 'Some tablet')).toHaveProperty('mark')
}

it('a paired device is known again after a restart', () => {
  pairOne(new Devices(folder, 80, true))
  expect(new Devices(folder, 80, true).state().devices).toHaveLength(1)
  expect(readFileSync(join(folder, 'devices.json'), 'utf8')).toContain('"digest"')
})

it('a list cut in half lets nobody in, and stays beside when another device is paired', () => {
  pairOne(new Devices(folder, 80, true))
  const file = join(folder, 'devices.json')
  const half = readFileSync(file, 'utf8').slice(0, 40)
  writeFileSync(file, half)
  const after = new Devices(folder, 80, true)
  expect(after.state().devices).toEqual([])
  pairOne(after)
  expect(readFileSync(`${file}.unread`, 'utf8')).toBe(half)
  expect(existsSync(file)).toBe(true)
})
