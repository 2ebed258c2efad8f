import { NextResponse } from 'next/server'
import type { Status } from '@/core/live/feed'
import { webDatabase } from '@/store/web-database'

export const dynamic = 'force-dynamic'

const hubStatus = async (): Promise<Status | null> => {
  try {
    const response = await fetch(process.env.CLAVIK_HUB_STATUS ?? '', {
      headers: { 'x-clavik-secret': process.env.CLAVIK_SECRET ?? '' },
      signal: AbortSignal.timeout(1000),
    })
    return (await response.json()) as Status
  } catch {
    return null
  }
}

/** One that stands still is as good as away: nobody waits for it here. */
const MOST_MS = 2000

const databaseState = async (): Promise<'up' | 'down'> => {
  const late = new Promise<'down'>((resolve) => setTimeout(() => resolve('down'), MOST_MS))
  const asked = webDatabase()
    .query('SELECT 1')
    .then(
      () => 'up' as const,
      () => 'down' as const,
    )
  return await Promise.race([asked, late])
}

/** Whether every process is there, for people and for scripts. */
export const GET = async () => {
  const [database, status] = await Promise.all([databaseState(), hubStatus()])
  const { connections = [] } = status ?? {}
  const sources = connections.filter((c) => c.carries === 'source' && c.state !== 'off')
  const away = { state: 'down' as const, rateHz: 0, who: '', address: '' }
  const { state, rateHz, who: craft, address } = sources[0] ?? away
  const boards = (status?.boards ?? []).map(({ id, name, state, loaded }) => ({ id, name, state, loaded }))
  const hub = status ? ('up' as const) : ('down' as const)
  const ok =
    database === 'up' &&
    hub === 'up' &&
    sources.every((s) => s.state === 'up') &&
    boards.every((b) => b.state === 'up')
  return NextResponse.json(
    { ok, database, hub, simulator: { state, rateHz, craft, address }, boards },
    { status: ok ? 200 : 503 },
  )
}
