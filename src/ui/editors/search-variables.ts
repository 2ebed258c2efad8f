import type { EventInfo, VariableInfo } from '@/core/rig/simulator-catalogue'
import { wordsOf } from '@/core/scope/words-of'

export type FoundName =
  | { readonly is: 'variable'; readonly info: VariableInfo }
  | { readonly is: 'event'; readonly info: EventInfo }

export { wordsOf }

const textOf = (f: FoundName): string => {
  const unit = f.is === 'variable' ? (f.info.unit ?? '') : 'event'
  return `${f.info.name} ${f.info.called ?? ''} ${f.info.description} ${f.info.group} ${unit}`.toLowerCase()
}

/** How well a name fits: starting with the first word is best, containing it next, description last. */
const rank = (f: FoundName, words: readonly string[]): number => {
  const first = words[0] ?? ''
  const name = f.info.name.toLowerCase()
  if (name.startsWith(first)) return 0
  return words.every((w) => name.includes(w)) ? 1 : name.includes(first) ? 2 : 3
}

/** Everything that fits a search, best first, otherwise in the simulator's own order. */
export const searchSimulator = (all: readonly FoundName[], search: string): FoundName[] => {
  const words = wordsOf(search)
  if (words.length === 0) return [...all]
  return all
    .map((f, i) => ({ f, i }))
    .filter(({ f }) => {
      const text = textOf(f)
      return words.every((w) => text.includes(w))
    })
    .map(({ f, i }) => ({ f, i, r: rank(f, words) }))
    .sort((a, b) => a.r - b.r || a.i - b.i)
    .map(({ f }) => f)
}
