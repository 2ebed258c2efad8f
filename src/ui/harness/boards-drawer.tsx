'use client'
import { useMemo } from 'react'
import type { PinAbility } from '@/core/catalogue/board-model'
import { boardModel, boardModels } from '@/core/catalogue/boards'
import { expanderKinds } from '@/core/catalogue/expanders'
import { loadsOf } from '@/core/harness/loads'
import { sparePins } from '@/core/harness/spare-pins'
import { addRow, changeRow, removeRow } from '@/core/rig/edit'
import { numbered } from '@/core/rig/numbered'
import { boardsOf, expandersOf, leadsOnBoard, leadsOnExpander, linesOf, rowsOf } from '@/core/rig/rig'
import type { BoardRow, ExpanderRow, SupplyRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { TextField } from '../editors/text-field'
import { loadAll, sayToHub, select } from '../live/connection'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { Mark, UpMark } from '../primitives/mark'
import { newId, useBoard, useHarness } from './harness-store'
import { solve } from './solve'

const heading = 'flex items-baseline gap-2 border-t border-line px-3 pt-2 pb-1'

/** Boards with what they hold and what is spare, expanders and supplies with their load. */
export const BoardsDrawer = () => (
  <div className="text-[12px]">
    <Loading />
    <TheBoard />
    <Expanders />
    <Supplies />
  </div>
)

/** What each board holds against what is drawn. */
const Loading = () => {
  const rig = useStore((s) => s.rig)
  const boards = useStore((s) => s.status?.boards) ?? []
  const known = boards.filter((b) => b.id !== null)
  const toLoad = known.filter((b) => b.state === 'up' && !b.loaded && b.loading === null)
  const strangers = boards.filter((b) => b.id === null && b.state === 'up')
  return (
    <section aria-label="Loading">
      {toLoad.length > 1 && (
        <p className="flex items-center gap-2 border-b border-hair px-3 py-1.5">
          <span className="flex-1">{toLoad.length} boards differ from the drawing</span>
          <button type="button" className="btn h-[21px]" data-strong="true" onClick={loadAll}>
            Load all
          </button>
        </p>
      )}
      <ul>
        {known.map((b) => (
          <li key={b.id} data-board-load={b.id} className="border-b border-hair px-3 py-1">
            <div className="flex h-6 items-center gap-2">
              <UpMark up={b.state === 'up'} words={b.state} />
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left hover:text-accent"
                onClick={() => useHarness.setState({ boardId: b.id })}
              >
                {b.name}
              </button>
              {b.loading !== null ? (
                <>
                  <progress className="h-2 w-16" value={b.loading} max={1} aria-label={`Loading ${b.name}`} />
                  <span className="mono">{Math.round(b.loading * 100)} %</span>
                </>
              ) : b.state === 'down' ? (
                <span className="text-fault">down</span>
              ) : b.loaded ? (
                <span className="flex items-center gap-1 text-ink2">
                  <Mark shape="ok" words="holds the drawing" /> holds the drawing
                </span>
              ) : (
                <button
                  type="button"
                  className="btn h-[21px]"
                  data-strong="true"
                  onClick={() => b.id !== null && sayToHub({ say: 'load', boardId: b.id })}
                >
                  Load
                </button>
              )}
            </div>
            {b.state === 'up' && !b.loaded && (
              <p className="pb-1 leading-[15px] text-warn">
                differs:{' '}
                {b.differing.length === 0
                  ? 'it holds something that is no longer drawn'
                  : b.differing.slice(0, 8).map((id, i) => (
                      <button key={id} type="button" className="hover:text-accent" onClick={() => select(id)}>
                        {i > 0 && ', '}
                        {rig.part[id]?.name ?? id}
                      </button>
                    ))}
                {b.differing.length > 8 && ` and ${b.differing.length - 8} more`}
              </p>
            )}
          </li>
        ))}
      </ul>
      {strangers.map((b) => (
        <p key={b.identity} className="px-3 py-1 text-ink2">
          {b.model} <span className="mono">{b.identity}</span> is connected and stands for no board here.
        </p>
      ))}
    </section>
  )
}

const abilityNames: readonly (readonly [PinAbility, string])[] = [
  ['digital', 'digital'],
  ['pull-up', 'pull-up'],
  ['pwm', 'PWM'],
  ['analog', 'analog'],
  ['interrupt', 'interrupt'],
  ['two-wire-data', 'two-wire'],
  ['serial', 'serial'],
]

const TheBoard = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  const strangers = (useStore((s) => s.status?.boards) ?? []).filter((b) => b.id === null && b.state === 'up')
  const spare = useMemo(() => (board ? sparePins(rig, board) : null), [rig, board])
  const loads = loadsOf(rig)
  const load = board && loads.boards.get(board.id)
  if (!board) return <AddBoard />
  const model = boardModel(board.model)
  const set = (sentence: string, to: Partial<BoardRow>) =>
    edit(sentence, [changeRow('board', board, { ...board, ...to })])
  const hangsOn = leadsOnBoard(rig, board.id).length + expandersOf(rig, board.id).length
  const fed = rig.supply[board.supplyId ?? '']?.name ?? 'the computer'
  return (
    <section aria-label="The board">
      <div className={heading}>
        <h3 className="font-bold">{board.name}</h3>
        <span className="cap">{model?.name ?? board.model}</span>
      </div>
      <div className="grid grid-cols-[76px_1fr] items-center gap-y-1 px-3 pb-2">
        <span className="text-ink2">Name</span>
        <TextField
          label="Name of the board"
          width={160}
          value={board.name}
          take={(name) => set(`Renamed a board to ${name}`, { name })}
          objection={(t) => (t.trim() === '' ? 'a name is needed' : null)}
        />
        <span className="text-ink2">Model</span>
        <select
          aria-label="Model of the board"
          className="h-[22px] w-40 py-0"
          value={board.model}
          onChange={(e) =>
            solve(`${board.name} becomes an ${boardModel(e.target.value)?.name ?? e.target.value}`, {
              is: 'model',
              boardId: board.id,
              model: e.target.value,
            })
          }
        >
          {!model && <option value={board.model}>{board.model} (not known)</option>}
          {boardModels.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </select>
        <span className="text-ink2">Stands for</span>
        <select
          aria-label="The real board"
          className="mono h-[22px] w-40 py-0 text-[11px]"
          value={board.identity ?? ''}
          onChange={(e) =>
            set(`${board.name} stands for another real board`, { identity: e.target.value || null })
          }
        >
          <option value="">no real board yet</option>
          {board.identity && <option value={board.identity}>{board.identity}</option>}
          {strangers.map((s) => (
            <option key={s.identity} value={s.identity}>
              {s.identity} · {s.model}
            </option>
          ))}
        </select>
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
      <div className="flex gap-1.5 px-3 pb-2">
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
      </div>
    </section>
  )
}

const AddBoard = () => {
  const rig = useStore((s) => s.rig)
  const add = (model: string) => {
    const row: BoardRow = {
      ...{ id: newId(), model, identity: null, supplyId: null },
      name: numbered('Board', new Set(boardsOf(rig).map((b) => b.name))),
      position: Math.max(0, ...boardsOf(rig).map((b) => b.position)) + 1,
    }
    edit(`Added ${row.name}`, [addRow('board', row)])
    useHarness.setState({ boardId: row.id })
  }
  return (
    <select
      aria-label="Add a board"
      className="h-[21px] py-0 text-[12px]"
      value=""
      onChange={(e) => e.target.value && add(e.target.value)}
    >
      <option value="">Add a board …</option>
      {boardModels.map((m) => (
        <option key={m.id} value={m.id}>
          {m.name}
        </option>
      ))}
    </select>
  )
}

/** Current against what may flow: everyday use and the worst case, in words and as a bar. */
const LoadBar = ({
  words,
  typical,
  most,
  limit,
}: {
  words: string
  typical: number
  most: number
  limit: number
}) => {
  const over = most > limit
  const share = (x: number) => `${Math.min(100, (x / Math.max(1, limit)) * 100)}%`
  return (
    <span title={words}>
      <span className={`mono ${over ? 'font-bold text-fault' : ''}`}>
        {Math.round(typical)} … {Math.round(most)} of {limit} mA{over && ' – too much'}
      </span>
      <span className="relative mt-0.5 block h-[5px] border border-line">
        <span
          className={`absolute inset-y-0 left-0 ${over ? 'bg-fault' : 'bg-ink3'}`}
          style={{ width: share(most) }}
        />
        <span className="absolute inset-y-0 left-0 bg-ink" style={{ width: share(typical) }} />
      </span>
    </span>
  )
}

const Expanders = () => {
  const rig = useStore((s) => s.rig)
  const board = useBoard()
  if (!board) return null
  const there = expandersOf(rig, board.id)
  const add = (kind: string) => {
    const known = expanderKinds.find((k) => k.id === kind)
    if (!known) return
    const taken = new Set(there.filter((e) => e.kind === kind).map((e) => e.jumpers))
    let jumpers = 0
    while (taken.has(jumpers)) jumpers++
    const row: ExpanderRow = {
      ...{ id: newId(), boardId: board.id, kind, chips: 1, jumpers },
      name: numbered(known.name.split(' ')[0] ?? kind, new Set(rowsOf(rig, 'expander').map((e) => e.name))),
      position: Math.max(0, ...there.map((e) => e.position)) + 1,
    }
    edit(`Added ${row.name} to ${board.name}`, [addRow('expander', row)])
  }
  return (
    <section aria-label="Expanders">
      <div className={heading}>
        <h3 className="flex-1 font-bold">Expanders</h3>
        <select
          aria-label="Add an expander"
          className="h-[21px] w-36 py-0"
          value=""
          onChange={(e) => e.target.value && add(e.target.value)}
        >
          <option value="">Add …</option>
          {expanderKinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.name}: {k.says}
            </option>
          ))}
        </select>
      </div>
      {there.map((e) => (
        <ExpanderLine key={e.id} expander={e} />
      ))}
    </section>
  )
}

const ExpanderLine = ({ expander }: { expander: ExpanderRow }) => {
  const rig = useStore((s) => s.rig)
  const kind = expanderKinds.find((k) => k.id === expander.kind)
  const set = (sentence: string, to: Partial<ExpanderRow>) =>
    edit(sentence, [changeRow('expander', expander, { ...expander, ...to })])
  const remove = () => {
    const used = leadsOnExpander(rig, expander.id).length
    if (used > 0) {
      notify(
        `${used} ${used === 1 ? 'wire ends' : 'wires end'} on ${expander.name}; assign them elsewhere or take them off first.`,
      )
      return
    }
    edit(`Removed ${expander.name}`, [
      ...linesOf(rig, expander.id).map((l) => removeRow('lead', l)),
      removeRow('expander', expander),
    ])
  }
  return (
    <div className="flex items-center gap-2 border-t border-hair px-3 py-1">
      <TextField
        label={`Name of ${expander.name}`}
        width={84}
        value={expander.name}
        take={(name) => set(`Renamed an expander to ${name}`, { name })}
        objection={(t) => (t.trim() === '' ? 'a name is needed' : null)}
      />
      {kind && kind.mostChips > 1 && (
        <NumberField
          label=""
          name={`Chips of ${expander.name}`}
          unit="chips"
          narrow
          value={expander.chips}
          least={1}
          most={kind.mostChips}
          take={(chips) => set(`${expander.name} is a chain of ${chips}`, { chips: Math.round(chips) })}
        />
      )}
      {kind?.addresses && (
        <NumberField
          label=""
          name={`Jumpers of ${expander.name}`}
          unit="jumpers"
          narrow
          value={expander.jumpers}
          least={0}
          most={kind.addresses.count - 1}
          take={(jumpers) =>
            set(`Set the jumpers of ${expander.name} to ${jumpers}`, { jumpers: Math.round(jumpers) })
          }
        />
      )}
      <button
        type="button"
        className="ml-auto text-ink2 hover:text-fault"
        aria-label={`Remove ${expander.name}`}
        onClick={remove}
      >
        ✕
      </button>
    </div>
  )
}

const Supplies = () => {
  const rig = useStore((s) => s.rig)
  const { supplies } = loadsOf(rig)
  const list = rowsOf(rig, 'supply')
  const add = () => {
    const row: SupplyRow = {
      ...{ id: newId(), volts: 5, maxMilliamps: 2000, groundJoined: false, plusJoinedTo: null },
      name: numbered('Supply', new Set(list.map((s) => s.name))),
    }
    edit(`Added ${row.name}`, [addRow('supply', row)])
  }
  return (
    <section aria-label="Supplies" className="pb-3">
      <div className={heading}>
        <h3 className="flex-1 font-bold">Supplies</h3>
        <button type="button" className="btn h-[21px]" onClick={add}>
          Add
        </button>
      </div>
      {list.map((s) => (
        <SupplyLine key={s.id} supply={s} load={supplies.get(s.id) ?? { typical: 0, most: 0 }} />
      ))}
    </section>
  )
}

const SupplyLine = ({ supply, load }: { supply: SupplyRow; load: { typical: number; most: number } }) => {
  const rig = useStore((s) => s.rig)
  const set = (sentence: string, to: Partial<SupplyRow>) =>
    edit(sentence, [changeRow('supply', supply, { ...supply, ...to })])
  const used =
    rowsOf(rig, 'lead').some((l) => l.supplyId === supply.id) ||
    rowsOf(rig, 'board').some((b) => b.supplyId === supply.id)
  return (
    <div className="border-t border-hair px-3 py-1.5">
      <div className="flex items-center gap-2">
        <TextField
          label={`Name of ${supply.name}`}
          width={150}
          value={supply.name}
          take={(name) => set(`Renamed a supply to ${name}`, { name })}
          objection={(t) => (t.trim() === '' ? 'a name is needed' : null)}
        />
        {!used && (
          <button
            type="button"
            className="ml-auto text-ink2 hover:text-fault"
            aria-label={`Remove ${supply.name}`}
            onClick={() => edit(`Removed ${supply.name}`, [removeRow('supply', supply)])}
          >
            ✕
          </button>
        )}
      </div>
      <div className="flex items-center gap-2 py-1">
        <NumberField
          label=""
          name={`Volts of ${supply.name}`}
          unit="V"
          narrow
          value={supply.volts}
          least={1}
          most={60}
          take={(volts) => set(`${supply.name} gives ${volts} V`, { volts })}
        />
        <NumberField
          label=""
          name={`Milliamps of ${supply.name}`}
          unit="mA"
          value={supply.maxMilliamps}
          least={10}
          most={100000}
          take={(maxMilliamps) => set(`${supply.name} gives up to ${maxMilliamps} mA`, { maxMilliamps })}
        />
      </div>
      <LoadBar words="what hangs on it" typical={load.typical} most={load.most} limit={supply.maxMilliamps} />
      <label className="flex items-center gap-1.5 pt-1">
        <input
          type="checkbox"
          checked={supply.groundJoined}
          onChange={(e) =>
            set(
              e.target.checked
                ? `Joined the ground of ${supply.name}`
                : `${supply.name} has its ground apart`,
              { groundJoined: e.target.checked },
            )
          }
        />
        minus joined to the boards’ ground
      </label>
      <label className="flex items-center gap-1.5 pt-0.5">
        plus joined to
        <select
          aria-label={`What the plus of ${supply.name} is joined to`}
          className="h-[21px] py-0"
          value={supply.plusJoinedTo ?? ''}
          onChange={(e) =>
            set(`Changed what the plus of ${supply.name} is joined to`, {
              plusJoinedTo: e.target.value || null,
            })
          }
        >
          <option value="">nothing</option>
          {boardsOf(rig).map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
          {rowsOf(rig, 'supply')
            .filter((o) => o.id !== supply.id)
            .map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
        </select>
      </label>
    </div>
  )
}
