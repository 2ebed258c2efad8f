'use client'
import { useEffect, useState } from 'react'
import { infoOf } from '@/core/scope/find'
import { formatValue } from '@/core/signal/format'
import { spreadNonce } from '../frame/nonce'
import { restoreTheme } from '../frame/theme'
import { openFeed } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { useStore } from '../live/store'
import { agoWords } from './ago'
import { firstQuery, scopeLive, useScope } from './scope-store'
import { TraceLine } from './trace-line'
import { useScopeFeed } from './use-scope-feed'

const query = { ...firstQuery, only: 'pinned' as const }

/** The pinned ones alone, large, in a window of their own: to lie on another screen while one works elsewhere. */
export const PinnedWindow = () => {
  const hub = useStore((s) => s.hub)
  const rows = useScope((s) => s.rows)
  const [now, setNow] = useState(0)
  useEffect(() => {
    spreadNonce()
    restoreTheme()
    return openFeed(() => {})
  }, [])
  useScopeFeed(query)
  useEffect(() => {
    document.title = 'Pinned · Clavik'
    const timer = setInterval(() => setNow(performance.now()), 250)
    return () => clearInterval(timer)
  }, [])
  return (
    <main data-hub={hub} aria-label="Pinned" className="h-screen overflow-y-auto p-3">
      {hub !== 'up' && (
        <p role="status" className="mb-2 border border-warn px-2 py-1">
          {hub === 'down' ? 'The hub is away: these values are old.' : 'Looking for the hub …'}
        </p>
      )}
      {rows?.length === 0 && (
        <p className="text-ink2">Nothing is pinned. Pin rows in Scope; they appear here at once.</p>
      )}
      {rows?.map((row) => (
        <PinnedRow key={row} row={row} now={now} />
      ))}
    </main>
  )
}

const PinnedRow = ({ row, now }: { row: number; now: number }) => {
  const live = useKeyed(scopeLive, String(row))
  const hub = useStore((s) => s.hub)
  const info = infoOf(
    useStore((s) => s.catalogue.catalogue),
    row,
  )
  if (!info) return null
  const isEvent = !('writable' in info)
  return (
    <div
      data-name={info.name}
      className="grid grid-cols-[1fr_auto] items-end gap-x-3 border-b border-line py-1.5"
    >
      <span className="mono truncate text-[12px] text-ink2" title={info.description}>
        {info.name}
      </span>
      <span className="mono text-right text-[12px] text-ink2">
        {live?.at == null ? '' : `${agoWords(now - live.at)} ago`}
      </span>
      <span className={`mono truncate text-[24px] leading-8 ${hub === 'up' ? 'text-live' : 'text-ink3'}`}>
        {isEvent ? 'event' : formatValue(live?.value ?? null, info)}
      </span>
      <TraceLine trace={live?.trace ?? []} width={130} height={30} />
    </div>
  )
}
