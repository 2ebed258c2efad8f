import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { infoOf, type ScopeColumn } from '@/core/scope/find'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { GRID, ROW_PX, ScopeRow } from './scope-row'
import { flipMute, flipPin, useScope } from './scope-store'
import { WriteField } from './write-field'

/** Other rows are asked for no more often than they are told. */
const ASK_MS = 100
const TICK_MS = 250
/** As high as the heads of the columns are. */
const HEAD_PX = 28
/** More rows are not asked for at once. */
const MOST_SHOWN = 400

const columns: readonly (readonly [by: ScopeColumn | null, words: string, right?: boolean])[] = [
  [null, ''],
  [null, ''],
  ['name', 'Name'],
  ['value', 'Value', true],
  ['unit', 'Unit'],
  ['since', 'Changed', true],
  ['changes', 'Times', true],
  [null, 'Last 20 s'],
  [null, 'Bound to'],
]

/** The head of a column: sorts by it, the other way at the next click, and then as the sources tell. */
const Head = ({
  by,
  words,
  right,
}: {
  by: ScopeColumn | null
  words: string
  right?: boolean | undefined
}) => {
  const sort = useScope((s) => s.query.sort)
  const on = by !== null && sort.by === by
  // The last two give way where there is little room.
  if (by === null) return <span className={words === '' ? '' : 'hidden xl:block'}>{words}</span>
  const turn = () => {
    // What changed last, and what changes most, is what one looks for.
    const first = by === 'changes'
    const next = !on
      ? { by, down: first }
      : sort.down === first
        ? { by, down: !first }
        : { by: 'told' as const, down: false }
    useScope.setState((s) => ({ query: { ...s.query, sort: next } }))
  }
  return (
    <span className={`whitespace-nowrap ${right ? 'text-right' : ''}`}>
      <button
        type="button"
        className={`cap ${on ? 'text-accent' : ''}`}
        aria-pressed={on}
        title={on ? (sort.down ? 'Sorted, the largest first' : 'Sorted, the smallest first') : 'Sort'}
        onClick={turn}
      >
        {words}
        {on && (sort.down ? ' ↓' : ' ↑')}
      </button>
      {by === 'changes' && (
        <button
          type="button"
          className="cap ml-1.5"
          aria-label="Count anew"
          title="Count anew, from now on"
          onClick={() => sayToHub({ say: 'scope forget' })}
        >
          ↺
        </button>
      )}
    </span>
  )
}

/** The rows that were found, as they lie on the screen; their order stands still until it is asked for anew. */
export const ScopeTable = ({
  bound,
  words,
}: {
  bound: ReadonlyMap<string, readonly string[]>
  words: readonly string[]
}) => {
  const found = useScope((s) => s.rows)
  const chosen = useScope((s) => s.chosen)
  const catalogue = useStore((s) => s.catalogue.catalogue)
  const partRows = useStore((s) => s.rig.part)
  const [writing, setWriting] = useState<string | null>(null)
  const [now, setNow] = useState(0)
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: found?.length ?? 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  })
  const items = rows.getVirtualItems()
  const first = items[0]?.index ?? 0
  const last = items.at(-1)?.index ?? -1
  const shown = useMemo(
    () => found?.slice(first, Math.min(last + 1, first + MOST_SHOWN)) ?? [],
    [found, first, last],
  )
  // Rows that fly past are asked for a few times a second.
  const askedAt = useRef(0)
  useEffect(() => {
    const ask = () => {
      askedAt.current = performance.now()
      useScope.setState({ shown })
    }
    const wait = askedAt.current + ASK_MS - performance.now()
    if (wait <= 0) {
      ask()
      return
    }
    const late = setTimeout(ask, wait)
    return () => clearTimeout(late)
  }, [shown])
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), TICK_MS)
    return () => clearInterval(timer)
  }, [])
  const nameAt = (index: number) => infoOf(catalogue, found?.[index] ?? -1)?.name
  const at = useMemo(
    () => (chosen === null ? -1 : (found?.findIndex((r) => infoOf(catalogue, r)?.name === chosen) ?? -1)),
    [found, chosen, catalogue],
  )
  const go = (index: number) => {
    const to = Math.min(Math.max(0, index), (found?.length ?? 0) - 1)
    const name = nameAt(to)
    if (name === undefined) return
    useScope.setState({ chosen: name })
    rows.scrollToIndex(to)
  }
  const choose = useCallback((name: string, write: boolean) => {
    useScope.setState({ chosen: name })
    setWriting(write ? name : null)
  }, [])
  const keyDown = (e: KeyboardEvent) => {
    // What is typed in a field of a row is the field's.
    if (e.target !== e.currentTarget) return
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW_PX) / ROW_PX) - 1)
    const steps: Readonly<Record<string, number>> = {
      ArrowDown: at + 1,
      ArrowUp: Math.max(0, at - 1),
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: Number.POSITIVE_INFINITY,
    }
    const to = steps[e.key]
    if (to !== undefined) go(to)
    else if (e.key === 'Enter' && chosen !== null) setWriting(chosen)
    else if (e.key === ' ' && chosen !== null) flipPin(chosen)
    else if (e.key === 'Delete' && chosen !== null) {
      go(at + 1 < (found?.length ?? 0) ? at + 1 : at - 1)
      flipMute(chosen)
    } else return
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <div className="relative flex min-h-0 flex-1 flex-col overflow-hidden">
      <div className={`${GRID} cap h-7 shrink-0 border-b border-line`}>
        {columns.map(([by, label, right], i) => (
          <Head key={i} by={by} words={label} right={right} />
        ))}
      </div>
      <div
        ref={scroller}
        tabIndex={0}
        role="listbox"
        aria-label="Variables and events"
        aria-activedescendant={at >= 0 ? `scope-row-${found?.[at]}` : undefined}
        className="min-h-0 flex-1 overflow-y-auto outline-offset-[-2px]"
        onKeyDown={keyDown}
      >
        <div
          className="relative"
          style={rows.getTotalSize() > 0 ? { height: rows.getTotalSize() } : undefined}
        >
          {items.map((item) => {
            const row = found?.[item.index]
            if (row === undefined) return null
            const name = nameAt(item.index) ?? ''
            return (
              <ScopeRow
                key={row}
                row={row}
                top={item.start}
                now={now}
                words={words}
                parts={(bound.get(name) ?? []).map((id) => partRows[id]?.name ?? '').join(', ')}
                choose={choose}
              />
            )
          })}
        </div>
      </div>
      {writing !== null && writing === chosen && (
        <Writing
          name={writing}
          top={(items.find((item) => item.index === at)?.start ?? -1) - (rows.scrollOffset ?? 0)}
          done={() => {
            setWriting(null)
            scroller.current?.focus()
          }}
        />
      )}
    </div>
  )
}

/** The field in which a row is written, over the row: beside the list, since a list's rows hold no fields. */
const Writing = ({ name, top, done }: { name: string; top: number; done: () => void }) => {
  const index = useStore((s) => s.catalogue)
  const info =
    index.catalogue.variables[index.variable.get(name) ?? -1] ??
    index.catalogue.events[index.event.get(name) ?? -1]
  if (!info || top < -ROW_PX) return null
  return (
    <div
      className={`${GRID} pointer-events-none absolute w-full`}
      style={{ top: top + HEAD_PX, height: ROW_PX }}
    >
      <span className="pointer-events-auto relative z-10 col-start-4 col-end-6 flex">
        <WriteField key={name} info={info} autoFocus done={done} />
      </span>
    </div>
  )
}
