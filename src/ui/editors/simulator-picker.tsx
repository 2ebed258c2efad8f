'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useId, useMemo, useRef, useState } from 'react'
import { formatValue } from '@/core/signal/format'
import { watchAll } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { useStore, values } from '../live/store'
import { Matched } from '../primitives/matched'
import { type FoundName, searchSimulator, wordsOf } from './search-variables'

const ROW_PX = 40

/** Searches variables (and events) among their live values; the one chosen takes effect at once. */
export const SimulatorPicker = ({
  forControl,
  current,
  choose,
  leave,
}: {
  forControl: boolean
  current: string | null
  choose: (found: FoundName) => void
  /** What is bound stays bound. */
  leave: () => void
}) => {
  const { catalogue } = useStore((s) => s.catalogue)
  const [search, setSearch] = useState('')
  // The list opens at what is bound, and Enter there changes nothing; what is searched for begins at its best find.
  const [moved, setMoved] = useState<number | null>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const listId = useId()
  useEffect(() => watchAll(), [])

  const all = useMemo<FoundName[]>(() => {
    const variables = catalogue.variables
      .filter((v) => !forControl || v.writable)
      .map((info): FoundName => ({ is: 'variable', info }))
    const events = forControl ? catalogue.events.map((info): FoundName => ({ is: 'event', info })) : []
    return [...variables, ...events]
  }, [catalogue, forControl])
  const found = useMemo(() => searchSimulator(all, search), [all, search])
  const words = wordsOf(search)
  const rows = useVirtualizer({
    count: found.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  })

  const bound = search === '' ? found.findIndex((f) => f.info.name === current) : -1
  const at = moved ?? Math.max(0, bound)
  useEffect(() => {
    if (bound >= 0) rows.scrollToIndex(bound, { align: 'center' })
    // Only as it opens, and when the names are first there.
  }, [bound >= 0])
  const take = (f: FoundName) => (f.info.name === current ? leave() : choose(f))
  const move = (to: number) => {
    const next = Math.min(found.length - 1, Math.max(0, to))
    setMoved(next)
    rows.scrollToIndex(next)
  }
  const keyDown = (e: React.KeyboardEvent) => {
    const to: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + 8,
      PageUp: at - 8,
    }
    if (to[e.key] !== undefined) move(to[e.key] ?? 0)
    else if (e.key === 'Enter' && found[at]) take(found[at])
    else return
    e.preventDefault()
  }

  return (
    <div className="flex w-[600px] flex-col">
      <div className="flex items-center gap-3 border-b border-line p-2">
        <input
          // biome-ignore lint/a11y/noAutofocus: the popover was opened to type here
          autoFocus
          role="combobox"
          aria-expanded="true"
          aria-controls={listId}
          aria-activedescendant={found[at] ? `${listId}-${at}` : undefined}
          aria-label={forControl ? 'Search variables and events' : 'Search variables'}
          placeholder={
            forControl
              ? 'Part of a name or description: wheel, horn …'
              : 'Part of a name or description: bus volts …'
          }
          className="flex-1"
          value={search}
          onChange={(e) => {
            setSearch(e.target.value)
            setMoved(e.target.value === '' ? null : 0)
            scroller.current?.scrollTo({ top: 0 })
          }}
          onKeyDown={keyDown}
        />
        <span className="cap whitespace-nowrap">
          {found.length} of {all.length}
        </span>
      </div>
      <div ref={scroller} className="h-[clamp(120px,calc(100vh-440px),300px)] overflow-y-auto" tabIndex={-1}>
        {all.length === 0 && (
          <p className="p-3 text-ink2">
            No simulator has told its variables yet. Add or start one under Connections, and they appear here.
          </p>
        )}
        {all.length > 0 && found.length === 0 && (
          <p className="p-3 text-ink2">Nothing has “{search}” in its name or description.</p>
        )}
        <div
          id={listId}
          role="listbox"
          aria-label="Found"
          style={{ height: rows.getTotalSize(), position: 'relative' }}
        >
          {rows.getVirtualItems().map((item) => {
            const f = found[item.index]
            if (!f) return null
            return (
              <FoundRow
                key={`${f.is} ${f.info.name}`}
                id={`${listId}-${item.index}`}
                found={f}
                words={words}
                top={item.start}
                active={item.index === at}
                current={f.info.name === current}
                choose={() => take(f)}
              />
            )
          })}
        </div>
      </div>
      <div className="flex gap-4 border-t border-line px-3 py-1.5 text-[11px] text-ink2">
        <span>
          <span className="key">↑</span> <span className="key">↓</span> move
        </span>
        <span>
          <span className="key">Enter</span> choose
        </span>
        <span>
          <span className="key">Esc</span> leave as it is
        </span>
      </div>
    </div>
  )
}

const FoundRow = (p: {
  id: string
  found: FoundName
  words: readonly string[]
  top: number
  active: boolean
  current: boolean
  choose: () => void
}) => {
  const { info } = p.found
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are taken by the search field, which keeps the focus
    <div
      id={p.id}
      role="option"
      aria-selected={p.active}
      tabIndex={-1}
      data-name={info.name}
      className={`absolute grid w-full cursor-pointer grid-cols-[1fr_auto] items-center gap-x-3 border-b border-hair px-3 hover:bg-accent-bg ${p.active ? 'bg-accent-bg' : ''}`}
      style={{ top: p.top, height: ROW_PX }}
      onClick={p.choose}
    >
      <div className="min-w-0">
        <div className="mono truncate text-[12.5px] leading-[17px]">
          <Matched text={info.name} words={p.words} />
          {p.current && <span className="cap ml-2">now</span>}
        </div>
        <div className="truncate text-[11px] leading-[15px] text-ink2">
          <Matched
            text={[info.called, info.description || 'not described'].filter(Boolean).join(': ')}
            words={p.words}
          />
          <span className="text-ink3"> · {info.group}</span>
        </div>
      </div>
      <div className="mono text-right text-[12.5px]">
        {p.found.is === 'event' ? <span className="cap">event</span> : <LiveValue name={info.name} />}
      </div>
    </div>
  )
}

/** A variable's value as it is now, with its unit. */
export const LiveValue = ({ name }: { name: string }) => {
  const value = useKeyed(values, name)
  const index = useStore((s) => s.catalogue)
  const info = index.catalogue.variables[index.variable.get(name) ?? -1]
  return <>{info ? formatValue(value ?? null, info) : '–'}</>
}
