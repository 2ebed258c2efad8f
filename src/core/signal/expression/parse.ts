import jsep from 'jsep'
import { ExpressionError, type Span } from './expression-error'

export type Node = jsep.CoreExpression & Span

/** The parser does not keep places; these hooks note where each token begins and ends. */
const starts: number[] = []
jsep.hooks.add('gobble-token', function (env) {
  starts.push(this.index)
  // Numbers would otherwise be passed on without the hook after them, and leave their start behind.
  if (/[\d.]/.test(this.char)) env.node = this.gobbleNumericLiteral() as jsep.Expression
})
jsep.hooks.add('after-token', function (this: { index: number }, env) {
  const start = starts.pop()
  if (env.node && start !== undefined) Object.assign(env.node, { start, end: this.index } satisfies Span)
})

/** ECMAScript has these, but a rig has no bits to shift and one way of saying equal is enough. */
for (const op of ['|', '^', '&', '<<', '>>', '>>>', '===', '!==', '??']) jsep.removeBinaryOp(op)
jsep.removeUnaryOp('~')
jsep.removeLiteral('this')
jsep.removeLiteral('null')

const deep = (span: Span): ExpressionError =>
  new ExpressionError(`This is nested more than ${MOST_DEPTH} deep. Split it over several paths.`, span)

/** What an expression may be at most: longer than anybody writes, and shallow enough for whatever walks it. */
export const MOST_SIGNS = 2000
export const MOST_DEPTH = 60

const childrenOf = (node: Node): Node[] =>
  Object.values(node)
    .flat()
    .filter((x): x is Node => typeof x === 'object' && x !== null && 'type' in x)

/** The first node so deep down, or null. Walked without recursion: what is too deep would be too deep for that as well. */
const tooDeep = (root: Node): Node | null => {
  let level: Node[] = [root]
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MOST_DEPTH) return level[0] ?? null
    level = level.flatMap(childrenOf)
  }
  return null
}

/** Parses one ECMAScript expression. Throws ExpressionError, with the place, where it is not one. */
export const parse = (source: string): Node => {
  starts.length = 0
  if (source.trim() === '')
    throw new ExpressionError('The expression is empty.', { start: 0, end: source.length })
  if (source.length > MOST_SIGNS)
    throw new ExpressionError(
      `The expression is ${source.length} signs long; ${MOST_SIGNS} are the most. Split it over several paths.`,
      { start: MOST_SIGNS, end: source.length },
    )
  let node: Node
  try {
    node = jsep(source) as Node
  } catch (error) {
    // The parser ran out of stack.
    if (error instanceof RangeError) throw deep({ start: 0, end: source.length })
    const at = Math.min((error as { index?: number }).index ?? 0, source.length)
    const words = ((error as { description?: string }).description ?? String(error)).replace(
      / at character \d+$/,
      '',
    )
    throw new ExpressionError(`${words}.`, {
      start: Math.min(at, Math.max(0, source.length - 1)),
      end: at + 1,
    })
  }
  if (node.type === 'Compound') {
    const second = node.body[1] as Node | undefined
    throw new ExpressionError('Something is missing between two values here.', spanOf(second ?? node))
  }
  const bottom = tooDeep(node)
  if (bottom) throw deep({ start: bottom.start ?? 0, end: bottom.end ?? source.length })
  return node
}

/** Where a node stands in the source; what the parser composed spans its children. */
export const spanOf = (node: Node): Span => {
  if (node.type === 'BinaryExpression') {
    return { start: spanOf(node.left as Node).start, end: spanOf(node.right as Node).end }
  }
  if (node.type === 'ConditionalExpression') {
    return { start: spanOf(node.test as Node).start, end: spanOf(node.alternate as Node).end }
  }
  return { start: node.start ?? 0, end: node.end ?? 0 }
}
