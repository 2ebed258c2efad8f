'use client'
import { RotateCw } from 'lucide-react'
import { useMemo } from 'react'
import type { ScopeKind } from '@/core/scope/find'
import { wordsOf } from '@/core/scope/words-of'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { Segments } from '../primitives/segments'
import { RecordingsView } from '../recordings/recordings-view'
import { Chart } from './chart'
import { Hunt } from './hunt'
import { WordsFile } from './own-words'
import { ScopeDetails } from './scope-details'
import { firstQuery, keep, useScope } from './scope-store'
import { ScopeTable } from './scope-table'
import { look, useScopeFeed } from './use-scope-feed'

const kindWords: Readonly<Record<ScopeKind, string>> = {
  all: 'All',
  pinned: 'Pinned',
  bound: 'Bound',
  moved: 'Moved',
  absent: 'Absent',
  undescribed: 'Not described',
  events: 'Events',
  muted: 'Muted',
}

/** What moves by itself is what has moved within this time, while nobody touches anything. */
const BY_ITSELF_MS = 5000

const emptyWords: Readonly<Record<ScopeKind, string>> = {
  all: 'The sources tell nothing yet.',
  pinned: 'Nothing is pinned: Space pins the chosen row.',
  bound: 'No binding speaks of anything yet.',
  moved: 'Nothing has moved since Scope was opened.',
  absent: 'Nothing is absent: this craft has all that its simulator names.',
  undescribed: 'Everything is described.',
  events: 'The sources tell of no events.',
  muted: 'Nothing is muted.',
}

/** Opens the pinned ones in a small window, to lie on another screen. */
const openPinned = (): void => {
  window.open('/scope/pinned', 'clavik-pinned', 'popup,width=420,height=560')
}

/** The ways of Scope: all that there is, the hunt among it, and what is pinned over time, what was recorded. */
const modeWords = { table: 'Table', hunt: 'Hunt', chart: 'Chart', recordings: 'Recordings' }

/** Everything that the sources tell, live: searched, sorted, pinned, muted, written by hand, and hunted among. */
export const Scope = () => {
  const mode = useScope((s) => s.mode)
  const query = useScope((s) => s.query)
  const rows = useScope((s) => s.rows)
  const muted = useScope((s) => s.muted)
  const { variables, events } = useStore((s) => s.catalogue.catalogue)
  const bound = useScopeFeed(query)
  const words = useMemo(() => wordsOf(query.search), [query.search])
  const groups = useMemo(
    () => [...new Set([...variables, ...events].map((i) => i.group))].filter((g) => g !== '').sort(),
    [variables, events],
  )
  const ask = (change: Partial<typeof query>) => useScope.setState({ query: { ...query, ...change } })
  const sources = useStore((s) => s.sources)
  const crafts = [...new Set(sources.map((s) => s.craft).filter((c) => c !== ''))]
  const total = variables.length + events.length
  return (
    <section aria-label="Scope" className="flex h-full flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3 py-2">
        <h2 className="sr-only">Scope</h2>
        <Segments label="Way" words={modeWords} is={mode} choose={(m) => useScope.setState({ mode: m })} />
        {mode === 'table' && (
          <>
            <input
              type="search"
              className="w-[136px]"
              aria-label="Search variables and events"
              placeholder="Name, unit, value …"
              value={query.search}
              onChange={(e) => ask({ search: e.target.value })}
            />
            <Segments label="Which ones" words={kindWords} is={query.only} choose={(only) => ask({ only })} />
            <select
              aria-label="Group"
              className="h-[24px] max-w-[106px] py-0 text-[12px]"
              value={query.group ?? ''}
              onChange={(e) => ask({ group: e.target.value === '' ? null : e.target.value })}
            >
              <option value="">every group</option>
              {groups.map((g) => (
                <option key={g}>{g}</option>
              ))}
            </select>
            <span className="cap whitespace-nowrap" role="status">
              {rows === null ? 'looking' : `${rows.length} of ${total}`}
              {muted.length > 0 && ` · ${muted.length} muted`}
            </span>
            <div className="ml-auto flex gap-1.5">
              <button
                type="button"
                className="btn px-1.5"
                aria-label="Search and sort anew"
                title="Search and sort anew"
                onClick={() => look(query)}
              >
                <RotateCw size={13} />
              </button>
              {muted.length > 0 && query.only === 'muted' ? (
                <button type="button" className="btn" onClick={() => keep({ muted: [] })}>
                  Show all again
                </button>
              ) : (
                <button
                  type="button"
                  className="btn"
                  title="Hides what has changed within five seconds, so that what you touch stands out"
                  onClick={() => sayToHub({ say: 'scope moved', ms: BY_ITSELF_MS })}
                >
                  Mute movers
                </button>
              )}
              {query.only === 'pinned' && (
                <button type="button" className="btn" onClick={openPinned}>
                  In a window
                </button>
              )}
            </div>
          </>
        )}
        {mode === 'hunt' && <span className="cap">{`${total} variables and events`}</span>}
      </div>
      <div className="flex min-h-0 flex-1">
        {mode === 'hunt' ? (
          <Hunt />
        ) : mode === 'chart' ? (
          <Chart />
        ) : mode === 'recordings' ? (
          <RecordingsView />
        ) : (
          <div className="flex min-w-0 flex-1 flex-col">
            {rows?.length === 0 && (
              <p className="flex items-center gap-3 p-3 text-ink2">
                {query.search !== '' || query.group !== null
                  ? `Nothing there has “${query.search}” in it${query.group === null ? '' : ` in ${query.group}`}.`
                  : emptyWords[query.only]}
                {(query.search !== '' || query.only !== 'all' || query.group !== null) && (
                  <button
                    type="button"
                    className="btn"
                    onClick={() => ask({ ...firstQuery, sort: query.sort })}
                  >
                    Show all
                  </button>
                )}
              </p>
            )}
            <ScopeTable bound={bound} words={words} />
          </div>
        )}
        {/* A chart, and recordings, take all the room there is. */}
        {mode !== 'chart' && mode !== 'recordings' && (
          <aside
            aria-label="Chosen row"
            className="w-[256px] shrink-0 xl:w-[290px] overflow-y-auto border-l border-line"
          >
            <ScopeDetails bound={bound} />
            {crafts.map((craft) => (
              <WordsFile key={craft} craft={craft} />
            ))}
          </aside>
        )}
      </div>
    </section>
  )
}
