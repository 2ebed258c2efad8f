'use client'
import { useMemo, useState } from 'react'
import { idWords, keyOf } from '@/core/bus/bus-frame'
import { signalsOf } from '@/core/bus/message-reader'
import { signalWords } from '@/core/bus/signal-words'
import type { BusRow } from '@/core/live/feed'
import type { WithBus } from './bus-edit'
import { useBus } from './bus-store'

const bytesOf = (hex: string): Uint8Array =>
  Uint8Array.from({ length: hex.length / 2 }, (_, i) => Number.parseInt(hex.slice(i * 2, i * 2 + 2), 16))

const order = (r: BusRow): number => keyOf(r.id, r.extended) * 2 + (r.d === 'out' ? 1 : 0)

/** Everything that is on the bus, with what the database says of it. */
export const OnTheBus = ({ row }: { row: WithBus }) => {
  const rows = useBus((s) => s.rows)
  const [filter, setFilter] = useState('')
  const [open, setOpen] = useState<ReadonlySet<number>>(new Set())
  const { messages } = row.settings.database
  const known = useMemo(
    () => new Map(messages.map((m) => [keyOf(m.id, m.extended), { ...m, reads: signalsOf(m) }])),
    [messages],
  )
  const wanted = filter.toLowerCase()
  const shown = [...rows]
    .sort((a, b) => order(a) - order(b))
    .map((r) => ({ r, m: known.get(keyOf(r.id, r.extended)) }))
    .filter(
      ({ r, m }) =>
        wanted === '' ||
        idWords(r.id, r.extended).toLowerCase().includes(wanted) ||
        m?.name.toLowerCase().includes(wanted) ||
        m?.signals.some((s) => s.name.toLowerCase().includes(wanted)),
    )
  const silent = messages.filter(
    (m) => !rows.some((r) => keyOf(r.id, r.extended) === keyOf(m.id, m.extended)),
  )
  const turn = (key: number) => {
    const next = new Set(open)
    if (!next.delete(key)) next.add(key)
    setOpen(next)
  }
  return (
    <section aria-label="On the bus" className="flex min-h-0 flex-col">
      <div className="flex items-center gap-2 pb-1">
        <h3 className="font-bold">On the bus</h3>
        <input
          className="w-[150px]"
          aria-label="Filter of messages"
          placeholder="Filter"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
        <span className="mono ml-auto text-ink2">
          {shown.length} of {rows.length}
        </span>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto border border-line">
        {rows.length === 0 && (
          <p className="p-2 text-ink2">
            Nothing has come yet. Look at the bus speed: a wrong one hears nothing.
          </p>
        )}
        {shown.map(({ r, m }) => {
          const key = order(r)
          const data = bytesOf(r.hex)
          const isOpen = open.has(key) || (wanted !== '' && m !== undefined)
          return (
            <div
              key={key}
              data-message={m?.name ?? idWords(r.id, r.extended)}
              className="border-b border-hair"
            >
              <button
                type="button"
                aria-expanded={isOpen}
                className="grid w-full grid-cols-[24px_76px_minmax(0,1fr)_auto_70px_56px] items-baseline gap-2 px-2 py-0.5 text-left hover:bg-raised"
                onClick={() => turn(key)}
              >
                <b
                  className={r.d === 'in' ? 'text-live' : 'text-accent'}
                  title={r.d === 'in' ? 'comes' : 'goes'}
                >
                  {r.d === 'in' ? '←' : '→'}
                </b>
                <span className="mono">{idWords(r.id, r.extended)}</span>
                <b className="truncate">
                  {m?.name ?? <span className="font-normal text-ink2">not in the database</span>}
                </b>
                <span className="mono">{r.hex.replace(/../g, '$& ').trim()}</span>
                <span
                  className={`mono text-right ${r.ago > Math.max(1500, 8 * r.everyMs) ? 'text-warn' : 'text-ink2'}`}
                >
                  {r.ago > Math.max(1500, 8 * r.everyMs)
                    ? `${(r.ago / 1000).toFixed(0)} s ago`
                    : `${Math.round(r.everyMs)} ms`}
                </span>
                <span className="mono text-right text-ink2">{r.count}</span>
              </button>
              {isOpen && m && (
                <dl className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-4 px-2 pb-1 pl-[36px]">
                  {m.reads.map(({ signal, read }) => {
                    const value = read(data)
                    return (
                      <div
                        key={signal.name}
                        className="flex items-baseline gap-2 border-t border-hair"
                        title={signal.description}
                      >
                        <dt className="min-w-0 flex-1 truncate text-ink2">{signal.name}</dt>
                        <dd className="mono" data-signal={signal.name}>
                          {value === undefined ? '' : signalWords(signal, value)}
                        </dd>
                      </div>
                    )
                  })}
                </dl>
              )}
            </div>
          )
        })}
      </div>
      {silent.length > 0 && (
        <p className="truncate pt-1 text-ink2" title={silent.map((m) => m.name).join(', ')}>
          Known and not seen: {silent.map((m) => m.name).join(', ')}
        </p>
      )}
    </section>
  )
}
