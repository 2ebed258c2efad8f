'use client'
import { useMemo } from 'react'
import type { BoardModel, PinAbility } from '@/core/catalogue/board-model'
import { modelOf, ownBoardLike } from '@/core/catalogue/own-board'
import { loadsOf } from '@/core/harness/loads'
import { sparePins } from '@/core/harness/spare-pins'
import { changeRow, removeRow } from '@/core/rig/edit'
import { writeBoardFile } from '@/core/rig/own-file'
import { expandersOf, leadsOnBoard, rowsOf } from '@/core/rig/rig'
import type { BoardRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { endSimulation, simulate } from '../live/simulate'
import { useStore } from '../live/store'
import { FileButton } from '../primitives/file-button'
import { openBoardFile } from './board-file-sheet'
import { heading, LoadBar, NameField } from './drawer-pieces'
import { addBoard, modelsFor, useBoard } from './harness-store'
import { solve } from './solve'

const abilityNames: readonly (readonly [PinAbility, string])[] = [
  ['digital', 'digital'],
  ['pull-up', 'pull-up'],
  ['pwm', 'PWM'],
  ['steps', 'quick clock'],
  ['frequency', 'frequency'],
  ['analog', 'analog'],
  ['interrupt', 'interrupt'],
  ['two-wire-data', 'two-wire'],
  ['serial', 'serial'],
]

/** The board that is looked at: what it is, what feeds it, what it gives, what is spare. */
export const BoardForm = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  const status = useStore((s) => s.status?.boards)
  const strangers = (status ?? []).filter((b) => b.id === null && b.state === 'up')
  const spare = useMemo(() => (board ? sparePins(rig, board) : null), [rig, board])
  const loads = loadsOf(rig)
  const load = board && loads.boards.get(board.id)
  if (!board)
    return (
      <div className="flex flex-wrap gap-1.5 p-3">
        <AddBoard />
        <BoardFiles model={undefined} />
      </div>
    )
  const model = modelOf(board)
  const models = modelsFor(rig)
  const set = (sentence: string, to: Partial<BoardRow>) =>
    edit(sentence, [changeRow('board', board, { ...board, ...to })])
  const hangsOn = leadsOnBoard(rig, board.id).length + expandersOf(rig, board.id).length
  const live = status?.find((b) => b.id === board.id)
  const isUp = live?.state === 'up'
  const isSimulated = live?.simulated ?? false
  const fed = rig.supply[board.supplyId ?? '']?.name ?? 'the computer'
  return (
    <section aria-label="The board">
      <div className={heading}>
        <h3 className="font-bold">{board.name}</h3>
        <span className="cap">{model?.name ?? board.model}</span>
      </div>
      <div className="grid grid-cols-[76px_1fr] items-center gap-y-1 px-3 pb-2">
        <span className="text-ink2">Name</span>
        <NameField
          label="Name of the board"
          width={160}
          value={board.name}
          take={(name) => set(`Renamed a board to ${name}`, { name })}
        />
        <span className="text-ink2">Model</span>
        <select
          aria-label="Model of the board"
          className="h-[22px] w-40 py-0"
          value={board.model}
          onChange={(e) => {
            const to = models.find((m) => m.id === e.target.value)
            if (to) solve(`${board.name} becomes ${to.name}`, { is: 'model', boardId: board.id, model: to })
          }}
        >
          {!model && <option value={board.model}>{board.model} (not known)</option>}
          <ModelOptions models={models} />
        </select>
        {model?.note && (
          <p data-note className="col-start-2 leading-4 text-ink2">
            {model.note}
          </p>
        )}
        <span className="text-ink2">Stands for</span>
        <select
          aria-label="The real board"
          className="mono h-[22px] w-40 py-0 text-[11px]"
          value={board.identity ?? ''}
          onChange={(e) =>
            set(`${board.name} stands for another real board`, { identity: e.target.value || null })
          }
        >
          <option value="">no board yet</option>
          {board.identity && (
            <option value={board.identity}>
              {board.identity}
              {isSimulated ? ' · simulated' : ''}
            </option>
          )}
          {strangers.map((s) => (
            <option key={s.identity} value={s.identity}>
              {s.identity} · {s.model}
            </option>
          ))}
        </select>
        {(isSimulated || !isUp) && (
          <button
            type="button"
            className="btn col-start-2 h-[21px] w-40"
            onClick={() => (isSimulated && isUp ? endSimulation(board) : simulate(board))}
          >
            {isSimulated && isUp ? 'End the simulation' : 'Simulate it'}
          </button>
        )}
        <span className="text-ink2">Fed by</span>
        <select
          aria-label="What feeds the board"
          className="h-[22px] w-40 py-0"
          value={board.supplyId ?? ''}
          onChange={(e) => set(`Changed what feeds ${board.name}`, { supplyId: e.target.value || null })}
        >
          <option value="">its cable to the computer</option>
          {rowsOf(rig, 'supply').map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
        {load && (
          <>
            <span className="text-ink2">Takes</span>
            <LoadBar
              words={`from ${fed}`}
              typical={load.total.typical}
              most={load.total.most}
              limit={load.limit}
            />
            <span className="text-ink2">Its pins</span>
            <LoadBar
              words="all together"
              typical={load.allPins.typical}
              most={load.allPins.most}
              limit={model?.milliampsAllPins ?? 0}
            />
          </>
        )}
        {spare && (
          <>
            <span className="text-ink2">Spare pins</span>
            <span className="flex flex-wrap gap-x-2" data-spare={spare.pins}>
              <b className="mono">{spare.pins}</b>
              {abilityNames.map(([ability, word]) => (
                <span key={ability} className="whitespace-nowrap text-ink2">
                  {word} <span className="mono text-ink">{spare.byAbility[ability] ?? 0}</span>
                </span>
              ))}
            </span>
          </>
        )}
      </div>
      <div className="flex flex-wrap gap-1.5 px-3 pb-2">
        <AddBoard />
        <button
          type="button"
          className="btn h-[21px]"
          disabled={hangsOn > 0}
          title={hangsOn > 0 ? 'Wires hang on it: take them off first, or assign them elsewhere' : undefined}
          onClick={() => edit(`Removed ${board.name}`, [removeRow('board', board)])}
        >
          Remove it
        </button>
        <BoardFiles model={model} />
      </div>
    </section>
  )
}

const ModelOptions = ({ models }: { models: readonly BoardModel[] }) =>
  models.map((m) => (
    <option key={m.id} value={m.id}>
      {m.name}
    </option>
  ))

const AddBoard = () => {
  const rig = useStore((s) => s.rig)
  const models = modelsFor(rig)
  const add = (id: string) => {
    const model = models.find((m) => m.id === id)
    if (model) addBoard(model, (name) => `Added ${name}`)
  }
  return (
    <select
      aria-label="Add a board"
      className="h-[21px] w-40 py-0 text-[12px]"
      value=""
      onChange={(e) => add(e.target.value)}
    >
      <option value="">Add a board …</option>
      <ModelOptions models={models} />
    </select>
  )
}

/** A model as a file: to be changed in an editor, shared, and read again. */
const BoardFiles = ({ model }: { model: BoardModel | undefined }) => (
  <>
    <FileButton
      words="Board file …"
      label="Board file"
      accept=".json,application/json"
      take={(f) => void openBoardFile(f)}
    />
    {model && (
      <a
        className="btn h-[21px]"
        title="This model as a file: the start for one of your own"
        href={`data:application/json;charset=utf-8,${encodeURIComponent(writeBoardFile(ownBoardLike(model)))}`}
        download={`${ownBoardLike(model).id}.board.json`}
      >
        Save as a file
      </a>
    )}
  </>
)
