'use client'
import { memo, useRef } from 'react'
import { type DatagramField, type DatagramPacket, endOf } from '@/core/datagrams/layout'
import { seen, useDatagrams } from './datagram-store'

export interface ByteRange {
  readonly from: number
  readonly until: number
}

const COLUMNS = 16
const CELL_PX = 31
const OFFSET_PX = 40
const ROW_PX = 37
/** So long a byte that has changed is marked. */
const FRESH_MS = 350

/** A stretch of a field within one row of bytes. */
interface Stretch {
  readonly name: string
  readonly from: number
  readonly until: number
  /** Whether the field begins here. */
  readonly begins: boolean
  readonly isChosen: boolean
}

/** The stretches in a row; fields of single bits that share their bytes are one. */
const stretchesIn = (row: number, packet: DatagramPacket, chosen: DatagramField | null): Stretch[] => {
  const from = row * COLUMNS
  const until = from + COLUMNS
  const found = new Map<string, Stretch & { count: number }>()
  for (const f of packet.fields) {
    const end = endOf(f)
    if (f.at >= until || end <= from) continue
    const key = f.bits ? `${f.at} ${f.as}` : f.name
    const before = found.get(key)
    const count = (before?.count ?? 0) + 1
    found.set(key, {
      name: count > 1 ? `${count} ×` : f.name,
      from: Math.max(f.at, from) - from,
      until: Math.min(end, until) - from,
      begins: f.at >= from,
      isChosen: before?.isChosen === true || f === chosen,
      count,
    })
  }
  return [...found.values()]
}

/** The bytes of a packet as they came last, sixteen in a row, with its fields under them. */
export const ByteGrid = ({
  packet,
  at,
  range,
  field,
  pick,
  add,
  remove,
}: {
  packet: DatagramPacket
  at: number
  range: ByteRange
  field: DatagramField | null
  pick: (range: ByteRange) => void
  add: () => void
  remove: () => void
}) => {
  useDatagrams((s) => s.drawn)
  const anchor = useRef(0)
  const dragging = useRef(false)
  const last = seen.get(at)
  const rows = Math.ceil(packet.bytes / COLUMNS)
  const hex = (i: number): string => {
    const byte = last?.bytes[i]
    return byte === undefined ? '··' : byte.toString(16).padStart(2, '0')
  }
  const to = (i: number, extend: boolean) => {
    const byte = Math.max(0, Math.min(packet.bytes - 1, i))
    if (!extend) anchor.current = byte
    pick({ from: Math.min(anchor.current, byte), until: Math.max(anchor.current, byte) + 1 })
  }
  const moves: Readonly<Record<string, number>> = {
    ArrowLeft: -1,
    ArrowRight: 1,
    ArrowUp: -COLUMNS,
    ArrowDown: COLUMNS,
  }
  const head = anchor.current === range.from ? range.until - 1 : range.from
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of bytes, not of form fields
    <div
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: arrows move within it, Enter makes a field
      tabIndex={0}
      aria-label={`Bytes of ${packet.name}`}
      className="min-h-0 flex-1 touch-none overflow-y-auto border border-line bg-raised"
      onKeyDown={(e) => {
        const by = moves[e.key]
        if (by !== undefined) to(head + by, e.shiftKey)
        else if (e.key === 'Enter') add()
        else if (e.key === 'Delete') remove()
        else return
        e.preventDefault()
      }}
      onPointerUp={() => {
        dragging.current = false
      }}
      onPointerLeave={() => {
        dragging.current = false
      }}
    >
      <div className="mono flex border-b border-hair text-[11px] text-ink3" aria-hidden>
        <span style={{ width: OFFSET_PX }} className="pr-1.5 text-right">
          byte
        </span>
        {Array.from({ length: COLUMNS }, (_, c) => (
          <span key={c} style={{ width: CELL_PX }} className="text-center">
            +{c}
          </span>
        ))}
      </div>
      {Array.from({ length: rows }, (_, r) => {
        const from = r * COLUMNS
        const count = Math.min(COLUMNS, packet.bytes - from)
        let text = ''
        let fresh = ''
        for (let c = 0; c < count; c++) {
          text += hex(from + c)
          fresh += last && last.at - (last.changed[from + c] ?? -1e9) < FRESH_MS ? '1' : '0'
        }
        return (
          <ByteRow
            key={r}
            row={r}
            count={count}
            text={text}
            fresh={fresh}
            packet={packet}
            chosen={field}
            picked={`${Math.max(0, range.from - from)} ${Math.min(count, range.until - from)}`}
            down={(i, extend) => {
              dragging.current = true
              to(i, extend)
            }}
            over={(i) => dragging.current && to(i, true)}
          />
        )
      })}
    </div>
  )
}

const ByteRow = memo(
  ({
    row,
    count,
    text,
    fresh,
    packet,
    chosen,
    picked,
    down,
    over,
  }: {
    row: number
    count: number
    text: string
    fresh: string
    packet: DatagramPacket
    chosen: DatagramField | null
    picked: string
    down: (byte: number, extend: boolean) => void
    over: (byte: number) => void
  }) => {
    const [pickedFrom, pickedUntil] = picked.split(' ').map(Number) as [number, number]
    return (
      <div className="relative flex border-b border-hair" style={{ height: ROW_PX }}>
        <span
          style={{ width: OFFSET_PX }}
          className="mono pt-[3px] pr-1.5 text-right text-[11.5px] text-ink2"
        >
          {row * COLUMNS}
        </span>
        {Array.from({ length: count }, (_, c) => {
          const two = text.slice(c * 2, c * 2 + 2)
          const isPicked = c >= pickedFrom && c < pickedUntil
          const isFresh = fresh[c] === '1'
          return (
            <span
              key={c}
              data-picked={isPicked}
              data-byte={row * COLUMNS + c}
              style={{ width: CELL_PX }}
              className={`mono h-[20px] cursor-cell select-none text-center text-[12.5px] leading-[20px] ${isPicked ? 'bg-accent-bg' : ''} ${isFresh ? 'font-bold text-live underline' : two === '00' ? 'text-ink3' : 'text-ink'}`}
              onPointerDown={(e) => down(row * COLUMNS + c, e.shiftKey)}
              onPointerEnter={() => over(row * COLUMNS + c)}
            >
              {two}
            </span>
          )
        })}
        {stretchesIn(row, packet, chosen).map((s) => (
          <span
            key={`${s.name} ${s.from}`}
            title={s.name}
            className={`pointer-events-none absolute top-[20px] h-[15px] overflow-hidden text-ellipsis whitespace-nowrap border-t-2 px-[2px] text-[11px] leading-[13px] ${s.begins ? 'border-l' : ''} ${s.isChosen ? 'border-accent font-bold text-accent' : 'border-ink3 text-ink2'}`}
            style={{ left: OFFSET_PX + s.from * CELL_PX + 1, width: (s.until - s.from) * CELL_PX - 2 }}
          >
            {s.begins ? s.name : ''}
          </span>
        ))}
      </div>
    )
  },
  (a, b) =>
    a.text === b.text &&
    a.fresh === b.fresh &&
    a.packet === b.packet &&
    a.chosen === b.chosen &&
    a.picked === b.picked &&
    a.count === b.count,
)
