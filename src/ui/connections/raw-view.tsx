'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, useState } from 'react'
import { connectionKind } from '@/core/connections/connections'
import type { ConnectionStatus } from '@/core/live/feed'
import { clockWords, rawLine, typedHex, typedText } from '@/core/live/raw-text'
import type { ConnectionRow } from '@/core/rig/rows'
import { sayToHub } from '../live/connection'
import { notify, useStore } from '../live/store'
import { fileName, saveFile } from '../primitives/save-file'
import { beginRaw, type NumberedItem, useRaw } from './raw-store'

const LINE_PX = 20

type Way = 'both' | 'in' | 'out'

/** Every frame and line of one connection, both ways, while it is open. */
export const RawView = ({
  row,
  status,
  close,
}: {
  row: ConnectionRow
  status: ConnectionStatus | undefined
  close: () => void
}) => {
  const hub = useStore((s) => s.hub)
  const items = useRaw((s) => s.items)
  const left = useRaw((s) => s.left)
  const [paused, setPaused] = useState<readonly NumberedItem[] | null>(null)
  const [filter, setFilter] = useState('')
  const [way, setWay] = useState<Way>('both')
  const [bytes, setBytes] = useState(false)
  useEffect(() => {
    beginRaw(row.id)
    if (hub === 'up') sayToHub({ say: 'raw', connection: row.id })
    return () => {
      sayToHub({ say: 'raw', connection: null })
      beginRaw(null)
    }
  }, [row.id, hub])
  const wanted = filter.toLowerCase()
  const shown = (paused ?? items).filter(
    (i) =>
      (way === 'both' || i.d === way) &&
      (wanted === '' || i.words.toLowerCase().includes(wanted) || i.raw.toLowerCase().includes(wanted)),
  )
  const text = () => `${shown.map(rawLine).join('\n')}\n`
  const copy = () =>
    navigator.clipboard.writeText(text()).then(
      () => notify(`${shown.length} lines are on the clipboard.`, 'plain'),
      () => notify('The browser does not give the clipboard away; save them instead.'),
    )
  const save = () => saveFile(`${fileName(row.name)}.raw.txt`, text())
  return (
    <section aria-label="Raw view" className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-1.5 pb-1.5">
        <input
          className="w-[150px]"
          aria-label="Filter"
          placeholder="Filter"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
        <select
          aria-label="Direction"
          className="h-[24px] py-0"
          value={way}
          onChange={(e) => setWay(e.target.value as Way)}
        >
          <option value="both">both ways</option>
          <option value="in">what comes</option>
          <option value="out">what goes</option>
        </select>
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={bytes} onChange={(e) => setBytes(e.target.checked)} />
          as it was sent
        </label>
        <button
          type="button"
          className="btn"
          aria-pressed={paused !== null}
          onClick={() => setPaused(paused === null ? items : null)}
        >
          {paused === null ? 'Pause' : 'Go on'}
        </button>
        <button type="button" className="btn" onClick={() => void copy()}>
          Copy
        </button>
        <button type="button" className="btn" onClick={save}>
          Save
        </button>
        <button type="button" className="btn" onClick={() => beginRaw(row.id)}>
          Clear
        </button>
        <span className="mono ml-auto text-ink2">
          {shown.length} of {items.length}
          {left > 0 && ` · ${left} more came too quickly to be shown`}
        </span>
        <button type="button" className="btn" onClick={close}>
          Close
        </button>
      </div>
      <Lines shown={shown} bytes={bytes} follows={paused === null} />
      <Sending row={row} status={status} />
    </section>
  )
}

const Lines = ({
  shown,
  bytes,
  follows,
}: {
  shown: readonly NumberedItem[]
  bytes: boolean
  follows: boolean
}) => {
  const scroller = useRef<HTMLDivElement>(null)
  const height = bytes ? LINE_PX * 2 : LINE_PX
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    getItemKey: (i) => shown[i]?.n ?? i,
    overscan: 12,
  })
  const last = shown.at(-1)?.n
  useEffect(() => rows.measure(), [rows, height])
  useEffect(() => {
    if (follows && last !== undefined) rows.scrollToIndex(shown.length - 1)
  }, [follows, last, rows, shown.length])
  return (
    <div
      ref={scroller}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
      tabIndex={0}
      role="log"
      aria-label="What goes over the line"
      aria-live="off"
      className="mono min-h-[60px] flex-1 overflow-auto border border-line bg-sheet text-[11.5px]"
    >
      {shown.length === 0 && (
        <p className="p-2 text-ink2">Nothing yet. What goes over the line from now on appears here.</p>
      )}
      <div className="relative w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((v) => {
          const item = shown[v.index]
          return (
            item && (
              <div
                key={v.key}
                data-raw={item.d}
                className={`absolute top-0 left-0 w-full whitespace-pre px-2 ${item.sound ? '' : 'text-fault'}`}
                style={{ height, lineHeight: `${LINE_PX}px`, transform: `translateY(${v.start}px)` }}
                title={item.words}
              >
                <span className="text-ink2">{clockWords(item.t)}</span>
                <b className={item.d === 'in' ? 'text-live' : 'text-accent'}>
                  {item.d === 'in' ? '  ← comes  ' : '  → goes   '}
                </b>
                {!item.sound && '! '}
                {item.words}
                {bytes && <span className="block truncate pl-[104px] text-ink2">{item.raw}</span>}
              </div>
            )
          )
        })}
      </div>
    </div>
  )
}

/** What is sent by hand: a line or bytes, an echo, and the control lines of a serial port. */
const Sending = ({ row, status }: { row: ConnectionRow; status: ConnectionStatus | undefined }) => {
  const asLines = connectionKind(row.settings.kind).carries === 'source'
  const [text, setText] = useState('')
  const [how, setHow] = useState<'line' | 'text' | 'bytes'>(asLines ? 'line' : 'bytes')
  const [lines, setLines] = useState({ dtr: true, rts: true })
  const echo = useRaw((s) => s.echo)
  const read = how === 'bytes' ? typedHex(text) : typedText(how === 'line' ? `${text}\\n` : text)
  const problem = text !== '' && 'problem' in read ? read.problem : null
  const send = () => {
    if (text === '' || 'problem' in read) return
    if (sayToHub({ say: 'raw send', connection: row.id, hex: read.hex })) setText('')
    else notify('The hub is away, so nothing was sent.')
  }
  const turn = (change: Partial<typeof lines>) => {
    const next = { ...lines, ...change }
    setLines(next)
    sayToHub({ say: 'lines', connection: row.id, ...next })
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5 pt-1.5">
      <select
        aria-label="Send as"
        className="h-[24px] py-0"
        value={how}
        onChange={(e) => setHow(e.target.value as typeof how)}
      >
        <option value="line">a line</option>
        <option value="text">text</option>
        <option value="bytes">bytes</option>
      </select>
      <input
        className="mono min-w-[160px] flex-1 text-[12px]"
        aria-label="What to send"
        aria-invalid={problem !== null}
        spellCheck={false}
        placeholder={how === 'bytes' ? '02 01 00 …' : '{"say":"hello","version":1}'}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && send()}
      />
      <button type="button" className="btn" disabled={text === '' || problem !== null} onClick={send}>
        Send
      </button>
      <button
        type="button"
        className="btn"
        disabled={status?.state !== 'up'}
        title="Asks the other end something that changes nothing, and measures how long the answer takes"
        onClick={() => {
          useRaw.setState({ echo: null })
          sayToHub({ say: 'echo', connection: row.id })
        }}
      >
        Echo
      </button>
      {echo && (
        <span role="status" className={`mono ${echo.ms === null ? 'text-fault' : ''}`}>
          {echo.ms === null ? 'no answer in 2 s' : `answered in ${echo.ms.toFixed(1)} ms`}
        </span>
      )}
      {row.settings.kind === 'board serial' &&
        (['dtr', 'rts'] as const).map((name) => (
          <label key={name} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={lines[name]}
              onChange={(e) => turn({ [name]: e.target.checked })}
            />
            {name.toUpperCase()}
          </label>
        ))}
      {problem !== null && (
        <span role="alert" className="basis-full text-[11px] text-warn">
          {problem}
        </span>
      )}
    </div>
  )
}
