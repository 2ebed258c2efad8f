import {
  type CatalogueIndex,
  indexCatalogue,
  noCatalogue,
  type SimulatorCatalogue,
} from '../rig/simulator-catalogue'
import type { Values } from '../signal/expression/compile'
import type { SimulatorValue } from './input'

/**
 * The simulator's values in flat arrays, as compiled expressions read them. A number that is absent is NaN, a
 * text that is absent is null: absent is never zero.
 */
export class Variables implements Values {
  index: CatalogueIndex = indexCatalogue(noCatalogue)
  numbers = new Float64Array(0)
  texts: (string | null)[] = []
  isText = new Uint8Array(0)

  /** Slots behind the simulator's own, for positions of controls and active layers, by what they stand for. */
  private readonly own = new Map<string, number>()
  /** Slots that were given back. */
  private freed: number[] = []
  private room = 0
  /** How many values the simulator tells; slots from here on are the rig's own. */
  told = 0

  /** Takes a new catalogue, with room for so many values of the rig's own. All values start absent. */
  describe(catalogue: SimulatorCatalogue, room = this.room): void {
    this.index = indexCatalogue(catalogue)
    const count = catalogue.variables.length
    this.own.clear()
    this.freed = []
    this.room = room
    this.told = count
    this.numbers = new Float64Array(count + room).fill(Number.NaN)
    this.texts = new Array<string | null>(count + room).fill(null)
    this.isText = new Uint8Array(count + room)
    for (const [i, v] of catalogue.variables.entries()) this.isText[i] = v.type === 'text' ? 1 : 0
  }

  /** Makes room for so many values of the rig's own; true when every slot had to be given out anew. */
  makeRoom(wanted: number): boolean {
    if (wanted <= this.room) return false
    const { numbers, texts, told } = this
    this.describe(this.index.catalogue, wanted * 2 + 32)
    this.numbers.set(numbers.subarray(0, told))
    for (let i = 0; i < told; i++) this.texts[i] = texts[i] ?? null
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

  /** Takes a value in; true when it differs from the one before. */
  write(slot: number, value: SimulatorValue): boolean {
    if (this.isText[slot] === 1) {
      const text = typeof value === 'string' ? value : null
      if (this.texts[slot] === text) return false
      this.texts[slot] = text
      return true
    }
    const number = typeof value === 'number' ? value : typeof value === 'boolean' ? Number(value) : Number.NaN
    const before = this.numbers[slot] as number
    if (number === before || (Number.isNaN(number) && Number.isNaN(before))) return false
    this.numbers[slot] = number
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
