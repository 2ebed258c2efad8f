import { type CatalogueIndex, indexCatalogue, noCatalogue } from '../rig/simulator-catalogue'
import { joined, noSources, type Source, type SourcePlace, sourceAt } from '../rig/sources'
import type { Values } from '../signal/expression/compile'
import type { SimulatorValue } from './input'

/** A told value in a slot of texts, and in one of numbers: what does not fit is absent. */
export const textOf = (value: SimulatorValue): string | null => (typeof value === 'string' ? value : null)
export const numberOf = (value: SimulatorValue): number =>
  typeof value === 'number' ? value : typeof value === 'boolean' ? Number(value) : Number.NaN

/**
 * The values of all sources in flat arrays, as compiled expressions read them. A number that is absent is NaN, a
 * text that is absent is null: absent is never zero.
 */
export class Variables implements Values {
  index: CatalogueIndex = indexCatalogue(noCatalogue)
  numbers = new Float64Array(0)
  texts: (string | null)[] = []
  isText = new Uint8Array(0)

  /** Where the values of each source lie, and by its id what it told: the same again keeps its values. */
  places: readonly SourcePlace[] = []
  /** By source, names of it that another has already, as they are written here. */
  renamed: Readonly<Record<string, readonly string[]>> = {}
  private sources: readonly Source[] = []
  /** A bit for each source that is up, and for each from which no frame has come for a while. */
  up = 0
  quiet = 0

  /** Slots behind the sources' own, for positions of controls and active layers, by what they stand for. */
  private readonly own = new Map<string, number>()
  /** Slots that were given back. */
  private freed: number[] = []
  private room = 0
  /** By slot of the rig's own, the sources without which what is kept there is nothing. */
  readonly derived = new Map<number, number>()
  /** How many values the sources tell; slots from here on are the rig's own. */
  told = 0

  /**
   * Takes the sources as they are now, with room for so many values of the rig's own. A source that tells what it told
   * before keeps its values and whether it is up; of any other all start absent.
   */
  describe(sources: readonly Source[], room = this.room): void {
    const before = { ...this, was: this.sources }
    const all = sources.length > 0 ? joined(sources) : noSources
    this.sources = sources
    this.places = all.places
    this.renamed = all.renamed
    const untold = sources.filter((s) => s.on && s.catalogue === null).map((s) => s.name)
    this.index = indexCatalogue(all.catalogue, untold)
    this.layOut(room)
    this.up = 0
    this.quiet = 0
    for (const [at, place] of this.places.entries()) {
      const was = before.places.findIndex((p) => p.id === place.id)
      if (was < 0) continue
      if ((before.up >> was) & 1) this.up |= 1 << at
      if ((before.quiet >> was) & 1) this.quiet |= 1 << at
      const catalogueBefore = before.was[was]?.catalogue
      if (catalogueBefore !== sources[at]?.catalogue) continue
      const [from, until] = (before.places[was] as SourcePlace).variables
      this.numbers.set(before.numbers.subarray(from, until), place.variables[0])
      for (let i = from; i < until; i++) this.texts[place.variables[0] + i - from] = before.texts[i] ?? null
    }
  }

  /** The bits of the sources without which these variables and events are nothing. */
  needs(variables: Iterable<number>, events: Iterable<number> = []): number {
    let bits = 0
    for (const slot of variables)
      bits |= slot < this.told ? 1 << sourceAt(this.places, 'variables', slot) : (this.derived.get(slot) ?? 0)
    for (const event of events) bits |= 1 << sourceAt(this.places, 'events', event)
    return bits
  }

  placeOf(source: string): SourcePlace | undefined {
    return this.places.find((p) => p.id === source)
  }

  /** The bit of a source; 0 for one that is not among them. */
  bitOf(source: string): number {
    const at = this.places.findIndex((p) => p.id === source)
    return at < 0 ? 0 : 1 << at
  }

  /** Empty arrays for what all sources tell, and for so many values of the rig's own. */
  private layOut(room: number): void {
    const { variables } = this.index.catalogue
    const count = variables.length
    this.own.clear()
    this.freed = []
    this.room = room
    this.told = count
    this.numbers = new Float64Array(count + room).fill(Number.NaN)
    this.texts = new Array<string | null>(count + room).fill(null)
    this.isText = new Uint8Array(count + room)
    for (const [i, v] of variables.entries()) this.isText[i] = v.type === 'text' ? 1 : 0
  }

  /** Makes room for so many values of the rig's own; true when every slot had to be given out anew. */
  makeRoom(wanted: number): boolean {
    if (wanted <= this.room) return false
    this.describe(this.sources, wanted * 2 + 32)
    return true
  }

  /** The slot of a value of the rig's own. */
  ownSlot(key: string, isText: boolean): number {
    let slot = this.own.get(key)
    if (slot === undefined) {
      slot = this.freed.pop() ?? this.told + this.own.size
      this.own.set(key, slot)
    }
    this.isText[slot] = isText ? 1 : 0
    return slot
  }

  /** Gives a slot of the rig's own back: what it stood for is gone. */
  free(key: string): void {
    const slot = this.own.get(key)
    if (slot === undefined) return
    this.own.delete(key)
    this.freed.push(slot)
    this.numbers[slot] = Number.NaN
    this.texts[slot] = null
  }

  /** Puts a value of the rig's own; true when it differs from the one before. */
  writeOwn(slot: number, value: number | string | null): boolean {
    if (this.isText[slot] === 1) {
      const text = typeof value === 'string' ? value : null
      if (this.texts[slot] === text) return false
      this.texts[slot] = text
      return true
    }
    const number = typeof value === 'number' ? value : Number.NaN
    if (Object.is(this.numbers[slot], number)) return false
    this.numbers[slot] = number
    return true
  }

  /** Whether a value, as it was told, is another than the one before. */
  differs(slot: number, value: SimulatorValue): boolean {
    if (this.isText[slot] === 1) return this.texts[slot] !== textOf(value)
    const number = numberOf(value)
    const before = this.numbers[slot] as number
    return number !== before && !(Number.isNaN(number) && Number.isNaN(before))
  }

  /** Takes a value in; true when it differs from the one before. */
  write(slot: number, value: SimulatorValue): boolean {
    if (!this.differs(slot, value)) return false
    if (this.isText[slot] === 1) this.texts[slot] = textOf(value)
    else this.numbers[slot] = numberOf(value)
    return true
  }

  present(slot: number): boolean {
    if (this.isText[slot] === 1) return this.texts[slot] != null
    const number = this.numbers[slot]
    return number !== undefined && !Number.isNaN(number)
  }

  /** The value, or null when it is absent. */
  read(slot: number): number | string | null {
    return this.present(slot)
      ? this.isText[slot] === 1
        ? (this.texts[slot] ?? null)
        : (this.numbers[slot] ?? null)
      : null
  }
}
