import type { Scope } from '../signal/expression/checked'
import { type Compiled, compile, type Values, type Wanted } from '../signal/expression/compile'
import { ExpressionError, type Span } from '../signal/expression/expression-error'
import { faultWords } from './evaluate'

/** The station of a path a mistake belongs to, so that it is shown where it can be mended. */
export type Station = 'part' | 'pin' | 'board' | 'shaping' | 'onlyWhile' | 'simulator'

export interface BindingMistake {
  readonly station: Station
  readonly message: string
  /** Where in the expression, if it is one. */
  readonly span: Span | null
}

/** Gathers what is wrong with a binding; nothing is thrown. */
export class Mistakes {
  readonly list: BindingMistake[] = []

  say(station: Station, message: string): void {
    this.list.push({ station, message, span: null })
  }

  /** Compiles, or notes the mistake and yields null. */
  expression(
    station: Station,
    source: string | null | undefined,
    scope: Scope,
    values: Values,
    wanted: Wanted,
  ): Compiled | null {
    if (source === null || source === undefined) return null
    try {
      return compile(source, scope, values, wanted)
    } catch (error) {
      const known = error instanceof ExpressionError
      // Whatever it is, it is this expression's own trouble.
      const message = known ? error.message : `This cannot be worked out: ${faultWords(error)}.`
      this.list.push({ station, message, span: known ? error.span : null })
      return null
    }
  }
}
