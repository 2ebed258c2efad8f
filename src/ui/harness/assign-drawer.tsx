'use client'
import { useState } from 'react'
import type { ProposedWire } from '@/core/harness/assignment/propose'
import { unwiredParts } from '@/core/harness/unwired-parts'
import { boardsOf, panelsOf, partsOf } from '@/core/rig/rig'
import { edit } from '../live/edits'
import { notify, useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { showWire, useHarness, useIsStale } from './harness-store'
import { solve, stopSolving } from './solve'

/** What is to be assigned, the proposal, and taking it. */
export const AssignDrawer = () => {
  const solving = useHarness((s) => s.solving)
  const proposal = useHarness((s) => s.proposal)
  return (
    <div className="flex h-full min-h-0 flex-col text-[12px]">
      <Ask />
      {solving && (
        <div role="status" className="flex items-center gap-2 border-t border-line px-3 py-2">
          <progress
            className="h-2 min-w-0 flex-1"
            aria-label="Working the assignment out"
            {...(solving.of > 0 ? { value: solving.placed, max: solving.of } : {})}
          />
          {solving.of > 0 ? `${solving.placed} of ${solving.of} parts have a place …` : 'Working it out …'}
          <button type="button" className="btn h-[21px]" onClick={stopSolving}>
            Stop
          </button>
        </div>
      )}
      {proposal && <Shown />}
      {!proposal && !solving && (
        <p className="border-t border-line p-3 leading-[17px] text-ink2">
          Wires that are there stay where they are as long as that is possible; locked ones never move. What
          comes out is shown before anything is changed.
        </p>
      )}
    </div>
  )
}

const Ask = () => {
  const rig = useStore((s) => s.rig)
  const selected = useStore((s) => s.selected)
  const [what, setWhat] = useState('unwired')
  const [board, setBoard] = useState('')
  const panels = panelsOf(rig)
  const partIds = (): readonly string[] | null => {
    if (what === 'all') return null
    if (what === 'unwired') return unwiredParts(rig)
    if (what === 'selected') return selected === null ? [] : [selected]
    return partsOf(rig, what).map((p) => p.id)
  }
  const titles: Record<string, string> = {
    all: 'The whole rig',
    unwired: 'What has no wire yet',
    selected: rig.part[selected ?? '']?.name ?? 'The selected part',
  }
  return (
    <form
      className="flex flex-col gap-1.5 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        const on = board === '' ? '' : ` on ${rig.board[board]?.name ?? ''}`
        solve(`${titles[what] ?? rig.panel[what]?.name ?? ''}${on}`, {
          is: 'assign',
          partIds: partIds(),
          boardIds: board === '' ? null : [board],
        })
      }}
    >
      <label className="grid grid-cols-[52px_1fr] items-center">
        <span className="text-ink2">Assign</span>
        <select
          aria-label="What to assign"
          className="h-[23px] py-0"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
        >
          <option value="unwired">what has no wire yet</option>
          <option value="all">the whole rig</option>
          {selected !== null && <option value="selected">{rig.part[selected]?.name}</option>}
          {panels.map((p) => (
            <option key={p.id} value={p.id}>
              panel {p.name}
            </option>
          ))}
        </select>
      </label>
      <label className="grid grid-cols-[52px_1fr] items-center">
        <span className="text-ink2">to</span>
        <select
          aria-label="To which boards"
          className="h-[23px] py-0"
          value={board}
          onChange={(e) => setBoard(e.target.value)}
        >
          <option value="">any board</option>
          {boardsOf(rig).map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="btn self-start" data-strong="true">
        Propose
      </button>
    </form>
  )
}

const Shown = () => {
  const proposal = useHarness((s) => s.proposal)
  const rig = useStore((s) => s.rig)
  const stale = useIsStale()
  if (!proposal) return null
  const { title, is } = proposal
  const fresh = is.wires.filter((w) => w.was === null)
  const moved = is.wires.filter((w) => w.was !== null)
  const take = () => {
    if (stale) {
      notify('The rig has changed since this was worked out; propose it again. Nothing was changed.')
      return
    }
    edit(`Assigned: ${title}`, is.changes)
    useHarness.setState({ proposal: null })
  }
  return (
    <section aria-label="Proposal" className="flex min-h-0 flex-1 flex-col border-t border-line">
      <div className="px-3 pt-2">
        <h3 className="font-bold">{title}</h3>
        <p className="mono pt-0.5 text-ink2">
          {fresh.length} new · {moved.length} move · {is.kept} stay
        </p>
      </div>
      {is.expanders.map((e) => (
        <p key={e.expander.id} className="flex gap-2 px-3 pt-1.5 leading-4" data-proposed={e.expander.kind}>
          <Mark shape="ok" words="expander" />
          <span>{e.words}</span>
        </p>
      ))}
      {is.others.length > 0 && (
        <p className="px-3 pt-1 leading-4 text-ink2">It would also do with: {is.others.join('; ')}.</p>
      )}
      {is.unplaced.length > 0 && (
        <div className="px-3 pt-1.5 leading-4 text-fault">
          <Mark shape="fault" words="no place" /> No place for {is.unplaced.length}{' '}
          {is.unplaced.length === 1 ? 'part' : 'parts'}
          {is.proven ? '' : ' was found'}:{' '}
          {is.unplaced
            .slice(0, 4)
            .map((id) => rig.part[id]?.name ?? rig.expander[id]?.name)
            .join(', ')}
          {is.unplaced.length > 4 && ' …'}.
          <ul className="list-disc pl-4">
            {is.shortages.map((s) => (
              <li key={s.words}>
                {s.words}. <span className="text-ink2">It would be cured by {s.cure}.</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="flex gap-1.5 px-3 py-2">
        <button
          type="button"
          className="btn"
          data-strong="true"
          disabled={is.changes.length === 0}
          onClick={take}
        >
          Take it
        </button>
        <button type="button" className="btn" onClick={() => useHarness.setState({ proposal: null })}>
          Leave it
        </button>
        {stale && <span className="self-center text-warn">out of date</span>}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div tabIndex={0} className="min-h-0 flex-1 overflow-y-auto border-t border-line">
        <WireTable title="Moves" list={moved} />
        <WireTable title="New" list={fresh} />
      </div>
    </section>
  )
}

const WireTable = ({ title, list }: { title: string; list: readonly ProposedWire[] }) =>
  list.length === 0 ? null : (
    <table className="w-full border-collapse">
      <caption className="cap px-3 pt-1.5 text-left">{title}</caption>
      <tbody>
        {list.map((w) => (
          <tr key={`${w.from.id} ${w.from.terminal}`} className="hover:bg-accent-bg">
            <td className="mono w-9 pl-3 text-ink2">{w.number}</td>
            <td className="w-full max-w-0 px-1">
              <button
                type="button"
                className="block w-full truncate text-left"
                title={w.words}
                onClick={() => showWire(w.from)}
              >
                {w.words}
              </button>
            </td>
            <td
              className="mono whitespace-nowrap pr-2 text-[11px]"
              title={`${w.was ?? 'new'} → ${w.becomes}`}
            >
              {w.was !== null && <s className="text-ink3">{w.was.split(' ').at(-1)}</s>} →{' '}
              {w.becomes.split(' ').at(-1)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
