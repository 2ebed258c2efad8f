import type { Engine } from '../core/engine/engine'
import type { Input } from '../core/engine/input'
import type { OwnWords } from '../core/rig/own-words'
import { joined, type Source } from '../core/rig/sources'
import type { Connections } from './connections'
import type { MemoryFile } from './memory'
import { REPLAYED, type Recordings } from './recordings/recordings'
import type { Scope } from './scope/scope'
import type { SourceClient, SourceEvents } from './source-client'

export interface SourceSurroundings {
  readonly engine: Engine
  readonly file: MemoryFile
  readonly connections: () => Connections
  readonly recordings: () => Recordings
  readonly scope: () => Scope
  /** An input for the engine; `told` is a source's own time of a frame. */
  readonly step: (input: Input, told?: number) => void
  /** Names, or where they are, have changed. */
  readonly changed: () => void
  readonly status: () => void
  /** An event was sent. */
  readonly sent: (event: number) => void
  /** Whether all that is told is wanted, and not only what is bound. */
  readonly wantsAll: () => boolean
}

const isIn = ([from, until]: readonly [number, number], index: number): boolean =>
  index >= from && index < until

/** Whether these tell the same under the same names. */
const sameSources = (a: readonly Source[], b: readonly Source[]): boolean =>
  a.length === b.length &&
  a.every((s, i) => {
    const o = b[i] as Source
    return (
      s.id === o.id &&
      s.name === o.name &&
      s.on === o.on &&
      s.prefix === o.prefix &&
      s.catalogue === o.catalogue
    )
  })

/** The sources of a recording, and those of the rig that it has nothing of. */
const withPlayed = (played: readonly Source[], own: readonly Source[]): readonly Source[] => [
  ...played,
  ...own.filter((o) => !played.some((p) => p.id === o.id)),
]

/** Whether these tell the same names at the same places. */
const sameNames = (a: readonly Source[], b: readonly Source[]): boolean => {
  const names = (sources: readonly Source[]) =>
    joined(sources).catalogue.variables.map((v) => v.name + v.type)
  return JSON.stringify(names(a)) === JSON.stringify(names(b))
}

/** What the rig's sources say, on its way to the engine, and what is ordered of them; or what a recording says in their place. */
export class HubSources {
  /** As the engine has them. */
  all: readonly Source[] = []
  /** Those whose first frame after a replay is waited for. */
  private readonly awaited = new Set<string>()

  constructor(private readonly around: SourceSurroundings) {}

  /** What comes of what a source says. */
  events(source: string): SourceEvents {
    const { step, status, recordings, scope, file } = this.around
    const isPlayed = () => recordings().played !== null
    return {
      described: () => {
        this.take(source)
        file.keep()
        this.subscribe(source)
      },
      up: (up) => {
        if (!isPlayed()) step({ is: 'source', source, up })
        status()
      },
      quiet: (quiet) => {
        if (!isPlayed()) step({ is: 'quiet', source, quiet })
      },
      frame: (indexes, values, told) => {
        if (isPlayed()) return
        step({ is: 'frame', source, indexes, values }, told)
        if (this.awaited.delete(source)) step({ is: 'source', source, up: true })
      },
      answer: (request, problem) => {
        if (!scope().answered(request, problem) && !isPlayed()) step({ is: 'answer', request, problem })
      },
    }
  }

  /**
   * The sources as they are now: the engine and every page learn where the names of each are. What the engine has of one that tells
   * otherwise now is gone, so that is asked for anew; but of `described`, which is about to be asked.
   */
  take(described: string | null = null): void {
    const { connections, recordings, file, step, changed } = this.around
    const own = connections().sources(file.memory)
    // What is played stands before what the rig has, and in place of what it was recorded from.
    const { played } = recordings()
    const sources = played ? withPlayed(played, own) : own
    if (sameSources(sources, this.all)) return
    if (!sameNames(sources, this.all)) recordings().stop('the sources tell other names now')
    const before = this.all
    this.all = sources
    step({ is: 'sources', sources })
    changed()
    for (const { id, catalogue } of sources)
      if (id !== described && catalogue !== before.find((b) => b.id === id)?.catalogue) this.subscribe(id)
  }

  /** The builder says something else of the names of some craft. */
  takeWords(words: OwnWords): void {
    const { file, engine } = this.around
    const { memory } = file
    // What is said of a craft as before is the same, so that nothing is compiled anew for the words of another.
    memory.words = Object.fromEntries(
      Object.entries(words).map(([craft, said]) => {
        const before = memory.words[craft]
        return [craft, before && JSON.stringify(before) === JSON.stringify(said) ? before : said]
      }),
    )
    file.keep()
    const before = this.all
    this.take()
    if (before !== this.all) for (const { id } of engine.variables.places) this.subscribe(id)
  }

  /** A replay begins: what it tells stands for its sources, and whatever else the rig has is away meanwhile. */
  beginPlayed(): void {
    this.take()
    const played = this.around.recordings().played ?? []
    for (const { id } of this.all)
      if (!played.some((p) => p.id === id)) this.around.step({ is: 'source', source: id, up: false })
  }

  /** After a replay: all values are asked for anew, and a source is there once it has told them. */
  hearAgain(): void {
    this.take()
    for (const client of this.around.connections().sourceClients()) {
      const source = client.connection
      this.around.step({ is: 'source', source, up: false })
      if (client.up) this.awaited.add(source)
      this.subscribe(source)
    }
  }

  /** Asks each source for what is bound, or for everything while somebody wants that; `anew` one that has forgotten. */
  subscribe(anew: string | null = null): void {
    const { engine, recordings, wantsAll, connections } = this.around
    // What is played has other names than the sources that wait meanwhile.
    if (recordings().played) return
    const all = wantsAll()
    const used = all ? [] : [...engine.variablesInUse()].sort((a, b) => a - b)
    for (const { id, variables } of engine.variables.places) {
      const client = connections().client(id)
      if (client?.carries !== 'source') continue
      const own = used.filter((slot) => isIn(variables, slot)).map((slot) => slot - variables[0])
      client.subscribe(all ? 'all' : own, id === anew)
    }
  }

  /** Gives an order to who tells what lies at a slot, with its number there; why that cannot be, or null. */
  private give(
    of: 'variables' | 'events',
    slot: number,
    order: (client: SourceClient, own: number) => void,
  ): string | null {
    if (this.around.recordings().played) return REPLAYED
    const place = this.around.engine.variables.places.find((p) => isIn(p[of], slot))
    const client = place ? this.around.connections().client(place.id) : null
    if (!place || client?.carries !== 'source' || !client.up) return `${place?.name ?? 'its source'} is away`
    order(client, slot - place[of][0])
    return null
  }

  /** Tells a source a value; why that cannot be, or null. */
  set(request: number, variable: number, value: number | string): string | null {
    return this.give('variables', variable, (client, own) => client.set(request, own, value))
  }

  event(request: number, event: number, value: number | string | null): string | null {
    return this.give('events', event, (client, own) => {
      client.event(request, own, value)
      this.around.sent(event)
    })
  }
}
