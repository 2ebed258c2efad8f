import { boardTerminals } from '@/core/aspects/aspects'
import { kindOf } from '@/core/catalogue/own-kind'
import { type Aspect, isIndicator, type PartKind } from '@/core/catalogue/part-kind'
import { shownWords } from '@/core/engine/words'
import type { AspectLive, PartLive } from '@/core/live/feed'
import type { PartRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'

/** What a wire's end does now: on or off where that is all there is to say, else what is told there in a few words. */
export interface WireLive {
  readonly on: boolean | null
  readonly words: string | null
}

const nothing: WireLive = { on: null, words: null }

/** The aspect of a part that tells something at a terminal, and whether it tells in words. */
const tellerAt = (kind: PartKind, terminal: string): { aspect: Aspect; inWords: boolean } | null => {
  const role = kind.terminals.find((t) => t.id === terminal)?.role
  const isLamp = role === 'lamp-plus' || role === 'lamp-minus'
  for (const aspect of kind.aspects) {
    if (aspect.kind === 'lamp' && isLamp) return { aspect, inWords: false }
    if (aspect.kind === 'positions' && aspect.positions.some((p) => p.closes.includes(terminal)))
      return { aspect, inWords: false }
    // Of an aspect with several wires, the first one tells.
    if (boardTerminals(kind, aspect)[0] === terminal) return { aspect, inWords: true }
  }
  return null
}

/** Whether there may be words at a terminal, so that room is left for them. */
export const hasWords = (kind: PartKind | undefined, terminal: string): boolean =>
  kind !== undefined && (tellerAt(kind, terminal)?.inWords ?? false)

/** What is live at a terminal of a part. */
export const liveAt = (part: PartRow, terminal: string, live: PartLive | undefined): WireLive => {
  const kind = kindOf(part)
  const teller = kind && tellerAt(kind, terminal)
  const now = teller && live?.aspects[teller.aspect.id]
  if (!now) return nothing
  const { aspect, inWords } = teller
  if (inWords) return { on: null, words: wordsOf(part, aspect, now) }
  if (aspect.kind === 'positions') {
    const at = now.told ?? now.metered
    return { on: aspect.positions.some((p) => p.id === at && p.closes.includes(terminal)), words: null }
  }
  const level = now.metered ?? now.told
  return { on: typeof level === 'number' ? (level & 255) > 0 : null, words: null }
}

const wordsOf = (part: PartRow, aspect: Aspect, now: AspectLive): string | null => {
  if (isIndicator(aspect)) {
    const state = now.metered ?? now.told
    return state === null ? null : shownWords(aspect, part.settings, state)
  }
  if (now.told === null) return null
  const stands = typeof now.told === 'number' ? formatNumber(now.told) : now.told
  return aspect.kind === 'encoder' ? `${stands} clicks` : stands
}
