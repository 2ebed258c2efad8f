import { combined, type Matrix, placedAt, unmoved } from '../../geometry/matrix'
import { type Along, lengthOf, type Measures, NotRead, unitsOf } from './lengths'

/** What is called in a transform, with what stands in brackets; read from left to right, once. */
function* callsIn(text: string): Generator<readonly [string, string]> {
  const call = /[\s,]*([A-Za-z0-9]+)\s*\(([^()]*)\)/y
  while (call.lastIndex < text.length) {
    const rest = call.lastIndex
    const m = call.exec(text)
    if (m === null) {
      if (text.slice(rest).trim() === '') return
      throw new NotRead('transform')
    }
    yield [m[1] ?? '', m[2] ?? '']
  }
}

/** Degrees of a full turn's parts. */
const perDegree: Readonly<Record<string, number>> = {
  '': 1,
  deg: 1,
  grad: 0.9,
  rad: 180 / Math.PI,
  turn: 360,
}

/** A transform, as an attribute or a property (SVG 1.1, 7.6; CSS Transforms, 13), as one matrix. */
export const transformOf = (text: string | undefined, measures: Measures): Matrix => {
  let m = unmoved
  if (text === undefined || text.trim() === 'none') return m
  for (const [name, inside] of callsIn(text)) {
    const words = inside.trim() === '' ? [] : inside.trim().split(/\s*,\s*|\s+/)
    const way = (i: number, along: Along) => unitsOf(words[i], along, measures)
    const number = (i: number, otherwise = 0): number => {
      const word = words[i]
      if (word === undefined) return otherwise
      const length = lengthOf(word)
      if (length === null || length.unit !== '') throw new NotRead('transform')
      return length.value
    }
    const turn = (i: number): number => {
      const length = lengthOf(words[i] ?? '0')
      const degrees = length && perDegree[length.unit]
      if (!length || degrees === undefined || degrees === null) throw new NotRead('transform')
      return length.value * degrees
    }
    const tan = (i: number) => Math.tan((turn(i) * Math.PI) / 180)
    m = combined(m, step(name.toLowerCase(), { words, way, number, turn, tan }))
  }
  return m
}

interface Arguments {
  readonly words: readonly string[]
  readonly way: (i: number, along: Along) => number
  readonly number: (i: number, otherwise?: number) => number
  readonly turn: (i: number) => number
  readonly tan: (i: number) => number
}

const step = (name: string, { words, way, number, turn, tan }: Arguments): Matrix => {
  if (words.length === 0) throw new NotRead('transform')
  switch (name) {
    case 'translate':
      return placedAt(way(0, 'x'), way(1, 'y'))
    case 'translatex':
      return placedAt(way(0, 'x'), 0)
    case 'translatey':
      return placedAt(0, way(0, 'y'))
    case 'scale':
      return { ...unmoved, a: number(0), d: number(1, number(0)) }
    case 'scalex':
      return { ...unmoved, a: number(0) }
    case 'scaley':
      return { ...unmoved, d: number(0) }
    case 'rotate': {
      const [x, y] = [way(1, 'x'), way(2, 'y')]
      return combined(placedAt(x, y, turn(0)), placedAt(-x, -y))
    }
    case 'skewx':
      return { ...unmoved, c: tan(0) }
    case 'skewy':
      return { ...unmoved, b: tan(0) }
    case 'skew':
      return { ...unmoved, c: tan(0), b: words.length > 1 ? tan(1) : 0 }
    case 'matrix':
      if (words.length !== 6) throw new NotRead('transform')
      return { a: number(0), b: number(1), c: number(2), d: number(3), e: number(4), f: number(5) }
    default:
      throw new NotRead('transform')
  }
}
