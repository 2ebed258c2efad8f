'use client'
import { useState } from 'react'
import { USUAL_SPEED } from '@/core/connections/board-serial'
import type { FoundPort } from '@/core/live/feed'
import type { ProgramState } from '@/core/programs/programs'
import { newConnection } from '@/core/rig/connection-change'
import { addRow } from '@/core/rig/edit'
import type { BoardRow, ConnectionRow } from '@/core/rig/rows'
import { modelsFor, newBoard, useHarness } from '../harness/harness-store'
import { sayToHub } from '../live/connection'
import { edit } from '../live/edits'
import { useStore } from '../live/store'
import { Mark, type MarkShape } from '../primitives/mark'

const steps = ['asking', 'writing', 'verifying', 'starting', 'done'] as const
type StepName = (typeof steps)[number]

const titles: Record<StepName, string> = {
  asking: 'Which chip',
  writing: 'Write',
  verifying: 'Read back',
  starting: 'Start',
  done: 'Name',
}

/** Where it stands, or stood when it failed. */
const stepOf = (program: ProgramState): StepName => (program.at === 'failed' ? program.during : program.at)

/** From a board that has just been plugged in to one that is in the rig: what is done now, and what comes. */
export const ProgramFlow = ({
  port,
  program,
  drawn,
  row,
}: {
  port: FoundPort
  program: ProgramState
  drawn: BoardRow | undefined
  row: ConnectionRow | undefined
}) => {
  const { path } = port
  const now = steps.indexOf(stepOf(program))
  const isIn = row !== undefined || drawn !== undefined
  const failed = program.at === 'failed' ? program : null
  const forget = () => sayToHub({ say: 'forget program', path })
  return (
    <li data-port={path} data-program={program.at} className="border-t border-hair py-1.5 pr-2 pl-2.5">
      <div className="grid grid-cols-[minmax(0,284px)_repeat(5,minmax(0,1fr))] items-start gap-3">
        <span className="min-w-0">
          <span className="mono block truncate" title={path}>
            {path}
          </span>
          <span className="block text-[11px] text-ink2">
            {program.at !== 'asking' && program.chip !== null ? program.chip : port.what}
          </span>
        </span>
        {steps.map((step, i) => (
          <Step
            key={step}
            title={step === 'done' && isIn ? 'Ready' : titles[step]}
            shape={
              failed && i === now
                ? 'fault'
                : i < now || (program.at === 'done' && isIn)
                  ? 'ok'
                  : i === now
                    ? 'wait'
                    : 'none'
            }
            share={shareOf(program, step, i < now)}
            words={wordsOf(program, step, i - now)}
          />
        ))}
      </div>
      {failed && (
        <p role="alert" className="flex flex-wrap items-center gap-2 pt-1.5">
          <Mark shape="fault" words="failed" />
          <span className="min-w-0 flex-1">
            <b>{failed.problem[0]?.toUpperCase() + failed.problem.slice(1)}.</b> {failed.cure}
          </span>
          <button
            type="button"
            className="btn"
            data-strong="true"
            onClick={() => sayToHub({ say: 'load program', path })}
          >
            Try again
          </button>
          <button type="button" className="btn" onClick={forget}>
            Leave it
          </button>
        </p>
      )}
      {program.at === 'done' &&
        (isIn ? (
          <p className="flex items-center gap-2 pt-1.5">
            <span className="min-w-0 flex-1">
              {drawn?.name ?? row?.name} has the program that comes with this Clavik. Who it is and what it
              holds has stayed.
            </span>
            <button type="button" className="btn" data-strong="true" onClick={forget}>
              Good
            </button>
          </p>
        ) : (
          <NameIt port={port} forget={forget} />
        ))}
    </li>
  )
}

/** How much of a step is done; null for one that has no measure. */
const shareOf = (program: ProgramState, step: StepName, past: boolean): number | null => {
  if (step !== 'writing' && step !== 'verifying') return null
  if (past || program.at === 'done') return 1
  return program.at === step ? program.share : 0
}

const wordsOf = (program: ProgramState, step: StepName, ahead: number): string => {
  if (program.at === 'failed' && ahead === 0) return 'failed'
  if (ahead > 0) return ''
  switch (step) {
    case 'asking':
      return program.at === 'asking' ? 'its bootloader is asked …' : (program.chip ?? '')
    case 'writing':
    case 'verifying':
      return program.at === step ? `${Math.round(program.share * 100)} %` : 'done'
    case 'starting':
      return program.at === 'starting' ? 'waiting for its hello …' : 'it answers'
    case 'done':
      return ''
  }
}

const Step = ({
  title,
  shape,
  share,
  words,
}: {
  title: string
  shape: MarkShape
  share: number | null
  words: string
}) => (
  <span className="min-w-0">
    <span className={shape === 'none' ? 'text-ink2' : 'font-bold'}>
      <Mark shape={shape} words={shape === 'ok' ? 'done' : shape === 'wait' ? 'now' : 'to come'} /> {title}
    </span>
    {share !== null && (
      <span
        role="progressbar"
        aria-label={title}
        aria-valuenow={Math.round(share * 100)}
        className="mt-1 block h-[5px] border border-line"
      >
        <span className="block h-full bg-live" style={{ width: `${share * 100}%` }} />
      </span>
    )}
    <span className="block truncate text-[11px] text-ink2">{words}</span>
  </span>
)

/** A new board gets its name, its connection and its place in the rig in one step. */
const NameIt = ({ port, forget }: { port: FoundPort; forget: () => void }) => {
  const rig = useStore((s) => s.rig)
  const model = modelsFor(rig).find((m) => m.name === port.model)
  const fresh = model && newBoard(rig, model)
  const [name, setName] = useState<string | null>(null)
  const called = (name ?? fresh?.name ?? '').trim()
  const taken = Object.values(rig.board).some((b) => b.name === called)
  const put = () => {
    if (!fresh || !port.identity || called === '' || taken) return
    const board = { ...fresh, name: called, identity: port.identity }
    const settings = { kind: 'board serial', path: port.path, speed: USUAL_SPEED, dataBits: 8 } as const
    const connection = newConnection(rig, crypto.randomUUID(), `${called} by cable`, settings)
    edit(`Put ${called} into the rig`, [addRow('board', board), addRow('connection', connection)])
    useHarness.setState({ boardId: board.id })
    useStore.setState({ connectionsAt: connection.id })
    forget()
  }
  return (
    <form
      className="flex items-center gap-2 pt-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        put()
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-2">
        <span>
          It answers{port.identity ? ', and is ' : ''}
          <i className="mono not-italic">{port.identity?.slice(0, 8)}</i>. Call it
        </span>
        <input
          className="mono w-[220px]"
          aria-label="Name of the board"
          // biome-ignore lint/a11y/noAutofocus: what one waited for is here, and asks for nothing but this
          autoFocus
          onFocus={(event) => event.target.select()}
          value={name ?? fresh?.name ?? ''}
          maxLength={60}
          onChange={(event) => setName(event.target.value)}
        />
        {taken && <span className="text-warn">another board has this name</span>}
      </label>
      <button
        type="submit"
        className="btn"
        data-strong="true"
        disabled={!fresh || !port.identity || called === '' || taken}
      >
        Put it into the rig
      </button>
      <button type="button" className="btn" onClick={forget}>
        Not now
      </button>
    </form>
  )
}
