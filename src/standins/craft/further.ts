import { randomFrom, type Variable, type World } from './world'

/** Of so many one always moves. */
const MOVES = 3

/** Variables without meaning, as many as are asked for, a third of which change in every frame. Their noise is their own. */
export const further = (w: World, count: number) => {
  w.inGroup('Further')
  const random = randomFrom(20_000)
  const moving: Variable[] = []
  for (let i = 0; i < count; i++) {
    const block = String(Math.floor(i / 100)).padStart(3, '0')
    const described = i % 4 !== 0
    const variable = w.number(
      `further.${block}.${String(i % 100).padStart(2, '0')}`,
      i % 5 === 0 ? 'V' : null,
      described ? `Number ${i % 100} of block ${block}` : '',
      i % 97,
      i % 10 === 0 ? { range: [0, 1000], system: 'further' } : {},
    )
    if (i % MOVES === 1) moving.push(variable)
  }
  return {
    step(): void {
      for (const v of moving) v.n = Math.round((v.n + random() - 0.5) * 1000) / 1000
    },
  }
}
