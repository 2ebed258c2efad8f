import {
  absent,
  alike,
  asBoolean,
  asNumber,
  type Checked,
  type Checker,
  isRatio,
  keep,
  present,
  readSlot,
  refuseUnknownChoice,
  unitOf,
} from './checked'
import { ExpressionError } from './expression-error'
import { functions } from './functions'
import { type Node, spanOf } from './parse'
import { boolean, plainNumber, text, type ValueType } from './value-type'

const at = (node: Node, message: string): ExpressionError => new ExpressionError(message, spanOf(node))

/** The dotted name a node spells, or null if it is not one. */
const nameOf = (node: Node): string | null => {
  if (node.type === 'Identifier') return node.name
  if (node.type !== 'MemberExpression' || node.computed || node.optional) return null
  const object = nameOf(node.object as Node)
  const property = nameOf(node.property as Node)
  return object === null || property === null ? null : `${object}.${property}`
}

const constants: Readonly<Record<string, Checked>> = {
  on: { type: boolean, code: '1' },
  off: { type: boolean, code: '0' },
  pi: { type: plainNumber, code: String(Math.PI), literal: Math.PI },
}

/** Checks types and units of a parsed expression and turns it into code. Throws ExpressionError. */
export const check = (node: Node, ck: Checker): Checked => {
  switch (node.type) {
    case 'Literal':
      return literal(node)
    case 'Identifier':
    case 'MemberExpression':
      return name(node, ck)
    case 'UnaryExpression':
      return unary(node.operator, check(node.argument as Node, ck), node, ck)
    case 'BinaryExpression':
      return binary(node.operator, node, ck)
    case 'ConditionalExpression': {
      const test = asBoolean(check(node.test as Node, ck), node.test as Node)
      const [yes, no] = alike(
        check(node.consequent as Node, ck),
        check(node.alternate as Node, ck),
        node.alternate as Node,
      )
      if (!ck.lenient) return { type: yes.type, code: `(${test.code}?${yes.code}:${no.code})` }
      const { first, again } = keep(test, ck)
      const choice = `(${again.code}?${yes.code}:${no.code})`
      return { type: yes.type, code: `(${present(boolean, first)}?${choice}:${absent(yes.type)})` }
    }
    case 'CallExpression': {
      const called = nameOf(node.callee as Node)
      const known = called === null ? undefined : functions[called]
      if (!known) throw at(node.callee as Node, `There is no function “${called ?? '?'}”.`)
      return known(node.arguments as Node[], node, ck)
    }
    default:
      throw at(node, 'Only values, operators, choices (a ? b : c) and functions can stand here.')
  }
}

const literal = (node: Node & { type: 'Literal' }): Checked => {
  if (typeof node.value === 'number') return { type: plainNumber, code: `${node.value}`, literal: node.value }
  if (typeof node.value === 'string')
    return { type: text, code: JSON.stringify(node.value), literal: node.value }
  if (typeof node.value === 'boolean') return { type: boolean, code: node.value ? '1' : '0' }
  throw at(node, 'Only numbers, texts, true and false can be written out.')
}

const name = (node: Node, ck: Checker): Checked => {
  const spelled = nameOf(node)
  if (spelled === null) throw at(node, 'Names are words joined by dots; brackets cannot be used.')
  if (spelled === 'input') {
    // What is remembered reads it where it lies.
    const lies = ck.scope.input ? undefined : ck.scope.inputAt?.(node)
    if (lies) return readSlot(lies.slot, lies.type, ck)
    if (!ck.scope.input) throw at(node, '“input” has no meaning here.')
    ck.uses.input = true
    return { type: ck.scope.input, code: 'input' }
  }
  const constant = Object.hasOwn(constants, spelled) ? constants[spelled] : undefined
  if (constant) return constant
  const variable = ck.scope.variable(spelled)
  if (!variable) {
    const close = ck.scope.similar?.(spelled)
    throw at(node, `There is no variable “${spelled}”.${close ? ` Did you mean “${close}”?` : ''}`)
  }
  return readSlot(variable.slot, variable.type, ck)
}

const unary = (operator: string, value: Checked, node: Node, ck: Checker): Checked => {
  if (operator === '!') {
    const { code } = asBoolean(value, node)
    return { type: boolean, code: ck.lenient ? `f.not(${code})` : `(${code}?0:1)` }
  }
  const number = asNumber(value, node)
  const literal = typeof number.literal === 'number' ? number.literal : undefined
  if (operator === '-') {
    return { ...number, code: `(-${number.code})`, ...(literal === undefined ? {} : { literal: -literal }) }
  }
  return number
}

const arithmetic = new Set(['+', '-', '*', '/', '%', '**'])
const ordering = new Set(['<', '>', '<=', '>='])

const binary = (operator: string, node: Node & { type: 'BinaryExpression' }, ck: Checker): Checked => {
  const leftNode = node.left as Node
  const rightNode = node.right as Node
  const left = check(leftNode, ck)
  const right = check(rightNode, ck)
  if (operator === '&&' || operator === '||') {
    const a = asBoolean(left, leftNode)
    const b = asBoolean(right, rightNode)
    if (ck.lenient)
      return { type: boolean, code: `f.${operator === '&&' ? 'and' : 'or'}(${a.code},${b.code})` }
    return { type: boolean, code: `(${a.code}${operator}${b.code}?1:0)` }
  }
  if (operator === '==' || operator === '!=') {
    const [a, b] = alike(left, right, rightNode)
    refuseUnknownChoice(left, right, rightNode)
    const same = `f.same(${a.code},${b.code})`
    if (ck.lenient) return { type: boolean, code: operator === '==' ? same : `f.not(${same})` }
    return { type: boolean, code: `(${a.code}${operator}=${b.code}?1:0)` }
  }
  const a = asNumber(left, leftNode)
  const b = asNumber(right, rightNode)
  if (ordering.has(operator)) {
    const [x, y] = alike(a, b, rightNode)
    if (ck.lenient) return { type: boolean, code: lenientOrder(operator, x.code, y.code) }
    return { type: boolean, code: `(${x.code}${operator}${y.code}?1:0)` }
  }
  if (!arithmetic.has(operator)) throw at(node, `The operator ${operator} is not among those a rig can use.`)
  if (operator === '+' || operator === '-') {
    const [x, y] = alike(a, b, rightNode)
    return { type: x.type, code: `(${x.code}${operator}${y.code})` }
  }
  return { type: productType(operator, a.type, b.type, node), code: `(${a.code}${operator}${b.code})` }
}

/** A comparison of which either side may be absent; then it cannot be told. */
const lenientOrder = (operator: string, x: string, y: string): string => {
  const [a, b] = operator.startsWith('>') ? [y, x] : [x, y]
  return `f.${operator.endsWith('=') ? 'atMost' : 'less'}(${a},${b})`
}

/** Scaling keeps a unit, dividing like by like loses it; units are not multiplied into new ones. */
const productType = (operator: string, a: ValueType, b: ValueType, node: Node): ValueType => {
  const left = unitOf(a)
  const right = unitOf(b)
  if (operator === '%') {
    if (isRatio(right) || left?.symbol === right?.symbol) return a
  } else if (operator === '/' && left && right && left.symbol === right.symbol) return plainNumber
  else if (isRatio(right)) return left === null ? plainNumber : a
  else if (operator === '*' && isRatio(left)) return b
  throw at(
    node,
    `${left?.symbol ?? 'A plain number'} ${operator} ${right?.symbol ?? 'a plain number'} has no unit here. Take the bare number of one side with bare(…).`,
  )
}
