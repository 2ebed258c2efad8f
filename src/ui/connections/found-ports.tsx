'use client'
import { USUAL_SPEED } from '@/core/connections/board-serial'
import type { FoundPort } from '@/core/live/feed'
import { PROGRAM } from '@/core/programs/programs'
import { boardsOf, connectionsOf } from '@/core/rig/rig'
import { sayToHub } from '../live/connection'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { addConnection } from './add-connection'
import { ControllerLine } from './controller-line'
import { ProgramFlow } from './program-flow'

/** What is plugged in here, what answers on it, and what can be done with it. */
export const FoundPorts = () => {
  const found = useStore((s) => s.status?.found) ?? []
  const controllers = useStore((s) => s.status?.controllers) ?? []
  return (
    <section aria-label="Plugged in here" className="border-t border-line pt-2 pb-1">
      <h3 className="flex items-baseline gap-2 pl-2.5">
        <b>Plugged in here</b>
        <span className="text-ink2">
          {found.length + controllers.length === 0
            ? 'no serial port and no controller; what is plugged in appears within two seconds'
            : 'what is plugged in from now on is asked at once, what was there before only when you say so'}
        </span>
      </h3>
      <ul className="max-h-[176px] overflow-y-auto">
        {controllers.map((c) => (
          <ControllerLine key={c.path} found={c} />
        ))}
        {found.map((port) => (
          <PortLine key={port.path} port={port} />
        ))}
      </ul>
    </section>
  )
}

const PortLine = ({ port }: { port: FoundPort }) => {
  const rig = useStore((s) => s.rig)
  const { path, what, state, identity, model, problem, cure } = port
  const drawn = identity === null ? undefined : boardsOf(rig).find((b) => b.identity === identity)
  const row = connectionsOf(rig).find(
    ({ settings }) => settings.kind === 'board serial' && settings.path === path,
  )
  const use = () =>
    addConnection(
      drawn ? `${drawn.name} by cable` : model === '' ? `Board on ${path.split('/').at(-1)}` : model,
      {
        kind: 'board serial',
        path,
        speed: USUAL_SPEED,
        dataBits: 8,
      },
    )
  const own = useStore((s) => s.status?.connections.find((c) => c.id === row?.id)?.program)
  const number = port.number ?? own ?? null
  const isOld = number !== null && number < PROGRAM
  if (port.program) return <ProgramFlow port={port} program={port.program} drawn={drawn} row={row} />
  return (
    <li
      data-port={path}
      className="grid grid-cols-[minmax(0,284px)_minmax(0,1fr)_auto] items-center gap-3 border-t border-hair py-1 pr-2 pl-2.5"
    >
      <span className="min-w-0">
        <span className="mono block truncate" title={path}>
          {path}
        </span>
        <span className="block text-[11px] text-ink2">
          {what}
          {port.fresh && <b className="text-live"> · new</b>}
        </span>
      </span>
      <span className="min-w-0">
        {state === 'not asked' && <span className="text-ink2">not asked yet</span>}
        {state === 'asking' && (
          <>
            <Mark shape="wait" words="asking" /> being asked …
          </>
        )}
        {state === 'in use' && <span className="text-ink2">in use{row ? ` by ${row.name}` : ''}</span>}
        {state === 'board' && (
          <>
            <Mark shape="ok" words="a board" />{' '}
            {drawn ? `${drawn.name} (${model})` : `${model}, drawn nowhere yet`}{' '}
            <i className="mono text-ink2 not-italic">{identity?.slice(0, 8)}</i>
          </>
        )}
        {isOld && (
          <span className="block text-warn">
            its program is number {number}; {PROGRAM} comes with this Clavik
          </span>
        )}
        {state === 'nothing' && (
          <span>
            <Mark shape="warn" words="no board" /> {problem}. <span className="text-ink2">{cure}</span>
          </span>
        )}
      </span>
      <span className="flex gap-1.5">
        {(state === 'nothing' || isOld) && (
          <button
            type="button"
            className="btn"
            // One that answers works as it is.
            data-strong={!isOld}
            title="Finds out which chip it has, writes the program that fits, and reads it back. Who it is and what it holds stays."
            onClick={() => sayToHub({ say: 'load program', path })}
          >
            {isOld ? 'Bring up to date' : 'Load the program'}
          </button>
        )}
        {(state === 'not asked' || state === 'nothing') && (
          <button type="button" className="btn" onClick={() => sayToHub({ say: 'ask port', path })}>
            Ask
          </button>
        )}
        {!row && state !== 'in use' && (
          <button
            type="button"
            className="btn"
            data-strong={state === 'board'}
            disabled={state === 'asking'}
            onClick={use}
          >
            Use it
          </button>
        )}
      </span>
    </li>
  )
}
