import { z } from 'zod'

/** What a simulator tells of one variable. Boolean values travel as 0 and 1. */
export const variableInfo = z.object({
  name: z.string().min(1),
  type: z.enum(['number', 'boolean', 'text']),
  unit: z.string().nullable(),
  writable: z.boolean(),
  range: z.tuple([z.number(), z.number()]).nullable(),
  /** Words for the values 0, 1, 2 … of a number that stands for a choice. */
  choices: z.array(z.string()).optional(),
  description: z.string(),
  group: z.string(),
  /** How the builder calls it. */
  called: z.string().optional(),
})

export const eventInfo = z.object({
  name: z.string().min(1),
  description: z.string(),
  group: z.string(),
  called: z.string().optional(),
  /** What value goes with the event; null for none. */
  value: z.object({ type: z.enum(['number', 'boolean', 'text']), unit: z.string().nullable() }).nullable(),
})

export type VariableInfo = z.infer<typeof variableInfo>
export type EventInfo = z.infer<typeof eventInfo>

export interface SimulatorCatalogue {
  readonly craft: string
  readonly variables: readonly VariableInfo[]
  readonly events: readonly EventInfo[]
}

export const noCatalogue: SimulatorCatalogue = { craft: '', variables: [], events: [] }

/** A catalogue with its names looked up once. */
export interface CatalogueIndex {
  /** Sources that are meant to be there and have told no names yet, so that a name may be one of theirs. */
  readonly untold: readonly string[]
  readonly catalogue: SimulatorCatalogue
  readonly variable: ReadonlyMap<string, number>
  readonly event: ReadonlyMap<string, number>
}

export const indexCatalogue = (
  catalogue: SimulatorCatalogue,
  untold: readonly string[] = [],
): CatalogueIndex => ({
  untold,
  catalogue,
  variable: new Map(catalogue.variables.map((v, i) => [v.name, i])),
  event: new Map(catalogue.events.map((e, i) => [e.name, i])),
})

/** What was found to be close to a name among those of a catalogue: a rig for another craft asks thousands of times. */
const closest = new WeakMap<ReadonlyMap<string, number>, Map<string, string | undefined>>()

/** The same among the names of a catalogue's variables or events, looked for once. */
export const similarAmong = (names: ReadonlyMap<string, number>, wanted: string): string | undefined => {
  let known = closest.get(names)
  if (!known) {
    known = new Map()
    closest.set(names, known)
  }
  if (!known.has(wanted)) known.set(wanted, similarName(names.keys(), wanted))
  return known.get(wanted)
}

/** The known name closest to a mistyped one (Levenshtein distance at most a third of its length), if any. */
export const similarName = (names: Iterable<string>, wanted: string): string | undefined => {
  let best: string | undefined
  let least = Math.floor(wanted.length / 3) + 1
  for (const name of names) {
    if (Math.abs(name.length - wanted.length) >= least) continue
    const d = distance(name, wanted)
    if (d < least) {
      least = d
      best = name
    }
  }
  return best
}

const distance = (a: string, b: string): number => {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i)
  for (let i = 1; i <= a.length; i++) {
    const next = [i]
    for (let j = 1; j <= b.length; j++) {
      next[j] = Math.min(
        (row[j] as number) + 1,
        (next[j - 1] as number) + 1,
        (row[j - 1] as number) + (a[i - 1] === b[j - 1] ? 0 : 1),
      )
    }
    row = next
  }
  return row[b.length] as number
}
