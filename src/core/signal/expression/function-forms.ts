import { memoryKinds } from '../memory/kinds'

/** How each function is written and what it gives, for whoever looks for one. */
export const functionForms: Readonly<Record<string, { readonly form: string; readonly gives: string }>> = {
  min: { form: 'min(a, b, …)', gives: 'the smallest' },
  max: { form: 'max(a, b, …)', gives: 'the largest' },
  abs: { form: 'abs(a)', gives: 'without its sign' },
  floor: { form: 'floor(a)', gives: 'the whole number below' },
  ceil: { form: 'ceil(a)', gives: 'the whole number above' },
  sign: { form: 'sign(a)', gives: '−1, 0 or 1' },
  clamp: { form: 'clamp(value, least, most)', gives: 'kept within a range' },
  round: { form: 'round(value, step)', gives: 'the nearest step' },
  wrap: { form: 'wrap(value, least, most)', gives: 'brought round into a range' },
  to: { form: 'to(value, "unit")', gives: 'converted' },
  unit: { form: 'unit(number, "unit")', gives: 'given a unit' },
  bare: { form: 'bare(value)', gives: 'without its unit' },
  number: { form: 'number(yes or no)', gives: '1 or 0' },
  blink: { form: 'blink(times a second)', gives: 'a blinking lamp' },
  lit: { form: 'lit(brightness)', gives: 'a lamp so bright' },
  known: { form: 'known(value)', gives: 'whether there is a value' },
  otherwise: { form: 'otherwise(value, instead)', gives: 'something in place of nothing' },
  match: { form: 'match(value, case, result, …)', gives: 'the result of the case that fits' },
  curve: { form: 'curve("name", value)', gives: 'along a curve of this rig' },
  part: { form: 'part("name")', gives: 'where a control stands' },
  variable: { form: 'variable("name")', gives: 'a variable whose name cannot be written plainly' },
  layer: { form: 'layer("layer set")', gives: 'the active layer' },
  join: { form: 'join(a, b, …)', gives: 'one text' },
  fixed: { form: 'fixed(number, decimals, width)', gives: 'a number as text' },
  zeros: { form: 'zeros(number, digits)', gives: 'a number with leading zeros' },
  pad: { form: 'pad(text, width)', gives: 'filled up with blanks' },
  ...Object.fromEntries(
    Object.entries(memoryKinds).map(([name, { form, says }]) => [name, { form, gives: says }]),
  ),
}
