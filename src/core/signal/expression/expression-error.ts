export interface Span {
  start: number
  end: number
}

/** A mistake in an expression: a sentence, and the place in the source it speaks of. */
export class ExpressionError extends Error {
  readonly span: Span
  constructor(message: string, span: Span) {
    super(message)
    this.name = 'ExpressionError'
    this.span = span
  }
}
