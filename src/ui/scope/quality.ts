import type { Status } from '@/core/live/feed'
import type { SourcePlace } from '@/core/rig/sources'
import type { MarkShape } from '../primitives/mark'

/** How far a value can be trusted, as a shape and in words. */
export interface Quality {
  readonly shape: MarkShape
  readonly words: string
}

const live: Quality = { shape: 'ok', words: 'live' }
const played: Quality = { shape: 'ok', words: 'played from a recording' }
const unheard: Quality = { shape: 'off', words: 'away while a recording is played' }
const absent: Quality = { shape: 'none', words: 'absent on this craft, or not told' }

/** The source that tells a row: variables first, then events. */
export const placeOf = (
  places: readonly SourcePlace[],
  row: number,
  variables: number,
): SourcePlace | undefined =>
  places.find(({ variables: v, events: e }) =>
    row < variables ? row >= v[0] && row < v[1] : row - variables >= e[0] && row - variables < e[1],
  )

export const qualityOf = (
  place: SourcePlace | undefined,
  status: Status | null,
  value: number | string | null,
  isEvent: boolean,
  /** The sources that a recording tells in their place; null while none is played. */
  playedSources: readonly string[] | null,
): Quality => {
  if (playedSources) {
    if (!place || !playedSources.includes(place.id) || isEvent) return unheard
    return value === null ? absent : played
  }
  const connection = status?.connections.find((c) => c.id === place?.id)
  const name = place?.name ?? 'its source'
  if (connection?.state !== 'up')
    return { shape: 'off', words: connection?.state === 'off' ? `${name} is off` : `${name} is away` }
  if (isEvent) return { shape: 'ok', words: 'can be sent' }
  if (value === null) return absent
  return connection.rateHz === 0 ? { shape: 'wait', words: `${name} tells nothing just now` } : live
}
