'use client'
import { useEffect, useRef } from 'react'
import { connectionKind } from '@/core/connections/connections'
import type { ConnectionStatus } from '@/core/live/feed'
import { changeRow } from '@/core/rig/edit'
import { boardsOf } from '@/core/rig/rig'
import type { ConnectionRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Mark, UpMark } from '../primitives/mark'

/** Switches a connection on or off. */
const turn = (row: ConnectionRow, on: boolean): void =>
  edit(`${on ? 'Switched on' : 'Switched off'} ${row.name}`, [changeRow('connection', row, { ...row, on })])

/** One connection as a line from here to its far end: whole while something goes over it, broken with the reason where not. */
export const ConnectionLine = ({
  row,
  status,
  chosen,
}: {
  row: ConnectionRow
  status: ConnectionStatus | undefined
  chosen: boolean
}) => {
  const state = status?.state ?? (row.on ? 'down' : 'off')
  const line = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (chosen) line.current?.scrollIntoView({ block: 'nearest' })
  }, [chosen])
  return (
    <li
      ref={line}
      data-connection={row.id}
      data-state={state}
      aria-current={chosen}
      className={`grid grid-cols-[34px_minmax(180px,250px)_minmax(0,1fr)_minmax(150px,220px)] items-center gap-x-3 border-b border-hair py-1 ${chosen ? 'bg-accent-bg' : ''}`}
    >
      <input
        type="checkbox"
        className="ml-2.5 h-4 w-4"
        checked={row.on}
        aria-label={`${row.name} on`}
        onChange={(e) => turn(row, e.target.checked)}
      />
      <button
        type="button"
        className="min-w-0 text-left hover:text-accent"
        onClick={() => useStore.setState({ connectionsAt: row.id })}
      >
        <b className="block truncate">{row.name}</b>
        <span className="block truncate text-[11px] leading-[15px] text-ink2">
          {connectionKind(row.settings.kind).name}
        </span>
      </button>
      <Cable row={row} state={state} status={status} />
      <FarEnd state={state} status={status} />
    </li>
  )
}

const Cable = ({
  row,
  state,
  status,
}: {
  row: ConnectionRow
  state: ConnectionStatus['state']
  status: ConnectionStatus | undefined
}) => {
  const address = status?.address ?? connectionKind(row.settings.kind).address(row.settings)
  if (state === 'up')
    return (
      <div className="min-w-0">
        <div className="flex items-center gap-2">
          <span className="mono max-w-[45%] truncate text-ink2" title={address}>
            {address}
          </span>
          <span aria-hidden className="h-0 min-w-4 flex-1 border-t-[2px] border-live" />
          <span className="mono whitespace-nowrap" title="Frames heard a second">
            {status?.rateHz.toFixed(1)} Hz
          </span>
          {status?.delayMs !== null && status?.delayMs !== undefined && (
            <span className="mono whitespace-nowrap text-ink2" title="From a question to its answer">
              {status.delayMs} ms
            </span>
          )}
          <span
            className={`mono whitespace-nowrap ${status && status.dropped > 0 ? 'text-warn' : 'text-ink2'}`}
            title="Frames or lines that came damaged, or not at all, in either direction"
          >
            {status?.dropped ?? 0} lost
          </span>
          <span aria-hidden className="h-0 min-w-4 flex-1 border-t-[2px] border-live" />
        </div>
        <Notes row={row} status={status} />
      </div>
    )
  if (state === 'off')
    return (
      <div className="flex items-center gap-2 text-ink2">
        <span className="mono truncate">{address}</span>
        <span aria-hidden className="h-0 flex-1 border-t border-dotted border-ink3" />
        <span>switched off</span>
        <span aria-hidden className="h-0 flex-1 border-t border-dotted border-ink3" />
      </div>
    )
  return (
    <div className="min-w-0">
      <div className="flex items-center gap-2">
        <span className="mono max-w-[40%] truncate text-ink2" title={address}>
          {address}
        </span>
        <span aria-hidden className="h-0 w-4 shrink-0 border-t-[2px] border-fault" />
        <Mark shape="off" words="broken" />
        <span className="min-w-0 text-fault">{status?.problem ?? 'it is being opened'}</span>
      </div>
      {status?.cure && <p className="pl-1 text-ink2">{status.cure}</p>}
    </div>
  )
}

/** What is to be said of a connection although it is up. */
const Notes = ({ row, status }: { row: ConnectionRow; status: ConnectionStatus | undefined }) => {
  const { settings } = row
  const insteadOf = status?.insteadOf ?? null
  const keep = () =>
    settings.kind === 'board serial' &&
    status &&
    edit(`${row.name} is on ${status.address}`, [
      changeRow('connection', row, { ...row, settings: { ...settings, path: status.address } }),
    ])
  return (
    <>
      {insteadOf !== null && (
        <p className="flex items-center gap-2 text-warn">
          <Mark shape="warn" words="moved" />
          <span className="min-w-0 truncate">
            its board was found here; nothing is plugged in as {insteadOf}
          </span>
          <button type="button" className="btn h-[20px]" onClick={keep}>
            Keep this port
          </button>
        </p>
      )}
      {status?.problem && (
        <p className="text-warn">
          {status.problem}
          {status.cure && <span className="text-ink2"> {status.cure}</span>}
        </p>
      )}
    </>
  )
}

const FarEnd = ({
  state,
  status,
}: {
  state: ConnectionStatus['state']
  status: ConnectionStatus | undefined
}) => {
  const rig = useStore((s) => s.rig)
  const identity = status?.identity ?? null
  const drawn = identity === null ? undefined : boardsOf(rig).find((b) => b.identity === identity)
  const who = status?.who ?? ''
  return (
    <div className="flex min-w-0 items-center gap-2 pr-2">
      <UpMark up={state === 'up'} words={state} />
      <span className="min-w-0">
        <span className="block truncate">
          {drawn?.name ?? (who || (state === 'up' ? 'open' : 'nobody yet'))}
        </span>
        {identity !== null && (
          <span className="block truncate text-[11px] text-ink2" title={identity}>
            {drawn ? who : 'not drawn yet'} <i className="mono not-italic">{identity.slice(0, 8)}</i>
          </span>
        )}
      </span>
    </div>
  )
}
