import { compile } from '../src/core/signal/expression/compile'
import { plainNumber } from '../src/core/signal/expression/value-type'
import { inTurn, print } from './measure'

const TIMES = 2_000_000

/** A compiled expression against the same as a closure written by hand over the same arrays. */
export const benchExpression = (): void => {
  const numbers = Float64Array.from({ length: 8 }, (_, i) => i + 0.5)
  const values = { numbers, texts: [] }
  const scope = {
    input: plainNumber,
    variable: (name: string) => ({ slot: Number(name.slice(1)), type: plainNumber }),
  }
  const source = 'clamp((input + a1) * 0.3048 - a2 / 3, 0, 100) > a3 && a4 != 2 ? a5 * 2 : min(a6, input)'
  const { evaluate } = compile(source, scope, values, { as: 'any' })
  const byHand = (input: number): number =>
    Math.min(100, Math.max(0, (input + (numbers[1] as number)) * 0.3048 - (numbers[2] as number) / 3)) >
      (numbers[3] as number) && numbers[4] !== 2
      ? (numbers[5] as number) * 2
      : Math.min(numbers[6] as number, input)
  if (evaluate(12) !== byHand(12)) throw new Error('the two do not compute the same')
  let sum = 0
  const ours = () => {
    for (let i = 0; i < TIMES; i++) sum += evaluate(i & 63) as number
  }
  const reference = () => {
    for (let i = 0; i < TIMES; i++) sum += byHand(i & 63)
  }
  const times = inTurn(ours, reference, 15)
  if (!Number.isFinite(sum)) throw new Error('nothing was computed')
  print({
    name: 'compiled expression, against a closure written by hand',
    value: (times.ours / TIMES) * 1e6,
    unit: 'ns',
    ratio: times.ratio,
    limit: 2,
  })
}
