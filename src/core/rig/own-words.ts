import { z } from 'zod'
import { unitNamed } from '../signal/unit'
import type { SimulatorCatalogue, VariableInfo } from './simulator-catalogue'

const ownText = z.string().trim()

/** What the builder says of one variable or event of a craft; what is left empty is as the simulator tells it. */
export const ownWord = z.strictObject({
  name: z.string().min(1).max(200),
  called: ownText.max(120),
  unit: ownText.max(20).nullable(),
  description: ownText.max(500),
})
export type OwnWord = z.infer<typeof ownWord>

/** What is said of the names of each craft. */
export type OwnWords = Readonly<Record<string, readonly OwnWord[]>>

export const saysNothing = (w: OwnWord): boolean => w.called === '' && w.description === '' && !w.unit

/** A unit as it is written here: by its symbol where it is known, as it was said otherwise; null for none. */
export const unitSaid = (said: string | null): string | null =>
  said ? (unitNamed(said)?.symbol ?? said) : null

const said = <T extends { readonly description: string }>(info: T, word: OwnWord | undefined): T =>
  word === undefined
    ? info
    : {
        ...info,
        ...(word.called === '' ? {} : { called: word.called }),
        description: word.description || info.description,
      }

/** A name that the builder knows and the craft does not tell. */
const untold = (w: OwnWord): VariableInfo => ({
  name: w.name,
  type: 'number',
  unit: unitSaid(w.unit),
  writable: false,
  range: null,
  description: w.description,
  group: 'Not told by this craft',
  ...(w.called === '' ? {} : { called: w.called }),
})

const made = new WeakMap<SimulatorCatalogue, { words: readonly OwnWord[]; with: SimulatorCatalogue }>()

/**
 * A catalogue with what the builder says of it. Names that it does not have come behind its own, whose places stay what they
 * are. The same words of the same catalogue give the same.
 */
export const withWords = (
  catalogue: SimulatorCatalogue,
  words: readonly OwnWord[] | undefined,
): SimulatorCatalogue => {
  if (!words || words.length === 0) return catalogue
  const known = made.get(catalogue)
  if (known?.words === words) return known.with
  const of = new Map(words.map((w) => [w.name, w]))
  const names = new Set([...catalogue.variables, ...catalogue.events].map((i) => i.name))
  const result: SimulatorCatalogue = {
    craft: catalogue.craft,
    variables: [
      ...catalogue.variables.map((v) => {
        const word = of.get(v.name)
        const unit = unitSaid(word?.unit ?? null)
        return { ...said(v, word), unit: unit ?? v.unit }
      }),
      ...words.filter((w) => !names.has(w.name)).map(untold),
    ],
    events: catalogue.events.map((e) => said(e, of.get(e.name))),
  }
  made.set(catalogue, { words, with: result })
  return result
}
