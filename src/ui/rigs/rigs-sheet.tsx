'use client'
import { useCallback, useEffect, useState } from 'react'
import { changeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { rigRow } from '@/core/rig/rig'
import { MOST_RIG_BYTES } from '@/core/rig/rig-file'
import type { ListedRig } from '@/core/rig/rig-list'
import { TextField } from '../editors/text-field'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { Mark } from '../primitives/mark'
import { Sheet } from '../primitives/sheet'
import { askRigs, listRigs, type RigAsked } from './rigs'

/** All cockpits that are kept: begun, taken from files, opened, copied, named, put aside and brought back. */
export const RigsSheet = () => {
  const open = useStore((s) => s.rigsOpen)
  const close = () => useStore.setState({ rigsOpen: false })
  return (
    <Sheet
      title="Rigs"
      titleShown
      className="flex max-h-[78vh] w-[760px] max-w-[calc(100vw-48px)] flex-col p-4"
      open={open}
      setOpen={(rigsOpen) => useStore.setState({ rigsOpen })}
    >
      {open && <Rigs close={close} />}
    </Sheet>
  )
}

const Rigs = ({ close }: { close: () => void }) => {
  const openId = useStore((s) => s.rigId)
  const revision = useStore((s) => s.revision)
  const [rigs, setRigs] = useState<readonly ListedRig[] | null>(null)
  const [simulated, setSimulated] = useState(true)
  const refresh = useCallback(async () => {
    const list = await listRigs()
    if (list) setRigs(list)
  }, [])
  useEffect(() => {
    void refresh()
  }, [refresh, openId, revision])
  const ask = async (asked: RigAsked): Promise<string | null> => {
    const id = await askRigs(asked)
    await refresh()
    return id
  }
  const openNew = async (asked: RigAsked) => {
    const id = await ask(asked)
    if (id !== null && (await ask({ do: 'open', id })) !== null) close()
  }
  const take = async (f: File) => {
    if (f.size > MOST_RIG_BYTES)
      return notify(
        `“${f.name}” is larger than ${MOST_RIG_BYTES / 1e6} MB; that is no rig. Nothing was kept.`,
      )
    await openNew({ do: 'take', text: await f.text() })
  }
  if (!rigs) return <p className="text-[12px] text-ink2">Looking …</p>
  const names = new Set(rigs.map((r) => r.name))
  const kept = rigs.filter((r) => !r.removed)
  const aside = rigs.filter((r) => r.removed)
  const free = names.has('My cockpit') ? numbered('My cockpit', names, 2) : 'My cockpit'
  return (
    <div className="flex min-h-0 flex-col gap-3 text-[12px]">
      <p className="text-ink2">
        Each rig is a cockpit of its own, with its own history. Opening another one lets go of everything that
        this one holds, in every page; nothing flows until it is armed again.
      </p>
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="btn"
          data-strong="true"
          onClick={() => void openNew({ do: 'begin', name: free, simulated })}
        >
          Begin a new one
        </button>
        <label className="flex items-center gap-1.5 pr-3 text-ink2">
          <input type="checkbox" checked={simulated} onChange={(e) => setSimulated(e.target.checked)} />
          with a simulated craft
        </label>
        <FileButton
          words="Open a file …"
          label="Rig from a file"
          accept=".json,application/json"
          take={(f) => void take(f)}
        />
        <button type="button" className="btn" onClick={() => void openNew({ do: 'demo' })}>
          The demo, fresh
        </button>
        <button
          type="button"
          className="btn"
          title="A rally truck’s dashboard, with a rev strip and a cluster on a vehicle bus; it serves a second craft, too"
          onClick={() => void openNew({ do: 'demo', which: 'torsk-r4' })}
        >
          The truck, fresh
        </button>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 overflow-y-auto">
        <ul aria-label="Rigs" className="border-t border-hair">
          {kept.map((r) => (
            <RigLine key={r.id} rig={r} ask={ask} close={close} />
          ))}
        </ul>
        {aside.length > 0 && (
          <>
            <h3 className="cap mt-3">Put aside</h3>
            <ul aria-label="Rigs put aside" className="border-t border-hair">
              {aside.map((r) => (
                <li key={r.id} className="flex items-center gap-2 border-b border-hair py-1.5 text-ink2">
                  <span className="min-w-0 flex-1 truncate">{r.name}</span>
                  <span>{holds(r)}</span>
                  <button
                    type="button"
                    className="btn"
                    aria-label={`Bring back ${r.name}`}
                    onClick={() => void ask({ do: 'bring back', id: r.id })}
                  >
                    Bring back
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </div>
  )
}

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`

const holds = (r: ListedRig): string =>
  r.parts + r.panels + r.boards === 0
    ? 'empty'
    : [count(r.panels, 'panel'), count(r.parts, 'part'), count(r.boards, 'board')].join(', ')

const RigLine = ({
  rig,
  ask,
  close,
}: {
  rig: ListedRig
  ask: (asked: RigAsked) => Promise<string | null>
  close: () => void
}) => {
  const rename = (name: string) => {
    const trimmed = name.trim()
    if (trimmed === '' || trimmed === rig.name) return
    // The open one is renamed as anything in it is changed: undo knows of it, and so does every page.
    const row = rigRow(useStore.getState().rig)
    if (rig.open && row)
      edit(`Called the rig “${trimmed}”`, [changeRow('rig', row, { ...row, name: trimmed })])
    else void ask({ do: 'rename', id: rig.id, name: trimmed })
  }
  const openIt = async () => {
    if ((await ask({ do: 'open', id: rig.id })) !== null) close()
  }
  return (
    <li
      aria-label={rig.name}
      className={`flex items-center gap-2 border-b border-hair py-1.5 ${rig.open ? 'bg-accent-bg' : ''}`}
    >
      <span className="w-5 shrink-0 pl-1">{rig.open && <Mark shape="ok" words="open" />}</span>
      <TextField label={`Name of ${rig.name}`} value={rig.name} width={230} take={rename} />
      <span className="min-w-0 flex-1">
        <span className="block">{holds(rig)}</span>
        <span className="block text-[11px] text-ink2">
          changed{' '}
          {new Date(rig.changedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
        </span>
      </span>
      {rig.open ? (
        <span className="px-2 font-bold">open</span>
      ) : (
        <button type="button" className="btn" aria-label={`Open ${rig.name}`} onClick={() => void openIt()}>
          Open
        </button>
      )}
      <button
        type="button"
        className="btn"
        aria-label={`Copy ${rig.name}`}
        onClick={() => void ask({ do: 'copy', id: rig.id })}
      >
        Copy
      </button>
      <a className="btn" href={`/api/rigs/${rig.id}/file`} download aria-label={`Save ${rig.name} as a file`}>
        Save
      </a>
      <button
        type="button"
        className="btn"
        aria-label={`Put aside ${rig.name}`}
        disabled={rig.open}
        title={rig.open ? 'Open another one first' : 'It is kept, and can be brought back'}
        onClick={() => void ask({ do: 'remove', id: rig.id })}
      >
        Put aside
      </button>
    </li>
  )
}
