import type { MemoryName } from '../memory/kinds'
import { conversion, type Unit } from '../unit'
import { ExpressionError } from './expression-error'
import { type Node, spanOf } from './parse'
import { lamp, plainNumber, text, typeWords, type ValueType } from './value-type'

/** A value that is read from a slot, or why there is none. */
export type Readable = { readonly slot: number; readonly type: ValueType } | { readonly problem: string }

/** What names mean where an expression stands. */
export interface Scope {
  /** Type of a simulator variable and the slot it will be read from, or undefined for an unknown name. */
  variable(name: string): { slot: number; type: ValueType } | undefined
  /** What `input` is here, if there is one. */
  readonly input?: ValueType
  /** The points of a curve of this rig by name. */
  curve?(name: string): readonly { from: number; to: number }[] | undefined
  /** A control of this rig by name, and one of its aspects where it has several. */
  part?(name: string, aspect: string | undefined): Readable
  /** The active layer of a set by name. */
  layer?(set: string): Readable
  /** Where the variable that is `input` lies, where it is one. */
  readonly inputSlot?: number
  /** Where `input` lies for what is remembered, where it is not told anew each time; refuses what does not last. */
  inputAt?(node: Node): { readonly slot: number; readonly type: ValueType } | undefined
  /** Where a function with a memory keeps what it gives. */
  memory?(name: MemoryName, given: readonly MemoryArgument[], type: ValueType): Readable
  /** Names to offer when one is unknown. */
  similar?(name: string): string | undefined
}

/** An argument of a function with a memory, checked, with what it uses. */
export interface MemoryArgument {
  readonly checked: Checked
  readonly uses: Uses
}

/** A checked expression: JavaScript source over `n` (numbers), `t` (texts), `input` and `c` (curves). */
export interface Checked {
  readonly type: ValueType
  readonly code: string
  /** The number itself where the expression is nothing but one. */
  readonly literal?: number | string
}

/** What a check gathers on the way: the slots that must have a value, and those that may be without. */
export interface Uses {
  /** Every slot that is read, in order of appearance: the code speaks of the k-th as s<k>. */
  readonly order: number[]
  readonly slots: Set<number>
  readonly optional: Set<number>
  readonly curves: (readonly { from: number; to: number }[])[]
  input: boolean
  /** How many values are kept while the expression is worked out: the code speaks of the k-th as v<k>. */
  kept: number
}

export const freshUses = (): Uses => ({
  order: [],
  slots: new Set(),
  optional: new Set(),
  curves: [],
  input: false,
  kept: 0,
})

export interface Checker {
  readonly scope: Scope
  readonly uses: Uses
  readonly check: (node: Node) => Checked
  /** Another one, for something that is worked out by itself and may be without a value. */
  readonly within: (scope: Scope, uses: Uses) => Checker
  /** True inside `otherwise` and `known`, where a variable may be absent. */
  lenient: boolean
}

/** A value that the code needs more than once, worked out once: where it is worked out, and where it stands then. */
export const keep = (value: Checked, ck: Checker): { readonly first: string; readonly again: Checked } => {
  if (value.literal !== undefined) return { first: value.code, again: value }
  const name = `v${ck.uses.kept++}`
  return { first: `(${name}=${value.code})`, again: { type: value.type, code: name } }
}

/** Code that is true when a value is there: absent numbers are NaN or beyond all, absent texts are null. */
export const present = (type: ValueType, code: string): string =>
  type.is === 'text' ? `(${code}!==null)` : `f.present(${code})`

/** What stands for no value of a type. */
export const absent = (type: ValueType): string => (type.is === 'text' ? 'null' : 'NaN')

/** Code that reads a slot; what is read inside `otherwise` and `known` may be absent. */
export const readSlot = (slot: number, type: ValueType, ck: Checker): Checked => {
  ;(ck.lenient ? ck.uses.optional : ck.uses.slots).add(slot)
  let place = ck.uses.order.indexOf(slot)
  if (place < 0) place = ck.uses.order.push(slot) - 1
  return { type, code: `${type.is === 'text' ? 't' : 'n'}[s${place}]` }
}

const at = (node: Node, message: string): ExpressionError => new ExpressionError(message, spanOf(node))

export const unitOf = (type: ValueType): Unit | null => (type.is === 'number' ? type.unit : null)
export const isRatio = (unit: Unit | null): boolean => unit === null || unit.dimension === 'ratio'

/** Two operands as one type: a bare number takes the other's unit, a like unit is converted to the left one's. */
export const alike = (a: Checked, b: Checked, node: Node): [Checked, Checked] => {
  if (a.type.is === 'lamp' || b.type.is === 'lamp') return [asLamp(a, node), asLamp(b, node)]
  if (a.type.is === 'number' && b.type.is === 'number') {
    const left = a.type.unit
    const right = b.type.unit
    if (!left) return [{ ...a, type: b.type }, b]
    if (!right) return [a, { ...b, type: a.type }]
    return [a, inUnit(b, left, node)]
  }
  if (a.type.is !== b.type.is) {
    throw at(node, `${typeWords(a.type)} and ${typeWords(b.type)} do not go together.`.replace(/^a/, 'A'))
  }
  return [a, b]
}

/** Refuses to compare something with a text that it can never be: a mistyped position, a layer that is not there. */
export const refuseUnknownChoice = (a: Checked, b: Checked, node: Node): void => {
  for (const [one, other] of [
    [a, b],
    [b, a],
  ] as const) {
    const choices = one.type.is === 'text' ? one.type.choices : undefined
    if (!choices || typeof other.literal !== 'string' || choices.includes(other.literal)) continue
    const there = choices.map((c) => `“${c}”`).join(', ')
    throw at(node, `This is never “${other.literal}”; it is one of ${there}.`)
  }
}

/** A number in the wanted unit: converted, taken as such when bare, refused when it measures something else. */
export const inUnit = (value: Checked, unit: Unit, node: Node): Checked => {
  const number = asNumber(value, node)
  const from = unitOf(number.type)
  const type: ValueType = { is: 'number', unit }
  if (!from || from.symbol === unit.symbol) return { ...number, type }
  if (from.dimension !== unit.dimension) {
    throw at(
      node,
      `${from.symbol} (${from.dimension}) and ${unit.symbol} (${unit.dimension}) do not measure the same.`,
    )
  }
  const { scale, offset } = conversion(from, unit)
  return { type, code: offset === 0 ? `(${number.code}*${scale})` : `(${number.code}*${scale}+${offset})` }
}

export const asNumber = (value: Checked, node: Node): Checked => {
  if (value.type.is === 'number') return value
  throw at(node, `A number is needed here, this is ${typeWords(value.type)}.`)
}

export const asBoolean = (value: Checked, node: Node): Checked => {
  if (value.type.is === 'boolean') return value
  throw at(node, `A yes or no is needed here, this is ${typeWords(value.type)}. Compare it with something.`)
}

export const asText = (value: Checked, node: Node): Checked => {
  if (value.type.is === 'text') return value
  throw at(node, `A text is needed here, this is ${typeWords(value.type)}.`)
}

/** A lamp state, from one, from a yes or no, or from a brightness of 0 to 1. */
export const asLamp = (value: Checked, node: Node): Checked => {
  if (value.type.is === 'lamp') return value
  if (value.type.is === 'boolean') return { type: lamp, code: `(${value.code}?255:0)` }
  const unit = unitOf(value.type)
  if (value.type.is === 'number' && isRatio(unit)) {
    return { type: lamp, code: `f.packLamp(${value.code}${unit?.symbol === '%' ? '/100' : ''},0)` }
  }
  throw at(
    node,
    `A lamp shows on, off, blink(…) or a brightness from 0 to 1; this is ${typeWords(value.type)}. Compare it with a limit.`,
  )
}

/** Any value in words; one that is absent is dashes. */
export const asWords = (value: Checked, node: Node): Checked => {
  switch (value.type.is) {
    case 'text':
      return { type: text, code: `f.orDashes(${value.code})` }
    case 'boolean':
      return { type: text, code: `f.onOff(${value.code})` }
    case 'number':
      return { type: text, code: `f.words(${value.code})` }
    case 'lamp':
      throw at(node, 'A lamp state cannot be written out.')
  }
}

/** A number for a needle or a colour: as it is, or 1 and 0 for yes and no. */
export const asPlainNumber = (value: Checked, node: Node): Checked =>
  value.type.is === 'boolean' ? { ...value, type: plainNumber } : asNumber(value, node)
