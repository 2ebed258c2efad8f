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

  describe(catalogue: SimulatorCatalogue): void {
    this.index = indexCatalogue(catalogue)
    const count = catalogue.variables.length
    this.numbers = new Float64Array(count).fill(Number.NaN)
    this.texts = new Array<string | null>(count).fill(null)
    this.isText = Uint8Array.from(catalogue.variables, (v) => (v.type === 'text' ? 1 : 0))
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
