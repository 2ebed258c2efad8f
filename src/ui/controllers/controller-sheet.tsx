'use client'
import { useEffect } from 'react'
import { boardOf } from '@/core/controllers/add-controller'
import { inputsOf } from '@/core/controllers/capabilities'
import { addRow } from '@/core/rig/edit'
import { boardsOf } from '@/core/rig/rig'
import type { ConnectionRow } from '@/core/rig/rows'
import { OwnSheet, OwnSheetName } from '../connections/own-sheet'
import { sayToHub } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { beginController, useController } from './controller-store'
import { InputList } from './input-list'
import { MakeSwitch } from './make-switch'
import { SimulatedHands } from './simulated-hands'

type WithController = ConnectionRow & {
  settings: Extract<ConnectionRow['settings'], { kind: 'controller' | 'simulated controller' }>
}

const hasController = (row: ConnectionRow | undefined): row is WithController =>
  row?.settings.kind === 'controller' || row?.settings.kind === 'simulated controller'

/** What can be worked on a controller, where it stands, and which part of the rig it is. */
export const ControllerSheet = () => (
  <OwnSheet
    of="controller"
    title={(name) => `What can be worked on ${name ?? 'a controller'}`}
    has={hasController}
  >
    {(row) => <Controller key={row.id} row={row} />}
  </OwnSheet>
)

const Controller = ({ row }: { row: WithController }) => {
  const hub = useStore((s) => s.hub)
  const status = useStore((s) => s.status?.connections.find((c) => c.id === row.id))
  const { identity } = row.settings
  const board = useStore((s) => boardsOf(s.rig).find((b) => b.identity === identity))
  const hello = useController((s) => s.hello)
  useEffect(() => {
    beginController(row.id)
    if (hub === 'up') sayToHub({ say: 'controller', connection: row.id })
    return () => {
      sayToHub({ say: 'controller', connection: null })
      beginController(null)
    }
  }, [row.id, hub])
  const inputs = hello ? inputsOf(hello) : []
  const count = (is: string) => inputs.filter((i) => i.is === is).length
  const words = [
    [count('button'), 'button', 'buttons'],
    [count('axis'), 'axis', 'axes'],
    [count('hat side') / 4, 'hat', 'hats'],
  ] as const
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line pb-2 text-[12px]">
        <OwnSheetName row={row} />
        {hello ? (
          <span className="text-ink2">
            {words.flatMap(([n, one, many]) => (n === 0 ? [] : [`${n} ${n === 1 ? one : many}`])).join(', ')}
            {hello.serial !== '' && row.settings.kind === 'controller' && ` · number ${hello.serial}`}
          </span>
        ) : (
          <span className="text-fault">
            {status?.problem ?? 'it has not said yet who it is'}. {status?.cure}
          </span>
        )}
        <Touched />
      </div>
      {board ? (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_392px] gap-4 pt-2 text-[12px]">
          <InputList board={board} inputs={inputs} />
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
          <div tabIndex={0} className="min-h-0 overflow-y-auto pr-1">
            <MakeSwitch board={board} inputs={inputs} />
            {row.settings.kind === 'simulated controller' && (
              <SimulatedHands connection={row.id} model={row.settings.model} />
            )}
          </div>
        </div>
      ) : (
        <p className="pt-3">
          Its board was taken out of the rig.{' '}
          <button
            type="button"
            className="btn"
            disabled={!hello}
            onClick={() => {
              const { rig } = useStore.getState()
              if (hello)
                edit(`Put ${hello.name} back`, [
                  addRow('board', boardOf(rig, hello, identity, crypto.randomUUID())),
                ])
            }}
          >
            Put it back
          </button>
        </p>
      )}
    </>
  )
}

/** What the hand is on, large enough for somebody who stands at the controller. */
const Touched = () => {
  const touched = useController((s) => s.touched)
  const hello = useController((s) => s.hello)
  const value = useController((s) => (s.touched ? (s.raw.get(s.touched.pin) ?? 0) : null))
  const input = hello ? inputsOf(hello).find((i) => i.pin === touched?.pin) : undefined
  return (
    <output aria-label="Touched last" className="ml-auto flex items-baseline gap-2">
      {input ? (
        <>
          <span className="text-ink2">touched last</span>
          <b className="text-[20px] leading-[24px]">{input.name}</b>
          <span className="mono min-w-[64px] text-right text-[20px] leading-[24px]">
            {input.is === 'button' ? (value === 0 ? 'open' : 'closed') : value}
          </span>
        </>
      ) : (
        <span className="text-ink2">touch something: it is shown here</span>
      )}
    </output>
  )
}
