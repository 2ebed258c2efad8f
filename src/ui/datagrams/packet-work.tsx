'use client'
import { useCallback, useState } from 'react'
import { addField, fieldFor, removeField } from '@/core/datagrams/change-layout'
import { type DatagramField, endOf } from '@/core/datagrams/layout'
import { ByteGrid, type ByteRange } from './byte-grid'
import { FieldForm } from './field-form'
import { FieldHuntPanel } from './field-hunt-panel'
import { FieldTable } from './field-table'
import { editLayout } from './layout-edit'
import { PacketForm, type PacketProps } from './packet-form'

/** One packet: its bytes, its fields, and whatever is done to them. */
export const PacketWork = ({ row, at, packet, findings, removed }: PacketProps) => {
  const [range, setRange] = useState<ByteRange>({ from: 0, until: 1 })
  const [name, setName] = useState<string | null>(packet.fields[0]?.name ?? null)
  const [hunting, setHunting] = useState(false)
  const field = packet.fields.find((f) => f.name === name) ?? null
  const choose = useCallback((f: DatagramField) => {
    setName(f.name)
    setRange({ from: f.at, until: endOf(f) })
  }, [])
  const pick = useCallback(
    (r: ByteRange) => {
      setRange(r)
      const on = packet.fields.filter((f) => f.at < r.until && endOf(f) > r.from)
      setName((was) => (on.some((f) => f.name === was) ? was : (on[0]?.name ?? null)))
    },
    [packet],
  )
  const add = (f: DatagramField) => {
    let made = f.name
    editLayout(row.id, `a field at byte ${f.at} of ${packet.name}`, (l) => {
      const next = addField(l, at, f)
      const before = new Set(packet.fields.map((x) => x.name))
      made = next.packets[at]?.fields.find((x) => !before.has(x.name))?.name ?? made
      return next
    })
    setName(made)
    setRange({ from: f.at, until: endOf(f) })
  }
  const addHere = () => add(fieldFor(range.from, range.until - range.from))
  const remove = (f: DatagramField) => {
    editLayout(row.id, `removed the field ${f.name}`, (l) => removeField(l, at, f))
    setName(null)
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[560px_minmax(0,1fr)] gap-3 pt-2 text-[12px]">
      <div className="flex min-h-0 flex-col gap-2">
        <PacketForm
          row={row}
          at={at}
          packet={packet}
          findings={findings.filter((f) => f.field === null)}
          removed={removed}
        />
        <ByteGrid
          packet={packet}
          at={at}
          range={range}
          field={field}
          pick={pick}
          add={addHere}
          remove={() => field && remove(field)}
        />
        <div className="flex items-center gap-1.5">
          <button type="button" className="btn" onClick={addHere}>
            Field here <span className="key">Enter</span>
          </button>
          <span className="mono text-ink2">
            {range.until - range.from === 1
              ? `byte ${range.from}`
              : `bytes ${range.from} to ${range.until - 1}`}
          </span>
          {!packet.send && (
            <button
              type="button"
              className="btn ml-auto"
              aria-pressed={hunting}
              data-strong={!hunting}
              onClick={() => setHunting(!hunting)}
            >
              Find a field by operating it
            </button>
          )}
        </div>
      </div>
      <div className="flex min-h-0 flex-col gap-2">
        {hunting && (
          <FieldHuntPanel
            row={row}
            at={at}
            packet={packet}
            add={add}
            point={setRange}
            close={() => setHunting(false)}
          />
        )}
        <FieldTable row={row} at={at} packet={packet} chosen={field} findings={findings} choose={choose} />
        {field && (
          <FieldForm
            key={`${at} ${packet.fields.indexOf(field)}`}
            row={row}
            at={at}
            packet={packet}
            field={field}
            findings={findings.filter((f) => f.field === packet.fields.indexOf(field))}
            renamed={setName}
            remove={() => remove(field)}
          />
        )}
      </div>
    </div>
  )
}
