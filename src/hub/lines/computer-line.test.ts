import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, expect, it } from 'vitest'
import { until } from '../../../tests/app'
import { SimulatorClient } from '../simulator-client'
import { ComputerLine } from './computer-line'
import { busyMeter, computerValues, warmest } from './computer-values'

let client: SimulatorClient | null = null
afterEach(() => client?.close('over'))

it('the computer is a source as any other: it tells its clock, and is only read', async () => {
  const values = new Map<string, unknown>()
  const answers: (string | null)[] = []
  // A Sunday in a leap year.
  let now = new Date(2028, 1, 29, 23, 59, 58)
  const made = new SimulatorClient('c', (events) => new ComputerLine(events, () => now), {
    described: () => made.subscribe('all', true),
    up: () => {},
    quiet: () => {},
    frame: (indexes, told) => {
      for (const [k, i] of indexes.entries()) values.set(made.catalogue?.variables[i]?.name ?? '', told[k])
    },
    answer: (_, problem) => answers.push(problem),
  })
  client = made
  client.open()
  await until('it has told its clock', () => values.get('clock.seconds') === 58)
  expect(client.up).toBe(true)
  expect(client.odd).toEqual([])
  expect(Object.fromEntries([...values].filter(([name]) => name.startsWith('clock')))).toEqual({
    'clock.hours': 23,
    'clock.minutes': 59,
    'clock.seconds': 58,
    'clock.weekday': 2,
    'clock.day': 29,
    'clock.month': 2,
    'clock.year': 2028,
    'clock.day.of.year': 60,
  })
  expect(values.get('memory.used')).toBeGreaterThan(0)
  now = new Date(2028, 2, 1, 0, 0, 0)
  await until('the day is another', () => values.get('clock.day') === 1)
  expect(values.get('clock.day.of.year')).toBe(61)
  client.set(7, 0, 12)
  await until('it is answered', () => answers.length > 0)
  expect(answers).toEqual(['the computer is only read'])
  // It comes back by itself, as any line does.
  client.line.drop()
  await until('it is gone', () => !client?.up)
  await until('it is back', () => client?.up === true)
})

it('what is told of the year ends with its last day, whatever the year', () => {
  const day = computerValues.find((v) => v.name === 'clock.day.of.year')
  const on = (now: Date) => day?.read({ now, busy: null, warmestC: null })
  expect([2023, 2024].map((y) => on(new Date(y, 11, 31, 23, 59)))).toEqual([365, 366])
  expect(on(new Date(2024, 0, 1))).toBe(1)
  // A day of 23 hours counts as one.
  expect(on(new Date(2024, 5, 30))).toBe(182)
})

it('how busy it is comes of what its processors did since the last look', () => {
  const times = [
    { user: 100, nice: 0, sys: 100, irq: 0, idle: 800 },
    { user: 400, nice: 0, sys: 200, irq: 0, idle: 1400 },
    { user: 400, nice: 0, sys: 200, irq: 0, idle: 1400 },
  ]
  const look = busyMeter(() => [{ model: '', speed: 0, times: times.shift() ?? times[0] }] as never)
  expect(look()).toBe(0.2)
  expect(look()).toBe(0.4)
  expect(look()).toBeNull()
})

it('the warmest of its sensors counts, and none where there is none', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'clavik-warm-'))
  try {
    for (const [zone, temp] of [
      ['thermal_zone0', '41500\n'],
      ['thermal_zone1', '63250\n'],
      ['thermal_zone2', 'nonsense'],
      ['thermal_zone3', '-274000'],
      ['cooling_device0', '90000'],
    ] as const) {
      mkdirSync(join(folder, zone))
      writeFileSync(join(folder, zone, 'temp'), temp)
    }
    mkdirSync(join(folder, 'thermal_zone4'))
    expect(await warmest(folder)).toBe(63.3)
    expect(await warmest(join(folder, 'thermal_zone4'))).toBeNull()
    expect(await warmest(join(folder, 'nowhere'))).toBeNull()
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})
