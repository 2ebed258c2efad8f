'use client'
import { useEffect, useMemo } from 'react'
import { databaseFindings } from '@/core/bus/database-findings'
import { OwnSheet, OwnSheetName } from '../connections/own-sheet'
import { SheetFoot } from '../connections/sheet-foot'
import { sayToHub } from '../live/connection'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { editBus, hasBus, type WithBus } from './bus-edit'
import { beginBus } from './bus-store'
import { OnTheBus } from './on-the-bus'
import { readDatabase } from './read-database'
import { SentMessages } from './sent-messages'

/** What is on a vehicle bus, live and in words, and what is sent there. */
export const BusSheet = () => (
  <OwnSheet of="bus" title={(name) => `Messages of ${name ?? 'a vehicle bus'}`} has={hasBus}>
    {(row) => <Bus key={row.id} row={row} />}
  </OwnSheet>
)

const Bus = ({ row }: { row: WithBus }) => {
  const hub = useStore((s) => s.hub)
  const status = useStore((s) => s.status?.connections.find((c) => c.id === row.id))
  const { database } = row.settings
  const findings = useMemo(() => databaseFindings(database), [database])
  useEffect(() => {
    beginBus(row.id)
    if (hub === 'up') sayToHub({ say: 'bus', connection: row.id })
    return () => {
      sayToHub({ say: 'bus', connection: null })
      beginBus(null)
    }
  }, [row.id, hub])
  const take = async (file: File) => {
    const read = await readDatabase(file)
    if ('problem' in read) {
      notify(`${read.problem} Nothing was changed.`)
      return
    }
    const { messages } = read.database
    editBus(row.id, `took the database ${file.name}`, () => ({ database: read.database }))
    const left = read.notes.length > 0 ? ` ${read.notes.slice(0, 3).join(' ')}` : ''
    notify(
      `${messages.length} messages with ${messages.reduce((n, m) => n + m.signals.length, 0)} signals are known now.${left}`,
      read.notes.length > 0 ? 'fault' : 'plain',
    )
  }
  const rest = findings.length - 4
  const odd = [
    ...(status?.odd ?? []),
    ...findings.slice(0, 4),
    ...(rest > 0 ? [`… and ${rest} more of the like.`] : []),
  ]
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line pb-2 text-[12px]">
        <OwnSheetName row={row} />
        <span className="text-ink2">
          {database.messages.length === 0
            ? 'no database yet: what comes is shown as bytes'
            : `${database.messages.length} messages known from ${database.name || 'a database'}`}
        </span>
        <span className="ml-auto">
          <FileButton
            words="Database from a file (DBC) …"
            label="A database of a vehicle bus"
            accept=".dbc"
            take={(f) => void take(f)}
          />
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-4 pt-2 text-[12px]">
        <OnTheBus row={row} />
        <SentMessages row={row} />
      </div>
      <SheetFoot fault={status && status.state !== 'up' ? status.problem : null} odd={odd} />
    </>
  )
}
