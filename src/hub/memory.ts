import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { open, rename } from 'node:fs/promises'
import { join } from 'node:path'
import type { CraftChoice } from '../core/rig/craft-sets'
import type { OwnWords } from '../core/rig/own-words'
import { type Rig, rigOf } from '../core/rig/rig'
import type { SimulatorCatalogue } from '../core/rig/simulator-catalogue'

/** What the hub keeps by itself, so that a cockpit comes up as it was even while the database is away. */
export interface Memory {
  armed: boolean
  /** How the craft set is chosen, as the builder said last. */
  craftChoice: CraftChoice
  /** What each proven binding's proof rested on. */
  proven: Record<string, string>
  rig: { id: string; rig: Rig; revision: number; setAside: readonly string[] } | null
  /** What each source of the rig told last, by its connection. */
  catalogues: Record<string, SimulatorCatalogue>
  /** The identity of the board that last answered on each connection. */
  identities: Record<string, string>
  /** What the builder says of the names of each craft. */
  words: OwnWords
}

/** What a hub knows that has never run. */
export const freshMemory = (): Memory => ({
  armed: true,
  craftChoice: 'by craft',
  proven: {},
  rig: null,
  catalogues: {},
  identities: {},
  words: {},
})

/** A slice of writing takes no longer than this: a contact that comes meanwhile waits no longer. */
const SLICE_MS = 1

/** The memory as pieces of JSON, a row or a variable at a time. */
function* pieces({
  armed,
  craftChoice,
  proven,
  rig,
  catalogues,
  identities,
  words,
}: Memory): Generator<string> {
  yield `{"armed":${armed},"craftChoice":${JSON.stringify(craftChoice)},"proven":`
  yield* entries(proven)
  if (rig) {
    const { id, revision, setAside } = rig
    yield `,"rig":{"id":${JSON.stringify(id)},"revision":${revision},"setAside":${JSON.stringify(setAside)},"rig":{`
    let first = true
    for (const [table, rows] of Object.entries(rig.rig)) {
      yield `${first ? '' : ','}${JSON.stringify(table)}:`
      first = false
      yield* entries(rows)
    }
    yield '}}'
  } else yield ',"rig":null'
  yield `,"identities":${JSON.stringify(identities)},"words":{`
  let firstCraft = true
  for (const [craft, said] of Object.entries(words)) {
    yield `${firstCraft ? '' : ','}${JSON.stringify(craft)}:`
    firstCraft = false
    yield* list(said)
  }
  yield '},"catalogues":{'
  let first = true
  for (const [id, { craft, variables, events }] of Object.entries(catalogues)) {
    yield `${first ? '' : ','}${JSON.stringify(id)}:{"craft":${JSON.stringify(craft)},"variables":`
    first = false
    yield* list(variables)
    yield ',"events":'
    yield* list(events)
    yield '}'
  }
  yield '}}'
}

function* entries(record: Readonly<Record<string, unknown>>): Generator<string> {
  yield '{'
  let first = true
  for (const [key, value] of Object.entries(record)) {
    yield `${first ? '' : ','}${JSON.stringify(key)}:${JSON.stringify(value)}`
    first = false
  }
  yield '}'
}

function* list(items: readonly unknown[]): Generator<string> {
  yield '['
  for (const [i, item] of items.entries()) yield `${i > 0 ? ',' : ''}${JSON.stringify(item)}`
  yield ']'
}

/** The hub's own file. Writing is put off a little, goes in small slices between everything else, and never fails a flight. */
export class MemoryFile {
  readonly memory: Memory
  private readonly file: string
  private timer: NodeJS.Timeout | null = null
  private writing: Promise<void> | null = null
  private ended = false

  constructor(dataDir: string) {
    this.file = join(dataDir, 'hub.json')
    this.memory = this.read()
  }

  private read(): Memory {
    try {
      const memory = { ...freshMemory(), ...(JSON.parse(readFileSync(this.file, 'utf8')) as Partial<Memory>) }
      // A rig kept by an older Clavik lacks the tables that came later.
      if (memory.rig) memory.rig = { ...memory.rig, rig: rigOf(memory.rig.rig) }
      return memory
    } catch {
      return freshMemory()
    }
  }

  /** What it remembers has changed. */
  keep(): void {
    if (this.ended) return
    this.timer ??= setTimeout(() => {
      this.timer = null
      // One that is under way is of what was; this one comes after it.
      this.writing = (this.writing ?? Promise.resolve()).then(() => this.writeSlowly())
    }, 300)
  }

  private async writeSlowly(): Promise<void> {
    try {
      const file = await open(`${this.file}.new`, 'w')
      try {
        for await (const slice of slices({ ...this.memory, proven: { ...this.memory.proven } })) {
          if (this.ended) return
          await file.write(slice)
        }
      } finally {
        await file.close()
      }
      if (!this.ended) await rename(`${this.file}.new`, this.file)
    } catch (error) {
      this.complain(error)
    }
  }

  /** Writes it all at once and for the last time: the process ends. */
  write(): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    this.ended = true
    try {
      writeFileSync(`${this.file}.last`, JSON.stringify(this.memory))
      renameSync(`${this.file}.last`, this.file)
    } catch (error) {
      this.complain(error)
    }
  }

  private complain(error: unknown): void {
    process.stderr.write(`hub: cannot keep its state: ${(error as Error).message}\n`)
  }
}

/** The pieces in slices, with a turn of everything else between any two. */
async function* slices(memory: Memory): AsyncGenerator<string> {
  let slice = ''
  let end = performance.now() + SLICE_MS
  for (const piece of pieces(memory)) {
    slice += piece
    if (performance.now() < end) continue
    yield slice
    slice = ''
    await new Promise((resolve) => setImmediate(resolve))
    end = performance.now() + SLICE_MS
  }
  if (slice !== '') yield slice
}
