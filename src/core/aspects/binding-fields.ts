import { z } from 'zod'

/** Expressions are text in the rig; `core/signal/expression` says what they may contain. */
export const expression = z.string().max(2000)
/** A name of a variable or event, or an id of the rig's own. */
export const target = z.string().max(200)
export const finite = z.number().finite()

/** What every binding has. */
export const common = {
  /** Which aspect of the part; the first that can have such a binding where it is left out. */
  aspect: z.string().max(80).optional(),
  /** The layer in which it acts; in all where it is left out. */
  layer: z.string().max(80).optional(),
  /** The craft set for which it holds; for every craft where it is left out. */
  craftSet: z.string().max(80).optional(),
}

/** What every binding of an indicator has. */
export const fromVariable = {
  ...common,
  variable: target.nullable(),
  onlyWhile: expression.nullable(),
}
