import {
  type EventInfo,
  noCatalogue,
  type SimulatorCatalogue,
  type VariableInfo,
} from './simulator-catalogue'

/** What tells values and takes orders: a simulator, a telemetry, or anything else that speaks as one. */
export interface Source {
  readonly id: string
  readonly name: string
  /** Whether it is meant to be there; the names of one that is off stay known. */
  readonly on: boolean
  /** Put in front of each of its names. */
  readonly prefix: string
  /** What it told last; null before it has ever been there. */
  readonly catalogue: SimulatorCatalogue | null
}

/** Where the names of one source are among those of all: its variables and events lie side by side. */
export interface SourcePlace {
  readonly id: string
  readonly name: string
  readonly on: boolean
  readonly craft: string
  readonly variables: readonly [from: number, until: number]
  readonly events: readonly [from: number, until: number]
}

export interface JoinedSources {
  readonly catalogue: SimulatorCatalogue
  readonly places: readonly SourcePlace[]
  /** By source, names of it that another has already, and how they are written here. */
  readonly renamed: Readonly<Record<string, readonly string[]>>
}

/** Sources whose liveness is kept as bits of one number. */
export const MOST_SOURCES = 30

export const noSources: JoinedSources = { catalogue: noCatalogue, places: [], renamed: {} }

/** Every name once: one that another source has already is written with the name of its own in front. */
const nameAmong = (told: string, source: Source, taken: Set<string>, renamed: string[]): string => {
  let name = source.prefix + told
  if (taken.has(name)) name = `${source.name}: ${name}`
  for (let n = 2, stem = name; taken.has(name); n++) name = `${stem} #${n}`
  if (name !== source.prefix + told) renamed.push(name)
  taken.add(name)
  return name
}

/** The catalogues of all sources as one, in the order of the sources. Those beyond `MOST_SOURCES` are left out. */
export const joined = (sources: readonly Source[]): JoinedSources => {
  const variables: VariableInfo[] = []
  const events: EventInfo[] = []
  const names = new Set<string>()
  const eventNames = new Set<string>()
  const renamed: Record<string, readonly string[]> = {}
  const places = sources.slice(0, MOST_SOURCES).map((source): SourcePlace => {
    const { catalogue } = source
    const from = variables.length
    const eventsFrom = events.length
    const other: string[] = []
    for (const v of catalogue?.variables ?? [])
      variables.push(named(v, nameAmong(v.name, source, names, other)))
    for (const e of catalogue?.events ?? [])
      events.push(named(e, nameAmong(e.name, source, eventNames, other)))
    if (other.length > 0) renamed[source.id] = other
    return {
      id: source.id,
      name: source.name,
      on: source.on,
      craft: catalogue?.craft ?? '',
      variables: [from, variables.length],
      events: [eventsFrom, events.length],
    }
  })
  const crafts = places.map((p) => p.craft).filter((c) => c !== '')
  return { catalogue: { craft: crafts.join(', '), variables, events }, places, renamed }
}

const named = <T extends { readonly name: string }>(info: T, name: string): T =>
  info.name === name ? info : { ...info, name }

/** The place of the source that has this variable, or this event, or -1. */
export const sourceAt = (
  places: readonly SourcePlace[],
  what: 'variables' | 'events',
  index: number,
): number => places.findIndex((p) => index >= p[what][0] && index < p[what][1])
