import { type MemoryName, memoryKinds } from '../memory/kinds'
import { unitNamed } from '../unit'
import {
  absent,
  alike,
  asLamp,
  asNumber,
  asText,
  asWords,
  type Checked,
  type Checker,
  inUnit,
  keep,
  present,
  readSlot,
  refuseUnknownChoice,
} from './checked'
import { ExpressionError } from './expression-error'
import { type Node, spanOf } from './parse'
import { remembered } from './remembered'
import { boolean, lamp, plainNumber, text } from './value-type'

type Build = (args: Node[], call: Node, ck: Checker) => Checked

const wrong = (node: Node, message: string) => new ExpressionError(message, spanOf(node))

/** The arguments, or a sentence saying how the function is called. */
const take = (args: Node[], call: Node, least: number, most: number, form: string): Node[] => {
  if (args.length < least || args.length > most) throw wrong(call, `This is called as ${form}.`)
  return args
}

const arg = (args: Node[], i: number): Node => args[i] as Node

const quotedUnit = (node: Node) => {
  const symbol = node.type === 'Literal' && typeof node.value === 'string' ? node.value : null
  const unit = symbol === null ? undefined : unitNamed(symbol)
  if (!unit)
    throw wrong(
      node,
      `There is no unit ${symbol === null ? 'like this' : `“${symbol}”`}; write it in quotes, as "ft".`,
    )
  return unit
}

const nearest = (ck: Checker, name: string): string => {
  const close = ck.scope.similar?.(name)
  return close ? ` Did you mean “${close}”?` : ''
}
const quoted = (node: Node, otherwise: string): string => {
  if (node.type === 'Literal' && typeof node.value === 'string') return node.value
  throw wrong(node, otherwise)
}

/** A whole number written out, within limits. */
const whole = (node: Node, least: number, most: number): number => {
  const negative = node.type === 'UnaryExpression' && node.operator === '-'
  const inner = negative ? (node.argument as Node) : node
  const value = inner.type === 'Literal' && typeof inner.value === 'number' ? inner.value : Number.NaN
  const signed = negative ? -value : value
  if (Number.isInteger(signed) && signed >= least && signed <= most) return signed
  throw wrong(node, `A whole number from ${least} to ${most} is needed here.`)
}

/** Numbers in, one number out, all in the unit of the first. */
const ofNumbers =
  (form: string, least: number, most: number, code: (c: string[]) => string): Build =>
  (args, call, ck) => {
    take(args, call, least, most, form)
    const values = args.map((a) => asNumber(ck.check(a), a))
    let first = values[0] as Checked
    for (const v of values) [first] = alike(first, v, call)
    const unit = first.type.is === 'number' ? first.type.unit : null
    const same = unit ? values.map((v, i) => inUnit(v, unit, arg(args, i))) : values
    return { type: first.type, code: code(same.map((v) => v.code)) }
  }

const lenient = (node: Node, ck: Checker): Checked => {
  const before = ck.lenient
  ck.lenient = true
  const checked = ck.check(node)
  ck.lenient = before
  return checked
}

const withMemory: Record<string, Build> = Object.fromEntries(
  (Object.keys(memoryKinds) as MemoryName[]).map((name) => [name, remembered(name)]),
)

/** Every function an expression can call. Names not listed here do not exist. */
export const functions: Readonly<Record<string, Build | undefined>> = Object.assign(
  Object.create(null),
  {
    min: ofNumbers('min(a, b, …)', 1, 16, (c) => `Math.min(${c.join(',')})`),
    max: ofNumbers('max(a, b, …)', 1, 16, (c) => `Math.max(${c.join(',')})`),
    abs: ofNumbers('abs(a)', 1, 1, ([a]) => `Math.abs(${a})`),
    floor: ofNumbers('floor(a)', 1, 1, ([a]) => `Math.floor(${a})`),
    ceil: ofNumbers('ceil(a)', 1, 1, ([a]) => `Math.ceil(${a})`),
    clamp: ofNumbers(
      'clamp(value, least, most)',
      3,
      3,
      ([v, lo, hi]) => `Math.min(${hi},Math.max(${lo},${v}))`,
    ),
    round: ofNumbers('round(value) or round(value, step)', 1, 2, ([v, step]) =>
      step === undefined ? `Math.round(${v})` : `(Math.round(${v}/${step})*${step})`,
    ),
    wrap: ofNumbers('wrap(value, least, most)', 3, 3, ([v, lo, hi]) => `f.wrap(${v},${lo},${hi})`),

    sign: ((args, call, ck) => {
      take(args, call, 1, 1, 'sign(a)')
      return { type: plainNumber, code: `Math.sign(${asNumber(ck.check(arg(args, 0)), arg(args, 0)).code})` }
    }) as Build,

    to: ((args, call, ck) => {
      take(args, call, 2, 2, 'to(value, "unit")')
      return inUnit(ck.check(arg(args, 0)), quotedUnit(arg(args, 1)), arg(args, 0))
    }) as Build,

    unit: ((args, call, ck) => {
      take(args, call, 2, 2, 'unit(number, "unit")')
      const number = asNumber(ck.check(arg(args, 0)), arg(args, 0))
      if (number.type.is === 'number' && number.type.unit) {
        throw wrong(
          arg(args, 0),
          `This has a unit already (${number.type.unit.symbol}). Convert it with to(…).`,
        )
      }
      return { type: { is: 'number', unit: quotedUnit(arg(args, 1)) }, code: number.code }
    }) as Build,

    bare: ((args, call, ck) => {
      take(args, call, 1, 1, 'bare(value)')
      return { type: plainNumber, code: asNumber(ck.check(arg(args, 0)), arg(args, 0)).code }
    }) as Build,

    number: ((args, call, ck) => {
      take(args, call, 1, 1, 'number(yes or no)')
      const value = ck.check(arg(args, 0))
      if (value.type.is !== 'boolean') throw wrong(arg(args, 0), 'number(…) makes 1 or 0 of a yes or no.')
      return { type: plainNumber, code: value.code }
    }) as Build,

    blink: ((args, call, ck) => {
      take(args, call, 1, 2, 'blink(times a second) or blink(times a second, brightness)')
      const hz = inUnit(ck.check(arg(args, 0)), unitNamed('Hz') as never, arg(args, 0))
      const level = args[1] ? asNumber(ck.check(args[1]), args[1]).code : '1'
      return { type: lamp, code: `f.packLamp(${level},${hz.code})` }
    }) as Build,

    lit: ((args, call, ck) => {
      take(args, call, 1, 1, 'lit(brightness from 0 to 1)')
      return asLamp(asNumber(ck.check(arg(args, 0)), arg(args, 0)), arg(args, 0))
    }) as Build,

    known: ((args, call, ck) => {
      take(args, call, 1, 1, 'known(value)')
      const value = lenient(arg(args, 0), ck)
      return { type: boolean, code: `(${present(value.type, value.code)}?1:0)` }
    }) as Build,

    otherwise: ((args, call, ck) => {
      take(args, call, 2, 2, 'otherwise(value that may be absent, value to use then)')
      const asked = lenient(arg(args, 0), ck)
      const { first, again } = keep(asked, ck)
      // Whether it is there is asked of the value itself, before it becomes what the other one is.
      const [value, instead] = alike(again, ck.check(arg(args, 1)), arg(args, 1))
      return { type: value.type, code: `(${present(asked.type, first)}?${value.code}:${instead.code})` }
    }) as Build,

    match: ((args, call, ck) => {
      const form = 'match(value, case, result, …) or with one more result for every other case'
      take(args, call, 3, 64, form)
      const value = ck.check(arg(args, 0))
      const { first, again } = keep(value, ck)
      const results: { test: string | null; value: Checked }[] = []
      for (let i = 1; i < args.length; i += 2) {
        if (i + 1 === args.length) {
          results.push({ test: null, value: ck.check(arg(args, i)) })
          continue
        }
        const tested = ck.check(arg(args, i))
        refuseUnknownChoice(value, tested, arg(args, i))
        const [left, right] = alike(again, tested, arg(args, i))
        results.push({ test: `${left.code}===${right.code}`, value: ck.check(arg(args, i + 1)) })
      }
      let type = (results[0] as { value: Checked }).value
      for (const r of results) [type] = alike(type, r.value, call)
      const none = absent(type.type)
      if (results.at(-1)?.test !== null) results.push({ test: null, value: { type: type.type, code: none } })
      const cases = results.reduceRight((rest, r) => {
        const result = alike(type, r.value, call)[1].code
        return r.test === null ? result : `(${r.test}?${result}:${rest})`
      }, '')
      // Where it may be absent, an absent value is no case, not even the last.
      const code = ck.lenient ? `(${present(value.type, first)}?${cases}:${none})` : `(${first},${cases})`
      return { type: type.type, code }
    }) as Build,
    part: ((args, call, ck) => {
      take(args, call, 1, 2, 'part("name") or part("name", "which of its switches")')
      const name = quoted(arg(args, 0), 'The name of a part stands in quotes.')
      const aspect = args[1] ? quoted(args[1], 'Which switch of the part stands in quotes.') : undefined
      const found = ck.scope.part?.(name, aspect) ?? { problem: 'Parts have no meaning here.' }
      if ('problem' in found) throw wrong(arg(args, 0), found.problem)
      return readSlot(found.slot, found.type, ck)
    }) as Build,

    variable: ((args, call, ck) => {
      take(args, call, 1, 1, 'variable("name")')
      const name = quoted(arg(args, 0), 'The name of a variable stands in quotes.')
      const found = ck.scope.variable(name)
      if (!found) throw wrong(arg(args, 0), `There is no variable “${name}”.${nearest(ck, name)}`)
      return readSlot(found.slot, found.type, ck)
    }) as Build,
    layer: ((args, call, ck) => {
      take(args, call, 1, 1, 'layer("layer set")')
      const set = quoted(arg(args, 0), 'The name of a layer set stands in quotes.')
      const found = ck.scope.layer?.(set) ?? { problem: 'Layers have no meaning here.' }
      if ('problem' in found) throw wrong(arg(args, 0), found.problem)
      return readSlot(found.slot, found.type, ck)
    }) as Build,

    join: ((args, call, ck) => {
      take(args, call, 1, 16, 'join(a, b, …)')
      return { type: text, code: `(${args.map((a) => asWords(lenient(a, ck), a).code).join('+')})` }
    }) as Build,

    fixed: ((args, call, ck) => {
      take(args, call, 2, 3, 'fixed(number, decimals) or fixed(number, decimals, width)')
      const value = asNumber(lenient(arg(args, 0), ck), arg(args, 0)).code
      const width = args[2] ? whole(args[2], 0, 40) : 0
      return { type: text, code: `f.fixed(${value},${whole(arg(args, 1), 0, 9)},${width})` }
    }) as Build,

    zeros: ((args, call, ck) => {
      take(args, call, 2, 2, 'zeros(number, digits)')
      const value = asNumber(lenient(arg(args, 0), ck), arg(args, 0)).code
      return { type: text, code: `f.zeros(${value},${whole(arg(args, 1), 0, 20)})` }
    }) as Build,

    pad: ((args, call, ck) => {
      take(args, call, 2, 2, 'pad(text, width), to the left with a negative width')
      const value = asWords(lenient(arg(args, 0), ck), arg(args, 0)).code
      return { type: text, code: `f.pad(${value},${whole(arg(args, 1), -40, 40)})` }
    }) as Build,

    curve: ((args, call, ck) => {
      take(args, call, 2, 2, 'curve("name", value)')
      const named = asText(ck.check(arg(args, 0)), arg(args, 0))
      const points = typeof named.literal === 'string' ? ck.scope.curve?.(named.literal) : undefined
      if (!points) throw wrong(arg(args, 0), `There is no curve ${named.code} in this rig.`)
      const value = asNumber(ck.check(arg(args, 1)), arg(args, 1))
      ck.uses.curves.push(points)
      return { type: plainNumber, code: `f.alongCurve(c[${ck.uses.curves.length - 1}],${value.code})` }
    }) as Build,
  } satisfies Record<string, Build>,
  withMemory,
)
