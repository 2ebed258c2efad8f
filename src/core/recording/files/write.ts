import Papa from 'papaparse'
import type { SimulatorValue } from '../../engine/input'
import { joined } from '../../rig/sources'
import type { Micros } from '../../units-of-measure'
import type { RecordingHead } from '../moment'
import type { RecordingFormat } from './formats'
import type { Passage } from './passages'

/** The file of a recording: its first lines, then those of each piece, in order. */
export interface RecordingWriter {
  readonly begin: () => string
  readonly passages: (passages: Iterable<Passage>) => string
  /** The last ones, with when it ends. */
  readonly end: (at: Micros) => string
}

const seconds = (at: Micros): number => Math.round(at) / 1e6
const lines = (rows: readonly unknown[]): string => rows.map((r) => `${JSON.stringify(r)}\n`).join('')
const csv = (rows: readonly (readonly SimulatorValue[])[]): string =>
  rows.length === 0 ? '' : `${Papa.unparse(rows as unknown[][], { newline: '\n' })}\n`

const named = (names: readonly string[], variables: readonly number[], values: readonly SimulatorValue[]) =>
  Object.fromEntries(variables.map((v, i) => [names[v] ?? '', values[i] ?? null]))

const namesOf = (head: RecordingHead): string[] => joined(head.sources).catalogue.variables.map((v) => v.name)

/** Everything that was recorded, a line each. Another Clavik plays it as it is. */
const jsonLines = (name: string, head: RecordingHead): RecordingWriter => {
  const names = namesOf(head)
  const every = names.map((_, v) => v)
  const line = (p: Passage) => {
    const t = seconds(p.at)
    if (p.is === 'whole') return { t, standing: p.standing, values: named(names, every, p.values) }
    if (p.is === 'frame') {
      const told = Number.isNaN(p.told) ? {} : { told: p.told }
      return { t, source: p.source, ...told, values: named(names, p.variables, p.values) }
    }
    const { at: _, frame: __, ...what } = p.moment
    return { t, ...what }
  }
  return {
    begin: () => lines([{ clavik: 'recording', version: 1, name, ...head }]),
    passages: (passages) => lines([...passages].map(line)),
    end: (at) => lines([{ t: seconds(at), end: true }]),
  }
}

/** A line for each change of a value. */
const changes = (_: string, head: RecordingHead): RecordingWriter => {
  const { variables } = joined(head.sources).catalogue
  return {
    begin: () => csv([['time (s)', 'name', 'value', 'unit']]),
    passages: (passages) => {
      const rows: SimulatorValue[][] = []
      const add = (at: Micros, v: number, value: SimulatorValue) =>
        rows.push([seconds(at), variables[v]?.name ?? '', value, variables[v]?.unit ?? ''])
      for (const p of passages) {
        if (p.is === 'whole')
          for (const [v, value] of p.values.entries()) {
            if (value !== null) add(p.at, v, value)
          }
        else if (p.is === 'frame')
          for (const [i, v] of p.variables.entries()) add(p.at, v, p.values[i] ?? null)
      }
      return csv(rows)
    },
    end: () => '',
  }
}

/** A line for each frame and a column for each value: what has not changed stands there again, what is absent is empty. */
const columns = (_: string, head: RecordingHead): RecordingWriter => {
  const { variables } = joined(head.sources).catalogue
  const now: SimulatorValue[] = variables.map(() => null)
  return {
    begin: () => csv([['time (s)', ...variables.map((v) => (v.unit ? `${v.name} (${v.unit})` : v.name))]]),
    passages: (passages) => {
      const rows: SimulatorValue[][] = []
      for (const p of passages) {
        if (p.is === 'moment') continue
        if (p.is === 'whole') for (const [v, value] of p.values.entries()) now[v] = value
        else for (const [i, v] of p.variables.entries()) now[v] = p.values[i] ?? null
        rows.push([seconds(p.at), ...now])
      }
      return csv(rows)
    },
    end: () => '',
  }
}

const writers: Readonly<Record<RecordingFormat, (name: string, head: RecordingHead) => RecordingWriter>> = {
  jsonl: jsonLines,
  changes,
  columns,
}

/** What writes a recording as a file of a format. */
export const writerOf = (format: RecordingFormat, name: string, head: RecordingHead): RecordingWriter =>
  writers[format](name, head)
