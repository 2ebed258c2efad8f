'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef } from 'react'
import {
  type DatagramField,
  type DatagramLayout,
  type DatagramPacket,
  namesOf,
} from '@/core/datagrams/layout'
import type { LayoutFinding } from '@/core/datagrams/layout-findings'
import { readField } from '@/core/datagrams/read-datagram'
import { formatNumber } from '@/core/signal/format'
import { seen, useDatagrams } from './datagram-store'
import type { WithLayout } from './layout-edit'
import { typeWords } from './type-words'

const ROW_PX = 23

/** What a field stands at in these bytes, in words. */
export const fieldWords = (
  bytes: Uint8Array | undefined,
  f: DatagramField,
  layout: DatagramLayout,
): string => {
  if (!bytes) return '—'
  const words = namesOf(f)
    .slice(0, 6)
    .map((_, nth) => {
      const value = readField(bytes, f, layout, nth)
      if (value === undefined) return 'beyond the end'
      if (value === null) return 'no number'
      if (typeof value === 'string') return `“${value}”`
      const choice = f.choices?.[value]
      return choice === undefined
        ? formatNumber(Number(value.toPrecision(6)))
        : `${formatNumber(value)} ${choice}`
    })
  return words.join('  ')
}

/** The fields of a packet in the order of their bytes, with what stands there now. */
export const FieldTable = ({
  row,
  at,
  packet,
  chosen,
  findings,
  choose,
}: {
  row: WithLayout
  at: number
  packet: DatagramPacket
  chosen: DatagramField | null
  findings: readonly LayoutFinding[]
  choose: (field: DatagramField) => void
}) => {
  useDatagrams((s) => s.drawn)
  const scroller = useRef<HTMLDivElement>(null)
  const { fields } = packet
  const wrong = useMemo(() => new Set(findings.map((f) => f.field)), [findings])
  const rows = useVirtualizer({
    count: fields.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
  })
  const place = chosen ? fields.indexOf(chosen) : -1
  useEffect(() => {
    if (place >= 0) rows.scrollToIndex(place)
  }, [place, rows])
  const bytes = seen.get(at)?.bytes
  const step = (by: number) => {
    const next = fields[Math.max(0, Math.min(fields.length - 1, place + by))]
    if (next) choose(next)
  }
  return (
    <div
      ref={scroller}
      role="listbox"
      aria-label={`Fields of ${packet.name}`}
      tabIndex={0}
      className="min-h-[96px] flex-1 overflow-y-auto border border-line"
      onKeyDown={(e) => {
        if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return
        e.preventDefault()
        step(e.key === 'ArrowDown' ? 1 : -1)
      }}
    >
      {fields.length === 0 && (
        <p className="p-2 text-ink2">
          No fields yet. Mark bytes with the mouse or Shift and the arrows, and press Enter; or operate what a
          field tells of, and let it be found.
        </p>
      )}
      <div className="relative w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((v) => {
          const f = fields[v.index]
          if (!f) return null
          return (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the list takes the arrows
            // biome-ignore lint/a11y/useFocusableInteractive: the list has the focus
            <div
              key={v.key}
              role="option"
              aria-selected={f === chosen}
              data-field={f.name}
              className={`absolute top-0 left-0 grid w-full cursor-pointer grid-cols-[44px_minmax(0,1.1fr)_104px_minmax(0,1fr)_52px] items-center gap-2 border-b border-hair px-2 ${f === chosen ? 'bg-accent-bg' : 'hover:bg-raised'}`}
              style={{ height: ROW_PX, transform: `translateY(${v.start}px)` }}
              onClick={() => choose(f)}
            >
              <span className="mono text-right text-ink2">{f.at}</span>
              <span
                className={`truncate ${wrong.has(v.index) ? 'text-warn' : ''}`}
                title={f.description ?? f.name}
              >
                {wrong.has(v.index) && '! '}
                <b className="font-bold">{f.name}</b>
              </span>
              <span className="truncate text-[11.5px] text-ink2">{typeWords(f)}</span>
              <span className="mono truncate text-right" data-now>
                {fieldWords(bytes, f, row.settings.layout)}
              </span>
              <span className="truncate text-ink2">{f.unit ?? ''}</span>
            </div>
          )
        })}
      </div>
    </div>
  )
}
