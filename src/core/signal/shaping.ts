import { ExpressionError } from './expression/expression-error'
import { type Node, parse, spanOf } from './expression/parse'

/** One simple step of a shaping. Results (`gives`, `then` …) are small expressions: a number, a quoted text, on, blink(2). */
export type ShapingStep =
  | { readonly step: 'unit'; readonly unit: string }
  | { readonly step: 'scale'; readonly by: number }
  | { readonly step: 'offset'; readonly by: number }
  | { readonly step: 'round'; readonly to: number }
  | { readonly step: 'clamp'; readonly least: number; readonly most: number }
  | { readonly step: 'curve'; readonly name: string }
  | { readonly step: 'compare'; readonly with: '<' | '>' | '<=' | '>=' | '==' | '!='; readonly limit: string }
  | {
      readonly step: 'ranges'
      /** In rising order: below this limit it gives that. */
      readonly below: readonly { readonly limit: number; readonly gives: string }[]
      readonly otherwise: string
    }
  | {
      readonly step: 'cases'
      readonly cases: readonly { readonly is: string; readonly gives: string }[]
      readonly otherwise: string | null
    }
  | { readonly step: 'choose'; readonly when: string; readonly otherwise: string }
  | { readonly step: 'fixed'; readonly decimals: number; readonly width: number | null }
  | { readonly step: 'join'; readonly before: string; readonly after: string }

/** What goes in, a name, and what happens to it, in order. */
export interface Shaping {
  readonly base: string
  readonly steps: readonly ShapingStep[]
}

/** How tightly a piece of source holds together: what it must be wrapped in parentheses beside. */
type Strength = 'choice' | 'compare' | 'sum' | 'product' | 'atom'
const strengths: readonly Strength[] = ['choice', 'compare', 'sum', 'product', 'atom']

interface Piece {
  readonly text: string
  readonly strength: Strength
}

const atom = (text: string): Piece => ({ text, strength: 'atom' })

const within = (p: Piece, least: Strength): string =>
  strengths.indexOf(p.strength) >= strengths.indexOf(least) ? p.text : `(${p.text})`

const written = (x: number): string => (x < 0 ? `(-${-x})` : String(x))

const apply = (p: Piece, s: ShapingStep): Piece => {
  switch (s.step) {
    case 'unit':
      return atom(`to(${p.text}, ${JSON.stringify(s.unit)})`)
    case 'scale':
      return { text: `${within(p, 'product')} * ${written(s.by)}`, strength: 'product' }
    case 'offset':
      return { text: `${within(p, 'sum')} ${s.by < 0 ? '-' : '+'} ${Math.abs(s.by)}`, strength: 'sum' }
    case 'round':
      return atom(`round(${p.text}, ${s.to})`)
    case 'clamp':
      return atom(`clamp(${p.text}, ${written(s.least)}, ${written(s.most)})`)
    case 'curve':
      return atom(`curve(${JSON.stringify(s.name)}, ${p.text})`)
    case 'compare':
      return { text: `${within(p, 'sum')} ${s.with} ${s.limit}`, strength: 'compare' }
    case 'ranges': {
      const value = within(p, 'sum')
      const rest = s.below.map((b) => `${value} < ${written(b.limit)} ? ${b.gives} : `).join('')
      return { text: rest + s.otherwise, strength: 'choice' }
    }
    case 'cases': {
      const cases = s.cases.flatMap((c) => [c.is, c.gives])
      return atom(`match(${[p.text, ...cases, ...(s.otherwise === null ? [] : [s.otherwise])].join(', ')})`)
    }
    case 'choose':
      return { text: `${s.when} ? ${within(p, 'compare')} : ${s.otherwise}`, strength: 'choice' }
    case 'fixed':
      return atom(`fixed(${p.text}, ${s.decimals}${s.width === null ? '' : `, ${s.width}`})`)
    case 'join':
      return atom(`join(${JSON.stringify(s.before)}, ${p.text}, ${JSON.stringify(s.after)})`)
  }
}

/** The expression that a shaping by steps is. */
export const expressionOf = ({ base, steps }: Shaping): string => steps.reduce(apply, atom(base)).text

const numberIn = (node: Node | undefined): number | null => {
  if (node?.type === 'Literal' && typeof node.value === 'number') return node.value
  if (node?.type === 'UnaryExpression' && node.operator === '-') {
    const inner = numberIn(node.argument as Node)
    return inner === null ? null : -inner
  }
  return null
}

const textIn = (node: Node | undefined): string | null =>
  node?.type === 'Literal' && typeof node.value === 'string' ? node.value : null

const isName = (node: Node): boolean =>
  node.type === 'Identifier' ||
  (node.type === 'MemberExpression' && !node.computed && isName(node.object as Node))

interface Taken {
  readonly step: ShapingStep
  readonly inner: Node
}

/** Takes the outermost step off an expression, or null where it is none of the simple ones. */
class Reader {
  constructor(private readonly source: string) {}

  private slice(node: Node): string {
    const { start, end } = spanOf(node)
    return this.source.slice(start, end).trim()
  }

  /** A result that can stand as it is: no choice of its own that would read otherwise here. */
  private simple(node: Node): string | null {
    const fits = ['Literal', 'Identifier', 'MemberExpression', 'CallExpression', 'UnaryExpression']
    return fits.includes(node.type) ? this.slice(node) : null
  }

  take(node: Node): Taken | null {
    switch (node.type) {
      case 'CallExpression':
        return this.call(node)
      case 'BinaryExpression':
        return this.binary(node)
      case 'ConditionalExpression':
        return this.ranges(node) ?? this.choose(node)
      default:
        return null
    }
  }

  private call(node: Node & { type: 'CallExpression' }): Taken | null {
    const callee = node.callee as Node
    const name = callee.type === 'Identifier' ? callee.name : ''
    const args = node.arguments as Node[]
    const [first, second, third] = args
    if (!first) return null
    const at = (step: ShapingStep | null, inner = first): Taken | null => (step ? { step, inner } : null)
    switch (name) {
      case 'to': {
        const unit = textIn(second)
        return at(args.length === 2 && unit !== null ? { step: 'unit', unit } : null)
      }
      case 'round': {
        const to = args.length === 1 ? 1 : numberIn(second)
        return at(to === null ? null : { step: 'round', to })
      }
      case 'clamp': {
        const [least, most] = [numberIn(second), numberIn(third)]
        return at(least === null || most === null ? null : { step: 'clamp', least, most })
      }
      case 'curve': {
        const curve = textIn(first)
        return second && curve !== null ? at({ step: 'curve', name: curve }, second) : null
      }
      case 'fixed': {
        const decimals = numberIn(second)
        const width = third ? numberIn(third) : null
        return at(decimals === null ? null : { step: 'fixed', decimals, width })
      }
      case 'join': {
        const [before, after] = [textIn(first), textIn(third)]
        if (args.length !== 3 || before === null || after === null || !second) return null
        return at({ step: 'join', before, after }, second)
      }
      case 'match':
        return at(this.cases(args))
      default:
        return null
    }
  }

  private cases(args: readonly Node[]): ShapingStep | null {
    const given = args.slice(1).map((a) => this.simple(a))
    if (given.length < 2 || given.some((g) => g === null)) return null
    const texts = given as string[]
    const even = texts.length - (texts.length % 2)
    const cases = []
    for (let i = 0; i < even; i += 2) cases.push({ is: texts[i] as string, gives: texts[i + 1] as string })
    return { step: 'cases', cases, otherwise: texts[even] ?? null }
  }

  private binary(node: Node & { type: 'BinaryExpression' }): Taken | null {
    const inner = node.left as Node
    const right = node.right as Node
    const by = numberIn(right)
    switch (node.operator) {
      case '*':
        return by === null ? null : { step: { step: 'scale', by }, inner }
      case '+':
      case '-':
        return by === null || by < 0
          ? null
          : { step: { step: 'offset', by: node.operator === '-' ? -by : by }, inner }
      case '<':
      case '>':
      case '<=':
      case '>=':
      case '==':
      case '!=': {
        const limit = this.simple(right)
        return limit === null ? null : { step: { step: 'compare', with: node.operator, limit }, inner }
      }
      default:
        return null
    }
  }

  private ranges(node: Node & { type: 'ConditionalExpression' }): Taken | null {
    const below: { limit: number; gives: string }[] = []
    let inner: Node | null = null
    let rest: Node = node
    while (rest.type === 'ConditionalExpression') {
      const test = rest.test as Node
      if (test.type !== 'BinaryExpression' || test.operator !== '<') return null
      const limit = numberIn(test.right as Node)
      const gives = this.simple(rest.consequent as Node)
      const value = test.left as Node
      if (limit === null || gives === null) return null
      if (inner !== null && this.slice(inner) !== this.slice(value)) return null
      if (below.length > 0 && limit <= (below.at(-1)?.limit ?? 0)) return null
      below.push({ limit, gives })
      inner ??= value
      rest = rest.alternate as Node
    }
    const otherwise = this.simple(rest)
    return inner === null || otherwise === null ? null : { step: { step: 'ranges', below, otherwise }, inner }
  }

  private choose(node: Node & { type: 'ConditionalExpression' }): Taken | null {
    const otherwise = this.simple(node.alternate as Node)
    if (otherwise === null) return null
    const inner = node.consequent as Node
    return { step: { step: 'choose', when: this.slice(node.test as Node), otherwise }, inner }
  }
}

/** The simple steps an expression consists of, or null where it is more than that. */
export const shapingOf = (source: string): Shaping | null => {
  let node: Node
  try {
    node = parse(source)
  } catch (error) {
    if (error instanceof ExpressionError) return null
    throw error
  }
  const reader = new Reader(source)
  const steps: ShapingStep[] = []
  while (!isName(node)) {
    const taken = reader.take(node)
    if (!taken) return null
    steps.unshift(taken.step)
    node = taken.inner
  }
  const { start, end } = spanOf(node)
  return { base: source.slice(start, end).trim(), steps }
}

/** A new step of a kind, with something sensible in it. */
export const freshStep = (kind: ShapingStep['step']): ShapingStep => {
  switch (kind) {
    case 'unit':
      return { step: 'unit', unit: 'ft' }
    case 'scale':
      return { step: 'scale', by: 1 }
    case 'offset':
      return { step: 'offset', by: 0 }
    case 'round':
      return { step: 'round', to: 1 }
    case 'clamp':
      return { step: 'clamp', least: 0, most: 100 }
    case 'curve':
      return { step: 'curve', name: '' }
    case 'compare':
      return { step: 'compare', with: '>', limit: '0' }
    case 'ranges':
      return { step: 'ranges', below: [{ limit: 0, gives: 'off' }], otherwise: 'on' }
    case 'cases':
      return { step: 'cases', cases: [{ is: '0', gives: '0' }], otherwise: null }
    case 'choose':
      return { step: 'choose', when: 'true', otherwise: '0' }
    case 'fixed':
      return { step: 'fixed', decimals: 0, width: null }
    case 'join':
      return { step: 'join', before: '', after: '' }
  }
}
