import { useEffect, useMemo, useState } from 'react'
import { unpackSeries } from '@/core/recording/packed-series'
import { Series } from '@/core/scope/series'
import { useRecordings } from '../recordings/recordings-store'
import { type ChartNote, charted } from './chart-store'

/** What a chart is drawn of: what has come since a page has it pinned, or a whole recording. */
export interface ChartTape {
  /** Milliseconds of its clock. */
  readonly now: () => number
  readonly of: (name: string) => Series | undefined
  readonly notes: () => readonly ChartNote[]
  /** Of a recording how long it is; null of what goes on. */
  readonly length: number | null
}

const live: ChartTape = {
  now: () => performance.now(),
  of: (name) => charted.of(name),
  notes: () => charted.notes,
  length: null,
}

/** Where the replay is now, between two words of the hub. */
const playhead = (): number => {
  const { replay, heardAt } = useRecordings.getState()
  if (!replay) return 0
  const on = replay.playing ? (performance.now() - heardAt) * replay.speed : 0
  return Math.min(replay.until - replay.from, replay.at - replay.from + on * 1000) / 1000
}

/** The whole of the recording that is played, as far as it has these names; until it is there, and otherwise, what comes. */
export const useChartTape = (names: readonly string[]): ChartTape => {
  const id = useRecordings((s) => s.replay?.id ?? null)
  const from = useRecordings((s) => s.replay?.from ?? 0)
  const until = useRecordings((s) => s.replay?.until ?? 0)
  const marks = useRecordings((s) => s.replay?.marks)
  const [had, setHad] = useState<{ key: string; series: ReadonlyMap<string, Series> } | null>(null)
  const listed = names.join('\n')
  const key = `${id} ${from} ${until}\n${listed}`
  useEffect(() => {
    if (id === null || listed === '') return
    let over = false
    const query = listed.split('\n').map((n) => `name=${encodeURIComponent(n)}`)
    fetch(`/api/recordings/${id}/series?${query.join('&')}`)
      .then(async (response) => {
        if (!response.ok || over) return
        const series = unpackSeries(await response.arrayBuffer())
        const inMs = series.map(
          (s) =>
            [
              s.name,
              Series.of(
                s.times.map((t) => t / 1000),
                s.values,
              ),
            ] as const,
        )
        if (!over) setHad({ key, series: new Map(inMs) })
      })
      // What comes is drawn meanwhile.
      .catch(() => {})
    return () => {
      over = true
    }
  }, [id, key, listed])
  return useMemo(() => {
    // While other names are fetched, those that are there stay.
    if (id === null || had === null || !had.key.startsWith(`${id} ${from} ${until}\n`)) return live
    const notes = (marks ?? [])
      .filter((m) => m.by !== 'hand')
      .map((m) => ({ at: (m.at - from) / 1000, words: m.words }))
    return {
      now: playhead,
      of: (name) => had.series.get(name),
      notes: () => notes,
      length: (until - from) / 1000,
    }
  }, [id, had, from, until, marks])
}
