'use client'
import { useEffect, useRef, useState } from 'react'
import { type FieldGuess, guessWords } from '@/core/datagrams/field-hunt'
import { fieldTypes } from '@/core/datagrams/field-type'
import type { DatagramField, DatagramPacket } from '@/core/datagrams/layout'
import { formatNumber } from '@/core/signal/format'
import { notify } from '../live/store'
import type { ByteRange } from './byte-grid'
import { hubTime, listenTo } from './datagram-store'
import { type Found, nothingFound, type ToHunt } from './hunt-work'
import type { WithLayout } from './layout-edit'
import { TruckSeat } from './truck-seat'
import { typeWords } from './type-words'

const short = (x: number): string => formatNumber(Number(x.toPrecision(4)))

/** What to do next. */
const nextWords = ({ marks, heard, anew }: Found): string => {
  if (!heard) return 'Nothing of this packet has come yet; what moves can be found once it does.'
  if (anew) return 'The hub has started anew, and so has this: let it rest, operate it, mark each time.'
  if (marks === 0) return 'Let it rest, then operate it, and mark each time.'
  if (marks === 1) return 'Once more: let it rest, operate it, mark.'
  return `${marks} marks. Take it, or go on until one stands alone.`
}

/** Finds a field by operating what it tells of: each time it is operated, a key is pressed. */
export const FieldHuntPanel = ({
  row,
  at,
  packet,
  add,
  point,
  close,
}: {
  row: WithLayout
  at: number
  packet: DatagramPacket
  add: (field: DatagramField) => void
  point: (range: ByteRange) => void
  close: () => void
}) => {
  const { order } = row.settings.layout
  const { bytes } = packet
  const hunt = useRef<(word: ToHunt) => void>(() => {})
  const [name, setName] = useState('')
  const [found, setFound] = useState<Found>(nothingFound)
  const { marks, guesses } = found
  const marker = useRef<HTMLButtonElement>(null)
  useEffect(() => {
    const worker = new Worker(new URL('./hunt-worker.ts', import.meta.url), { type: 'module' })
    const tell = (word: ToHunt) => worker.postMessage(word)
    worker.onmessage = ({ data }: MessageEvent<Found>) => setFound(data)
    worker.onerror = (e) => notify(`Nothing can be found: ${e.message || 'the hunt has ended by itself'}.`)
    tell({ say: 'begin', bytes, order })
    hunt.current = tell
    const deaf = listenTo(at, (datagram, t) => tell({ say: 'datagram', bytes: datagram, at: t }))
    return () => {
      deaf()
      worker.terminate()
    }
  }, [at, bytes, order])
  useEffect(() => marker.current?.focus(), [])
  const begin = () => {
    hunt.current({ say: 'begin', bytes, order })
    marker.current?.focus()
  }
  // When it was pressed counts, not when a busy page came to it.
  const mark = (e: { readonly timeStamp: number }) => {
    const then = hubTime.at(e.timeStamp)
    if (then !== null) hunt.current({ say: 'mark', at: then })
  }
  const take = (g: FieldGuess) => {
    const own =
      order === g.order || (g.as !== 'text' && fieldTypes[g.as].bytes === 1) ? {} : { order: g.order }
    add({
      name: name.trim() || `byte.${g.at}`,
      at: g.at,
      as: g.as,
      ...own,
      ...(g.bits ? { bits: g.bits } : {}),
    })
    setName('')
    begin()
  }
  return (
    <section aria-label="Find a field by operating it" className="shrink-0 border-2 border-accent p-2">
      <div className="flex flex-wrap items-center gap-2 pb-1.5">
        <span className="basis-full text-[15px] font-bold" role="status">
          {nextWords(found)}
        </span>
        <button ref={marker} type="button" className="btn" data-strong="true" onClick={mark}>
          Now it moves <span className="key">Space</span>
        </button>
        <button type="button" className="btn" onClick={begin}>
          Anew
        </button>
        <button type="button" className="btn ml-auto" onClick={close}>
          Close
        </button>
      </div>
      <label className="flex items-center gap-1.5 pb-1.5">
        <span className="text-ink2">It is to be called</span>
        <input
          className="mono w-[170px] text-[12px]"
          aria-label="Name for what is found"
          placeholder="throttle"
          spellCheck={false}
          value={name}
          onChange={(e) => setName(e.target.value.replace(/[^\p{L}\p{N}_.]/gu, ''))}
        />
      </label>
      {row.settings.kind === 'simulated truck' && <TruckSeat connection={row.id} />}
      {marks > 0 && guesses.length === 0 && (
        <p className="text-ink2">Nothing has moved with the marks so far.</p>
      )}
      <ul aria-label="What may be it">
        {guesses.slice(0, 5).map((g, i) => (
          <li
            key={`${g.at} ${g.as} ${g.bits?.from}`}
            className="grid grid-cols-[46px_96px_92px_minmax(0,1fr)_auto] items-center gap-2 border-t border-hair py-0.5"
          >
            <span className="mono text-right text-ink2">{g.at}</span>
            <span className={i === 0 ? 'font-bold' : ''}>{typeWords(g)}</span>
            <Trace values={g.trace} />
            <span className="truncate text-ink2" title={guessWords(g)}>
              <span className="mono text-ink">
                {short(g.least)} to {short(g.most)}
              </span>{' '}
              · {guessWords(g)}
            </span>
            <button
              type="button"
              className="btn"
              onFocus={() =>
                point({ from: g.at, until: g.at + (g.as === 'text' ? 1 : fieldTypes[g.as].bytes) })
              }
              onClick={() => take(g)}
            >
              Take it
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

const WIDTH = 90
const HEIGHT = 18

const Trace = ({ values }: { values: readonly number[] }) => {
  const least = Math.min(...values)
  const span = Math.max(...values) - least || 1
  const points = values.map(
    (v, i) =>
      `${((i / Math.max(1, values.length - 1)) * WIDTH).toFixed(1)},${(HEIGHT - 1 - ((v - least) / span) * (HEIGHT - 2)).toFixed(1)}`,
  )
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="text-accent">
      <polyline points={points.join(' ')} fill="none" stroke="currentColor" strokeWidth={1} />
    </svg>
  )
}
