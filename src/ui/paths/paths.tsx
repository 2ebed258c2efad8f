'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import type { Station } from '@/core/engine/mistakes'
import type { TraceRow } from '@/core/engine/trace-row'
import { boundWords } from '@/core/rig/bound-words'
import { craftSetsOf } from '@/core/rig/craft-sets'
import type { PanelRow } from '@/core/rig/rows'
import { wordsOf } from '../editors/search-variables'
import { select } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { paths, useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { Matched } from '../primitives/matched'
import { ManyEdit } from './many-edit'
import { type PathEntry, pathEntries, searchPaths } from './path-entries'

const ROW_PX = 30
const GRID =
  'grid grid-cols-[24px_20px_150px_84px_minmax(90px,1.15fr)_minmax(110px,1fr)_minmax(190px,1.65fr)_92px] 2xl:grid-cols-[24px_20px_220px_150px_minmax(90px,1fr)_minmax(110px,1fr)_minmax(190px,1.4fr)_120px] items-center gap-x-2 px-3'

/** All paths of the rig as one dense table, with live values and where each stops; several can be changed at once. */
export const Paths = () => {
  const rig = useStore((s) => s.rig)
  const [search, setSearch] = useState('')
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const scroller = useRef<HTMLDivElement>(null)
  const all = useMemo(() => pathEntries(rig), [rig])
  const words = wordsOf(search)
  const sets = craftSetsOf(rig)
  const [only, setOnly] = useState('all')
  const found = useMemo(
    () =>
      searchPaths(all, wordsOf(search)).filter(
        (e) => only === 'all' || (e.binding !== null && (e.binding.settings.craftSet ?? '') === only),
      ),
    [all, search, only],
  )
  const marked = found.filter((e) => e.binding !== null && chosen.has(e.key))
  const lines = useMemo(() => withHeadings(found), [found])
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
  })

  const flip = (key: string) => {
    const next = new Set(chosen)
    if (!next.delete(key)) next.add(key)
    setChosen(next)
  }
  const bindable = found.filter((e) => e.binding !== null)
  const allMarked = bindable.length > 0 && marked.length === bindable.length
  return (
    <section aria-label="Paths" className="flex h-full flex-col">
      <div className="flex items-center gap-3 border-b border-line px-3 py-2">
        <h2>Paths</h2>
        <input
          className="w-[300px]"
          aria-label="Search paths"
          placeholder="Part, pin, variable, shaping …"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <span className="cap whitespace-nowrap">
          {found.length} of {all.length}
        </span>
        <span className="ml-auto text-[12px] text-ink2">
          {marked.length === 0 && 'Mark some to change them together'}
        </span>
        {sets.length > 0 && (
          <select
            aria-label="Craft set"
            className="h-[24px] py-0"
            value={only}
            onChange={(e) => setOnly(e.target.value)}
          >
            <option value="all">whatever the craft</option>
            <option value="">for every craft</option>
            {sets.map((s) => (
              <option key={s.id} value={s.id}>
                only {s.name}
              </option>
            ))}
          </select>
        )}
        <button type="button" className="btn" onClick={() => useStore.setState({ craftSetsOpen: true })}>
          Craft sets
        </button>
        <button type="button" className="btn" onClick={() => useStore.setState({ layersOpen: true })}>
          Layers <span className="key">L</span>
        </button>
      </div>
      {marked.length > 0 && <ManyEdit marked={marked.flatMap((e) => e.binding ?? [])} />}
      <div className={`${GRID} cap h-7 border-b border-line`}>
        <input
          type="checkbox"
          aria-label="Mark all that are shown"
          checked={allMarked}
          onChange={() => setChosen(allMarked ? new Set() : new Set(bindable.map((e) => e.key)))}
        />
        <span className="sr-only">State</span>
        <span className="col-start-3">Part</span>
        <span>Pin</span>
        <span>Shaping</span>
        <span>Only while</span>
        <span>Simulator</span>
        <span className="text-right">Value</span>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div ref={scroller} tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
        {found.length === 0 && (
          <p className="p-3 text-ink2">
            {all.length === 0 ? 'This rig has no parts yet.' : `No path has “${search}” in it.`}
          </p>
        )}
        {/* Without rows no style either: what the server writes has none that is written into it. */}
        <div
          className="relative"
          style={rows.getTotalSize() > 0 ? { height: rows.getTotalSize() } : undefined}
        >
          {rows.getVirtualItems().map((item) => {
            const entry = lines[item.index]
            if (entry && 'heading' in entry)
              return <Heading key={item.key} panel={entry.heading} top={item.start} />
            return (
              entry && (
                <PathLine
                  key={entry.key}
                  entry={entry}
                  top={item.start}
                  words={words}
                  marked={chosen.has(entry.key)}
                  flip={() => flip(entry.key)}
                />
              )
            )
          })}
        </div>
      </div>
    </section>
  )
}

/** The entries with the name of each panel before its own. */
const withHeadings = (entries: readonly PathEntry[]): (PathEntry | { heading: PanelRow })[] =>
  entries.flatMap((e, i) => (e.panel.id === entries[i - 1]?.panel.id ? [e] : [{ heading: e.panel }, e]))

const Heading = ({ panel, top }: { panel: PanelRow; top: number }) => (
  <div
    className="cap absolute flex w-full items-end border-b border-line px-3 pb-1"
    style={{ top, height: ROW_PX }}
  >
    {panel.name}
  </div>
)

const valueAt = (row: TraceRow | undefined, at: Station) => row?.stations.find((s) => s.at === at)

const PathLine = ({
  entry,
  top,
  words,
  marked,
  flip,
}: {
  entry: PathEntry
  top: number
  words: readonly string[]
  marked: boolean
  flip: () => void
}) => {
  const traced = useKeyed(paths, entry.part.id)
  const row = traced?.find((r) =>
    entry.binding ? r.bindingId === entry.binding.id : r.bindingId === null && r.aspectId === entry.aspectId,
  )
  const selected = useStore((s) => s.selected === entry.part.id)
  const stop = row?.stop ?? null
  const set = useStore((s) => s.rig.craftSet[entry.binding?.settings.craftSet ?? '']?.name)
  const bound = useStore((s) => (entry.binding ? boundWords(s.rig, entry.binding.settings) : ''))
  // Of what holds for another craft nothing is traced.
  const asleep = entry.binding !== null && traced !== undefined && row === undefined
  const reads = row
    ? row.direction === 'from simulator'
    : entry.binding !== null && entry.binding.settings.kind !== 'control'
  const cell = 'mono truncate text-[12px]'
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the name in the row is the button for keys
    // biome-ignore lint/a11y/noStaticElementInteractions: a wider target for the mouse
    <div
      data-entry={entry.key}
      data-stop={stop?.reason ?? ''}
      className={`${GRID} absolute w-full cursor-pointer border-b border-hair ${selected ? 'bg-accent-bg' : 'hover:bg-raised'}`}
      style={{ top, height: ROW_PX }}
      onClick={() => select(entry.part.id)}
    >
      <input
        type="checkbox"
        aria-label={`Mark the path of ${entry.part.name}`}
        checked={marked}
        disabled={entry.binding === null}
        onChange={flip}
        onClick={(e) => e.stopPropagation()}
      />
      <span title={stop ? `stops: ${stop.reason}` : (row?.notice ?? 'flows')}>
        <Mark
          shape={
            row === undefined
              ? 'none'
              : stop === null
                ? row.notice
                  ? 'warn'
                  : 'ok'
                : entry.binding?.on === false
                  ? 'off'
                  : stop.code === 'layer'
                    ? 'none'
                    : 'fault'
          }
          words={stop?.reason ?? 'flows'}
        />
      </span>
      <button type="button" className="truncate text-left" onClick={() => select(entry.part.id)}>
        <Matched text={entry.part.name} words={words} />
        {entry.aspect && <span className="text-ink3"> {entry.aspect}</span>}
        {set && <span className="ml-1 border border-ink3 px-1 text-[11px] text-ink2">{set}</span>}
      </button>
      <span className={cell}>{valueAt(row, 'pin')?.what ?? ''}</span>
      {asleep ? (
        <span className="col-span-2 truncate text-[12px] text-ink2">
          {set ? `only while ${set} is flown` : 'a craft set stands in its place now'}
        </span>
      ) : stop ? (
        <span
          className={`col-span-2 truncate text-[12px] ${stop.code === 'layer' ? 'text-ink2' : 'text-fault'}`}
          title={stop.reason}
        >
          {stop.reason}
        </span>
      ) : (
        <>
          <span className={cell} title={valueAt(row, 'shaping')?.what}>
            {valueAt(row, 'shaping')?.value || valueAt(row, 'shaping')?.what}
          </span>
          <span className={`${cell} text-ink2`} title={valueAt(row, 'onlyWhile')?.what}>
            {valueAt(row, 'onlyWhile')?.what}
          </span>
        </>
      )}
      <span className={cell} title={valueAt(row, 'simulator')?.what}>
        <span className="text-ink3">{reads ? '← ' : '→ '}</span>
        <Matched text={valueAt(row, 'simulator')?.what ?? bound} words={words} />
      </span>
      <span className={`${cell} text-right ${stop ? 'text-ink2' : 'text-live'}`}>
        {valueAt(row, 'simulator')?.value}
      </span>
    </div>
  )
}
