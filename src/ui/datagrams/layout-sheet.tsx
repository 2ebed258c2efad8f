'use client'
import { useEffect, useMemo, useState } from 'react'
import { addPacket } from '@/core/datagrams/change-layout'
import { readLayoutFile, writeLayoutFile } from '@/core/datagrams/layout-file'
import { layoutFindings } from '@/core/datagrams/layout-findings'
import { OwnSheet, OwnSheetName } from '../connections/own-sheet'
import { TextField } from '../editors/text-field'
import { sayToHub } from '../live/connection'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { fileName, saveFile } from '../primitives/save-file'
import { Segments } from '../primitives/segments'
import { beginDatagrams, seen, sortBy, strange, useDatagrams } from './datagram-store'
import { editLayout, hasLayout, type WithLayout } from './layout-edit'
import { PacketWork } from './packet-work'

/** What the datagrams of a connection are made of: their bytes as they come, with fields laid over them. */
export const LayoutSheet = () => (
  <OwnSheet of="layout" title={(name) => `Layout of ${name ?? 'a connection'}`} has={hasLayout}>
    {(row) => <Layout key={row.id} row={row} />}
  </OwnSheet>
)

const orders = { little: 'low byte first', big: 'high byte first' } as const

const Layout = ({ row }: { row: WithLayout }) => {
  const { layout } = row.settings
  const hub = useStore((s) => s.hub)
  const [chosen, setChosen] = useState(0)
  const at = Math.min(chosen, layout.packets.length - 1)
  useEffect(() => {
    beginDatagrams(row.id)
    if (hub === 'up') sayToHub({ say: 'datagrams', connection: row.id })
    return () => {
      sayToHub({ say: 'datagrams', connection: null })
      beginDatagrams(null)
    }
  }, [row.id, hub])
  useEffect(() => sortBy(layout), [layout])
  const findings = useMemo(() => layoutFindings(layout), [layout])
  const packet = layout.packets[at]
  return (
    <>
      <Head row={row} />
      <Packets row={row} at={at} choose={setChosen} />
      {packet ? (
        <PacketWork
          key={at}
          row={row}
          at={at}
          packet={packet}
          findings={findings.filter((f) => f.packet === at)}
          removed={() => setChosen(Math.max(0, at - 1))}
        />
      ) : (
        <Empty row={row} />
      )}
    </>
  )
}

const Head = ({ row }: { row: WithLayout }) => {
  const { layout } = row.settings
  const save = () =>
    saveFile(`${fileName(layout.craft || row.name)}.layout.json`, writeLayoutFile(layout), 'application/json')
  const take = async (file: File) => {
    const read = readLayoutFile(await file.text())
    if ('problem' in read) notify(`${read.problem} Nothing was changed.`)
    else editLayout(row.id, `took the layout of ${file.name}`, () => read.layout)
  }
  return (
    <div className="flex flex-wrap items-center gap-2 pb-2 text-[12px]">
      <OwnSheetName row={row} />
      <span className="flex items-center gap-1.5">
        <span className="text-ink2">tells of</span>
        <TextField
          label="What is flown or driven"
          placeholder="the craft"
          width={130}
          value={layout.craft}
          take={(craft) =>
            editLayout(row.id, `tells of ${craft || 'nothing in particular'}`, (l) => ({
              ...l,
              craft: craft.trim(),
            }))
          }
        />
      </span>
      <Segments
        label="Order of bytes"
        words={orders}
        is={layout.order}
        choose={(order) => editLayout(row.id, orders[order], (l) => ({ ...l, order }))}
      />
      <span className="ml-auto flex gap-1.5">
        <FileButton
          words="Layout from a file …"
          label="A layout of datagrams"
          accept=".json"
          take={(f) => void take(f)}
        />
        <button type="button" className="btn" disabled={layout.packets.length === 0} onClick={save}>
          Save as a file
        </button>
      </span>
    </div>
  )
}

const rate = (hz: number): string => (hz === 0 ? '' : hz < 10 ? `${hz.toFixed(1)}/s` : `${Math.round(hz)}/s`)

/** The packets of the layout, and what comes and is none of them. */
const Packets = ({ row, at, choose }: { row: WithLayout; at: number; choose: (at: number) => void }) => {
  useDatagrams((s) => s.drawn)
  const { packets } = row.settings.layout
  const add = (bytes: number, more: Parameters<typeof addPacket>[2] = {}, words = 'a packet') => {
    editLayout(row.id, `added ${words} of ${bytes} bytes`, (l) => addPacket(l, bytes, more))
    choose(packets.length)
  }
  const sending = { host: '127.0.0.1', port: 47_830, hz: 30, when: 'changed' as const }
  return (
    <div className="flex flex-wrap items-center gap-1.5 border-b border-line pb-2 text-[12px]">
      <div role="tablist" aria-label="Packets" className="flex flex-wrap gap-1.5">
        {packets.map((p, i) => (
          <button
            key={`${p.name} ${i}`}
            type="button"
            role="tab"
            aria-selected={i === at}
            className={`flex items-baseline gap-1.5 border px-2 py-0.5 ${i === at ? 'border-accent bg-accent-bg' : 'border-line'}`}
            onClick={() => choose(i)}
          >
            <b>{p.name}</b>
            <span className="mono text-[11.5px] text-ink2">
              {p.send ? '→ ' : ''}
              {p.bytes} bytes {rate(seen.get(i)?.hz ?? 0)}
            </span>
          </button>
        ))}
      </div>
      {[...strange].map(([bytes, s]) => (
        <button
          key={bytes}
          type="button"
          className="border border-dashed border-warn px-2 py-0.5 text-warn"
          title="Datagrams of this size come and fit no packet of the layout"
          onClick={() => add(bytes)}
        >
          {bytes} bytes {rate(s.hz)} fit none: make a packet
        </button>
      ))}
      <span className="ml-auto flex gap-1.5">
        <button type="button" className="btn" onClick={() => add(16)}>
          Packet that comes
        </button>
        <button type="button" className="btn" onClick={() => add(8, { send: sending }, 'a packet to send')}>
          Packet to send
        </button>
      </span>
    </div>
  )
}

const Empty = ({ row }: { row: WithLayout }) => {
  useDatagrams((s) => s.drawn)
  const status = useStore((s) => s.status?.connections.find((c) => c.id === row.id))
  return (
    <div className="max-w-[640px] py-6 text-[13px]">
      <p className="pb-2 font-bold">
        {strange.size > 0 ? 'Datagrams come, and nobody knows yet what is in them.' : 'Nothing has come yet.'}
      </p>
      <p className="text-ink2">
        {strange.size > 0
          ? 'Make a packet of their size above. Its bytes appear here as they come; fields are laid over them by hand, or found by operating what they tell of.'
          : `${status?.cure ?? 'Let the program send its telemetry to this port.'} A layout from a file will do as well.`}
      </p>
    </div>
  )
}
