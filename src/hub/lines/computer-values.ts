import { readdir, readFile } from 'node:fs/promises'
import { cpus, freemem, totalmem } from 'node:os'

/** What the computer tells of itself: name, unit, words, and how it is read. Null is what it does not tell. */
export interface ComputerValue {
  readonly name: string
  readonly unit: string | null
  readonly range: readonly [number, number] | null
  readonly description: string
  readonly group: string
  readonly read: (at: ClockMoment) => number | null
}

/** What values are read from, once for all of them. */
export interface ClockMoment {
  readonly now: Date
  /** How busy its processors were since the moment before, 0 to 1. */
  readonly busy: number | null
  readonly warmestC: number | null
}

const clock = (
  name: string,
  range: readonly [number, number],
  description: string,
  read: (now: Date) => number,
): ComputerValue => ({
  ...{ name: `clock.${name}`, unit: null, range, description, group: 'Clock' },
  read: ({ now }) => read(now),
})

const DAY_MS = 86_400_000
const dayOfYear = (d: Date): number =>
  Math.round(
    (Date.UTC(d.getFullYear(), d.getMonth(), d.getDate()) - Date.UTC(d.getFullYear(), 0, 0)) / DAY_MS,
  )

/** By its own time zone. */
export const computerValues: readonly ComputerValue[] = [
  clock('hours', [0, 23], 'Hour of the day', (d) => d.getHours()),
  clock('minutes', [0, 59], 'Minute of the hour', (d) => d.getMinutes()),
  clock('seconds', [0, 59], 'Second of the minute', (d) => d.getSeconds()),
  clock('weekday', [1, 7], 'Day of the week, 1 for Monday', (d) => d.getDay() || 7),
  clock('day', [1, 31], 'Day of the month', (d) => d.getDate()),
  clock('month', [1, 12], 'Month of the year', (d) => d.getMonth() + 1),
  clock('year', [1970, 9999], 'Year', (d) => d.getFullYear()),
  clock('day.of.year', [1, 366], 'Day of the year', dayOfYear),
  {
    ...{ name: 'load', unit: 'ratio', range: [0, 1], description: 'How busy its processors are' },
    ...{ group: 'Computer', read: ({ busy }) => busy },
  },
  {
    ...{ name: 'memory.used', unit: 'ratio', range: [0, 1], description: 'How much of its memory is taken' },
    ...{ group: 'Computer', read: () => Math.round((1 - freemem() / totalmem()) * 1000) / 1000 },
  },
  {
    ...{ name: 'temperature', unit: '°C', range: null, description: 'The warmest of its own sensors' },
    ...{ group: 'Computer', read: ({ warmestC }) => warmestC },
  },
]

/** How busy the processors were between two looks at what they have done. */
export const busyMeter = (look = cpus): (() => number | null) => {
  let before = { idle: 0, all: 0 }
  return () => {
    const times = look().map((c) => c.times)
    const idle = times.reduce((n, t) => n + t.idle, 0)
    const all = times.reduce((n, t) => n + t.user + t.nice + t.sys + t.irq + t.idle, 0)
    const share = all > before.all ? 1 - (idle - before.idle) / (all - before.all) : null
    before = { idle, all }
    return share === null ? null : Math.round(Math.min(1, Math.max(0, share)) * 1000) / 1000
  }
}

const ZONES = '/sys/class/thermal'

/** The warmest sensor that the system tells of, in °C, or null. */
export const warmest = async (folder = ZONES): Promise<number | null> => {
  const zones = await readdir(folder).catch(() => [])
  const all = await Promise.all(
    zones
      .filter((z) => z.startsWith('thermal_zone'))
      .map(
        async (z) =>
          Number((await readFile(`${folder}/${z}/temp`, 'utf8').catch(() => '')).trim() || Number.NaN) / 1000,
      ),
  )
  const told = all.filter((t) => Number.isFinite(t) && t > -60 && t < 200)
  return told.length === 0 ? null : Math.round(Math.max(...told) * 10) / 10
}
