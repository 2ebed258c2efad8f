'use client'
import { Crosshair, Moon, Redo2, Undo2 } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { type ReactNode, useEffect, useState } from 'react'
import { openEnds } from '@/core/harness/open-ends'
import type { ConnectionStatus } from '@/core/live/feed'
import { secondsWords } from '@/core/live/seconds-words'
import { panelsOf, rigRow } from '@/core/rig/rig'
import { follow, loadAll, sayToHub } from '../live/connection'
import { stepHistory } from '../live/edits'
import { notify, useStore } from '../live/store'
import { Mark, UpMark } from '../primitives/mark'
import { useRecordings } from '../recordings/recordings-store'
import { flipTheme } from './theme'

/** Lets actions and outputs flow, or holds them all. */
export const arm = (armed: boolean): void => {
  if (!sayToHub({ say: 'arm', armed })) notify('The hub is away, so nothing can be armed or held just now.')
}

export const StatusLine = ({ openPalette }: { openPalette: () => void }) => {
  const router = useRouter()
  const rig = useStore((s) => s.rig)
  const hub = useStore((s) => s.hub)
  const panelId = useStore((s) => s.panelId)
  const panel = rig.panel[panelId ?? ''] ?? panelsOf(rig)[0]
  const ends = openEnds(rig).length
  return (
    <header className="col-start-2 col-end-4 flex items-center gap-4 border-b border-line px-3 whitespace-nowrap">
      <h1 className="min-w-0 truncate font-bold">
        <button
          type="button"
          className="font-bold hover:text-accent"
          title="Rigs: begin, open, save, copy"
          onClick={() => useStore.setState({ rigsOpen: true })}
        >
          {rigRow(rig)?.name ?? 'No rig'}
        </button>
        {panel && (
          <>
            <span className="mx-1.5 font-normal text-ink3">▸</span>
            {panel.name}
          </>
        )}
      </h1>
      {hub === 'up' ? <Connected /> : <HubAway />}
      <Saving />
      <button type="button" className="text-ink2 hover:text-ink" onClick={() => router.push('/bench')}>
        Open ends <i className="mono text-ink not-italic">{ends}</i>
      </button>
      <span className="ml-auto" />
      <FollowSwitch />
      <ArmSwitch />
      <HistoryButtons />
      <button
        type="button"
        className="text-ink2 hover:text-ink"
        aria-label="Day or night"
        title="Day or night (N)"
        onClick={flipTheme}
      >
        <Moon size={15} strokeWidth={1.6} />
      </button>
      <button
        type="button"
        className="key shrink-0"
        onClick={openPalette}
        aria-label="Command palette, Ctrl K"
      >
        Ctrl K
      </button>
    </header>
  )
}

const HubAway = () => {
  const hub = useStore((s) => s.hub)
  const lostAt = useStore((s) => s.lostAt)
  const [, redraw] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => redraw((n) => n + 1), 1000)
    return () => clearInterval(timer)
  }, [])
  return (
    <span role="status" className="flex items-center gap-1.5 text-fault">
      <UpMark up={false} words="down" />
      {hub === 'first try' ? 'Looking for the hub …' : 'The hub is away; values are the last ones seen'}
      {lostAt !== null && (
        <span className="mono" aria-hidden>
          · {secondsWords(performance.now() - lostAt)}
        </span>
      )}
    </span>
  )
}

/** A source of values: its craft and rate while it is there, its name where it is not. */
const SourceState = ({ source, alone }: { source: ConnectionStatus; alone: boolean }) => (
  <span className="flex items-center gap-1.5" title={source.problem ?? undefined}>
    <UpMark up={source.state === 'up'} words={source.state} />
    {source.state === 'up' ? (
      <>
        <span className="max-w-[140px] truncate">{source.who || source.name}</span>{' '}
        <i className="mono text-ink not-italic">{source.rateHz.toFixed(1)} Hz</i>
      </>
    ) : (
      <span className="text-fault">{alone ? 'No simulator' : `${source.name} away`}</span>
    )}
  </span>
)

/** More sources than this are counted, not named. */
const MOST_NAMED = 2

const ManySources = ({ sources }: { sources: readonly ConnectionStatus[] }) => {
  const up = sources.filter((s) => s.state === 'up').length
  const [away] = sources.filter((s) => s.state !== 'up')
  return (
    <span
      className="flex items-center gap-1.5"
      title={sources.map((s) => `${s.name}: ${s.state}`).join('\n')}
    >
      <UpMark up={away === undefined} words={away === undefined ? 'all up' : 'some away'} />
      Sources{' '}
      <i className="mono text-ink not-italic">
        {up} / {sources.length}
      </i>
      {away && <span className="max-w-[140px] truncate text-fault">{away.name} away</span>}
    </span>
  )
}

const Connected = () => {
  const status = useStore((s) => s.status)
  // What is played stands in the place of whatever simulators there are.
  const played = useRecordings((s) => (s.replay ? 'A recording is played' : null))
  if (!status) return null
  const { connections, boards } = status
  const sources = connections.filter((c) => c.carries === 'source' && c.state !== 'off')
  const drawn = boards.filter((b) => b.id !== null)
  const up = drawn.filter((b) => b.state === 'up').length
  const toLoad = drawn.filter((b) => b.state === 'up' && !b.loaded)
  const [first] = toLoad
  return (
    <>
      <button
        type="button"
        className="flex items-center gap-3 text-ink2 hover:text-ink"
        title="Connections: what Clavik speaks with"
        onClick={() => useStore.setState({ connectionsAt: '' })}
      >
        {played !== null ? (
          <span className="flex items-center gap-1.5">
            <UpMark up words="played" />
            {played}
          </span>
        ) : (
          <>
            {sources.length === 0 && <span className="text-fault">No simulator</span>}
            {sources.length > MOST_NAMED && <ManySources sources={sources} />}
            {(sources.length > MOST_NAMED ? [] : sources).map((s) => (
              <SourceState key={s.id} source={s} alone={sources.length === 1} />
            ))}
          </>
        )}
      </button>
      <span className="flex items-center gap-1.5 text-ink2">
        <UpMark up={up === drawn.length} words={up === drawn.length ? 'all up' : 'some down'} />
        Boards{' '}
        <i className="mono text-ink not-italic">
          {up} / {drawn.length}
        </i>
      </span>
      {first && (
        <button
          type="button"
          className="flex items-center gap-1.5 text-warn"
          onClick={loadAll}
          title={`Load ${toLoad.map((b) => b.name).join(' and ')}`}
        >
          <Mark shape="warn" words="to load" />
          {first.loading !== null
            ? `loading ${Math.round(first.loading * 100)} %`
            : `${toLoad.length} to load`}
        </button>
      )}
      {status.database === 'down' && (
        <span role="status" className="flex items-center gap-1.5 text-fault">
          <UpMark up={false} words="down" />
          Database away
        </span>
      )}
      {status.standins === 'down' && (
        <span role="status" className="flex items-center gap-1.5 text-fault">
          <UpMark up={false} words="down" />
          Stand-ins away
        </span>
      )}
    </>
  )
}

const Saving = () => {
  const unsent = useStore((s) => s.pending.filter((p) => p.revision === null).length)
  const waiting = useStore((s) => s.saving === 'waiting')
  if (!waiting || unsent === 0) return null
  return (
    <span role="status" className="flex items-center gap-1.5 text-warn">
      <Mark shape="warn" words="waiting" />
      {unsent === 1 ? '1 edit waits' : `${unsent} edits wait`} to be kept
    </span>
  )
}

const ArmSwitch = () => {
  const armed = useStore((s) => s.status?.armed ?? false)
  const hub = useStore((s) => s.hub)
  const side = (on: boolean, word: string) => (
    <span
      className={`px-3 py-[3px] ${armed === on ? (on ? 'bg-ink font-bold text-sheet' : 'bg-warn font-bold text-sheet') : 'text-ink2'}`}
    >
      {word}
    </span>
  )
  return (
    <button
      type="button"
      role="switch"
      aria-checked={armed}
      aria-label="Armed"
      title="Armed: actions and outputs flow. Held: nothing flows. (A)"
      disabled={hub !== 'up'}
      className="flex h-[26px] shrink-0 overflow-hidden rounded-[2px] border border-ink text-[12px] disabled:cursor-not-allowed disabled:opacity-50"
      onClick={() => arm(!armed)}
    >
      {side(false, 'Held')}
      {side(true, 'Armed')}
    </button>
  )
}

/** Whether this page goes to whatever is operated on the panel. */
const FollowSwitch = () => {
  const on = useStore((s) => s.follows)
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on}
      aria-label="Follow the panel"
      title="Follow the panel: go to whatever is operated on it (F)"
      className={`flex shrink-0 items-center gap-1.5 ${on ? 'text-accent' : 'text-ink2'} hover:text-ink`}
      onClick={() => follow(!on)}
    >
      <Crosshair size={15} strokeWidth={1.6} />
      <span className={on ? 'font-bold' : 'sr-only'}>Follow</span>
    </button>
  )
}

const HistoryButtons = () => {
  const upcoming = useStore((s) => s.upcoming)
  return (
    <span className="flex shrink-0 items-center gap-1">
      <HistoryButton way="undo" word="Undo" keys="Ctrl Z" of={upcoming?.undo}>
        <Undo2 size={15} strokeWidth={1.6} />
      </HistoryButton>
      <HistoryButton way="redo" word="Redo" keys="Ctrl Shift Z" of={upcoming?.redo}>
        <Redo2 size={15} strokeWidth={1.6} />
      </HistoryButton>
    </span>
  )
}

const HistoryButton = ({
  way,
  word,
  keys,
  of,
  children,
}: {
  way: 'undo' | 'redo'
  word: string
  keys: string
  /** What it takes back or does again; null for nothing, undefined before that is known. */
  of: string | null | undefined
  children: ReactNode
}) => {
  const label = of ? `${word}: ${of}` : of === null ? `Nothing to ${way}` : word
  return (
    <button
      type="button"
      className="p-1 text-ink2 hover:text-ink disabled:opacity-40"
      disabled={!of}
      aria-label={label}
      title={of ? `${label} (${keys})` : label}
      onClick={() => void stepHistory(way)}
    >
      {children}
    </button>
  )
}
