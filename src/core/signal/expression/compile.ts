import { alongCurve } from '../curve'
import { formatNumber } from '../format'
import { packLamp } from '../lamp-state'
import { check } from './check'
import {
  absent,
  asBoolean,
  asLamp,
  asPlainNumber,
  asWords,
  type Checked,
  type Checker,
  freshUses,
  inUnit,
  type Scope,
  type Uses,
} from './checked'
import { ExpressionError, type Span } from './expression-error'
import { interpreted, type Names } from './interpret'
import { type Node, parse } from './parse'
import { typeWords, type ValueType } from './value-type'

/** Numbers of all variables by slot (booleans are 0 or 1, absent is NaN) and texts likewise (absent is null). */
export interface Values {
  readonly numbers: Float64Array
  readonly texts: (string | null)[]
  /** 1 for each slot that holds a text; none does where this is left out. */
  readonly isText?: Uint8Array
}

/** What a compiled expression yields: lamp states packed, booleans 0 or 1; NaN, or null for a text, for no value. */
export type Evaluate = (input: number | string | null) => number | string | null

export interface Compiled {
  readonly type: ValueType
  readonly evaluate: Evaluate
  /** Slots without which there is no result. */
  readonly needs: readonly number[]
  /** All slots whose change can change the result. */
  readonly reads: readonly number[]
  readonly readsInput: boolean
}

/** What an expression is used as; it is converted to that or refused. */
export type Wanted =
  | { as: 'lamp' }
  | { as: 'condition' }
  | { as: 'words' }
  | { as: 'number' }
  /** What digits can show: a number, or a text. */
  | { as: 'digits' }
  | { as: 'type'; type: ValueType }
  | { as: 'any' }

const DASHES = '--'

const withoutMinusZero = (text: string): string => (Number(text) === 0 ? text.replace('-', '') : text)

const there = (x: number | string | null): boolean => x !== null && !Number.isNaN(x)

const support = {
  /** A brightness that is not a number is no lamp state, rather than a full or an empty one. */
  packLamp: (brightness: number, hz: number) =>
    Number.isFinite(brightness) && Number.isFinite(hz) ? packLamp(brightness, hz) : Number.NaN,
  alongCurve,
  orDashes: (text: string | null) => text ?? DASHES,
  onOff: (value: number) => (Number.isFinite(value) ? (value !== 0 ? 'on' : 'off') : DASHES),
  words: (value: number) => (Number.isFinite(value) ? formatNumber(value).replace('−', '-') : DASHES),
  fixed: (value: number, decimals: number, width: number) =>
    Number.isFinite(value)
      ? withoutMinusZero(value.toFixed(decimals)).padStart(width)
      : '-'.repeat(width || 2),
  zeros: (value: number, digits: number) =>
    Number.isFinite(value)
      ? `${value <= -0.5 ? '-' : ''}${String(Math.round(Math.abs(value))).padStart(digits, '0')}`
      : '-'.repeat(digits),
  pad: (text: string, width: number) => (width < 0 ? text.padStart(-width) : text.padEnd(width)),
  present: (x: number) => Number.isFinite(x),
  /** Yes and no where either may be absent: what cannot be told is absent, not no. */
  not: (x: number) => (there(x) ? Number(x === 0) : Number.NaN),
  and: (a: number, b: number) => (there(a) && there(b) ? Number(a !== 0 && b !== 0) : Number.NaN),
  or: (a: number, b: number) => (there(a) && there(b) ? Number(a !== 0 || b !== 0) : Number.NaN),
  less: (a: number, b: number) => (there(a) && there(b) ? Number(a < b) : Number.NaN),
  atMost: (a: number, b: number) => (there(a) && there(b) ? Number(a <= b) : Number.NaN),
  same: (a: number | string | null, b: number | string | null) =>
    there(a) && there(b) ? Number(a === b) : Number.NaN,
  wrap: (value: number, least: number, most: number) => {
    const span = most - least
    return least + ((((value - least) % span) + span) % span)
  },
}

const convertTo = (value: Checked, wanted: Wanted, node: Node): Checked => {
  if (wanted.as === 'lamp') return asLamp(value, node)
  if (wanted.as === 'condition') return asBoolean(value, node)
  if (wanted.as === 'words') return asWords(value, node)
  if (wanted.as === 'number') return asPlainNumber(value, node)
  if (wanted.as === 'digits') return value.type.is === 'text' ? value : asPlainNumber(value, node)
  if (wanted.as === 'any') return value
  const { type } = wanted
  if (type.is === 'number' && value.type.is === 'number')
    return type.unit ? inUnit(value, type.unit, node) : value
  if (type.is === value.type.is) return value
  if (type.is === 'boolean' && value.literal === 1) return { type, code: '1' }
  if (type.is === 'boolean' && value.literal === 0) return { type, code: '0' }
  throw new ExpressionError(`This gives ${typeWords(value.type)}; ${typeWords(type)} is needed.`, {
    start: 0,
    end: Number.MAX_SAFE_INTEGER,
  })
}

type Factory = (
  n: Float64Array,
  t: readonly (string | null)[],
  c: Uses['curves'],
  f: typeof support,
  ...slots: number[]
) => Evaluate

/**
 * Expressions of one shape share one piece of code: only the slots differ, and they are passed in. A rig has many
 * near-copies, so what one of them has warmed up serves them all.
 */
const factories = new Map<string, Factory>()
const MOST_FACTORIES = 4000

/** Whether code may be made here: a page with a strict policy lets none be. */
const mayMakeCode = ((): boolean => {
  try {
    return typeof document === 'undefined' && new Function('return true')() === true
  } catch {
    return false
  }
})()

/** The same as `factoryFor`, worked out step by step. */
const interpreterFor = (checked: Checked, uses: Uses, values: Values): Evaluate => {
  const run = interpreted(checked.code)
  const names: Names = new Map<string, unknown>([
    ['n', values.numbers],
    ['t', values.texts],
    ['c', uses.curves],
    ['f', support],
    ['Math', Math],
    ...uses.order.map((slot, k): [string, number] => [`s${k}`, slot]),
  ])
  const missing = absent(checked.type) === 'null' ? null : Number.NaN
  return (input) => {
    for (const slot of uses.slots) {
      const isText = values.isText?.[slot] === 1
      if (isText ? values.texts[slot] === null : Number.isNaN(values.numbers[slot])) return missing
    }
    if (uses.input && (input === null || Number.isNaN(input))) return missing
    names.set('input', input)
    return run(names) as number | string | null
  }
}

/** The function for checked code: absent (NaN, or null for a text) when anything it needs is absent. */
const factoryFor = (checked: Checked, uses: Uses, values: Values): Factory => {
  const there = uses.order.flatMap((slot, k) => {
    if (!uses.slots.has(slot)) return []
    return values.isText?.[slot] === 1 ? [`t[s${k}]!==null`] : [`n[s${k}]===n[s${k}]`]
  })
  if (uses.input) there.push('input!==null', 'input===input')
  const guard = there.length > 0 ? `if(!(${there.join('&&')}))return ${absent(checked.type)};` : ''
  const kept = Array.from({ length: uses.kept }, (_, k) => `v${k}`)
  const room = kept.length > 0 ? `let ${kept.join(',')};` : ''
  const source = `"use strict";return function(input){${guard}${room}return ${checked.code}}`
  const key = `${uses.order.length} ${source}`
  let factory = factories.get(key)
  if (!factory) {
    if (factories.size >= MOST_FACTORIES) factories.clear()
    const slots = uses.order.map((_, k) => `s${k}`)
    factory = new Function('n', 't', 'c', 'f', ...slots, source) as Factory
    factories.set(key, factory)
  }
  return factory
}

/**
 * Compiles an expression once to a closure over the value arrays. The code is made only of checked pieces
 * (numbers, quoted texts, array slots, listed functions), so it can reach nothing else. Throws ExpressionError.
 */
export const compile = (
  source: string,
  scope: Scope,
  values: Values,
  wanted: Wanted,
  makesCode = mayMakeCode,
): Compiled => {
  const node = parse(source)
  const uses = freshUses()
  const checker = checkerFor(scope, uses, false)
  let checked: Checked
  try {
    checked = convertTo(check(node, checker), wanted, node)
  } catch (error) {
    if (error instanceof ExpressionError && error.span.end > source.length) {
      throw new ExpressionError(error.message, {
        start: Math.min(error.span.start, source.length),
        end: source.length,
      })
    }
    throw error
  }
  return finish(checked, uses, values, makesCode)
}

/** Checked code as something that can be worked out. */
export const finish = (checked: Checked, uses: Uses, values: Values, makesCode = mayMakeCode): Compiled => ({
  type: checked.type,
  evaluate: makesCode
    ? factoryFor(checked, uses, values)(values.numbers, values.texts, uses.curves, support, ...uses.order)
    : interpreterFor(checked, uses, values),
  needs: [...uses.slots],
  reads: [...new Set([...uses.slots, ...uses.optional])],
  readsInput: uses.input,
})

const checkerFor = (scope: Scope, uses: Uses, lenient: boolean): Checker => {
  const checker: Checker = {
    ...{ scope, uses, lenient },
    check: (inner) => check(inner, checker),
    within: (otherScope, otherUses) => checkerFor(otherScope, otherUses, true),
  }
  return checker
}

export interface Mistake {
  readonly message: string
  readonly span: Span
}

/** The mistake in an expression, or null where it is sound: what an editor shows while one types. */
export const mistakeIn = (source: string, scope: Scope, wanted: Wanted): Mistake | null => {
  try {
    compile(source, scope, { numbers: new Float64Array(0), texts: [] }, wanted)
    return null
  } catch (error) {
    if (error instanceof ExpressionError) return { message: error.message, span: error.span }
    const message = `This cannot be worked out: ${error instanceof Error ? error.message : error}.`
    return { message, span: { start: 0, end: source.length } }
  }
}
