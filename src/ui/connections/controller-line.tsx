'use client'
import type { FoundController } from '@/core/live/feed'
import { connectionsOf } from '@/core/rig/rig'
import { addFoundController, thisIs } from '../controllers/add-controller'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'

const hex = (word: number): string => word.toString(16).padStart(4, '0')

/** A controller that is plugged in: taken in at once, or said to be one that the rig knows. */
export const ControllerLine = ({ found }: { found: FoundController }) => {
  const rig = useStore((s) => s.rig)
  const status = useStore((s) => s.status?.connections) ?? []
  const { path, name, vendor, product, port, usedBy, fresh } = found
  const row = rig.connection[usedBy ?? '']
  const away = connectionsOf(rig).filter(
    ({ id, on, settings }) =>
      on &&
      settings.kind === 'controller' &&
      settings.vendor === vendor &&
      settings.product === product &&
      status.find((c) => c.id === id)?.state !== 'up',
  )
  return (
    <li
      data-controller={path}
      className="grid grid-cols-[minmax(0,284px)_minmax(0,1fr)_auto] items-center gap-3 border-t border-hair py-1 pr-2 pl-2.5"
    >
      <span className="min-w-0">
        <span className="block truncate" title={name}>
          {name}
        </span>
        <span className="block truncate text-[11px] text-ink2" title={port}>
          a game controller
          {fresh && <b className="text-live"> · new</b>} · {port || path}
        </span>
      </span>
      <span className="min-w-0">
        {row ? (
          <span className="text-ink2">in use as {row.name}</span>
        ) : (
          <>
            <Mark shape="ok" words="a controller" /> {found.keys.length} buttons, {found.axes.length} axes{' '}
            <i className="mono text-ink2 not-italic">
              {hex(vendor)}:{hex(product)}
            </i>
          </>
        )}
      </span>
      <span className="flex flex-wrap justify-end gap-1.5">
        {!row &&
          away.map((r) => (
            <button key={r.id} type="button" className="btn" onClick={() => thisIs(r.id, found)}>
              This is {r.name}
            </button>
          ))}
        {!row && (
          <button
            type="button"
            className="btn"
            data-strong={away.length === 0}
            onClick={() => addFoundController(found)}
          >
            Use it
          </button>
        )}
      </span>
    </li>
  )
}
