'use client'
import { useState } from 'react'
import { positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { ControllerInput } from '@/core/controllers/capabilities'
import { oneSwitch, partsByPin, type Taken } from '@/core/controllers/take'
import { bindingsOf } from '@/core/rig/rig'
import type { BoardRow } from '@/core/rig/rows'
import { inPlace } from '../drawing/working'
import { useStore } from '../live/store'
import { useController } from './controller-store'
import { take } from './input-list'

/** Buttons that take turns are one switch: proposed where that was seen, or put together by hand. */
export const MakeSwitch = ({ board, inputs }: { board: BoardRow; inputs: readonly ControllerInput[] }) => {
  const rig = useStore((s) => s.rig)
  const groups = useController((s) => s.groups)
  const parts = partsByPin(rig, board)
  const nameOf = new Map(inputs.map((i) => [i.pin, i.name]))
  const proposals = groups
    .map((pins) => pins.flatMap((p) => nameOf.get(p) ?? []))
    // What is one switch already needs no word.
    .filter((names) => new Set(names.map((n) => parts.get(n)?.id)).size > 1 || !parts.has(names[0] ?? ''))
  const [own, setOwn] = useState<readonly string[]>([])
  const [none, setNone] = useState(false)
  const buttons = inputs.filter((i) => i.is === 'button').map((i) => i.name)
  const byHand = oneSwitch(own, none)
  if (buttons.length < 2) return null
  return (
    <section aria-label="Buttons that are one switch" className="pb-3">
      <h3 className="font-bold">Buttons that are one switch</h3>
      <p className="pb-1.5 text-ink2">
        A toggle often tells two buttons of which one is always closed, a selector a row of them. Go through
        all its positions, there and back: what takes turns is proposed here.
      </p>
      {proposals.map((names) => {
        const taken = oneSwitch(names, false)
        return taken ? (
          <Proposal key={names.join(' ')} board={board} taken={taken} names={names}>
            {names.join(', ')}: one of them is always closed
          </Proposal>
        ) : (
          <p key={names.join(' ')} className="border-t border-hair py-1.5">
            {names.join(', ')} take turns, and are more than a switch of the catalogue has positions.
          </p>
        )
      })}
      <details className="border-t border-hair pt-1.5">
        <summary className="cursor-pointer">Put together by hand</summary>
        <div className="flex flex-wrap items-center gap-1.5 pt-1.5">
          {own.map((name) => (
            <button
              key={name}
              type="button"
              className="btn h-[21px]"
              title="Take it out again"
              onClick={() => setOwn(own.filter((n) => n !== name))}
            >
              {name} ×
            </button>
          ))}
          <select
            aria-label="A button of the switch"
            className="h-[24px] py-0"
            value=""
            onChange={(e) => setOwn([...own, e.target.value])}
          >
            <option value="">{own.length === 0 ? 'first position …' : 'next position …'}</option>
            {buttons
              .filter((b) => !own.includes(b))
              .map((b) => (
                <option key={b}>{b}</option>
              ))}
          </select>
        </div>
        {own.length === 2 && (
          <label className="flex items-center gap-1.5 pt-1.5">
            <input type="checkbox" checked={none} onChange={(e) => setNone(e.target.checked)} />
            in the middle none of them is closed
          </label>
        )}
        {byHand && (
          <Proposal
            key={`${own.join(' ')} ${none}`}
            board={board}
            taken={byHand}
            names={own}
            done={() => setOwn([])}
          >
            {own.join(', ')}
          </Proposal>
        )}
      </details>
    </section>
  )
}

/** What it would be, with names for its positions. */
const Proposal = ({
  board,
  taken,
  names,
  done,
  children,
}: {
  board: BoardRow
  taken: Taken
  names: readonly string[]
  done?: () => void
  children: React.ReactNode
}) => {
  const [name, setName] = useState('')
  const [labels, setLabels] = useState<Readonly<Record<string, string>>>({})
  const kind = partKind(taken.kind)
  const aspect = kind && positionsAspect(kind)
  const closedIn = new Map(Object.entries(taken.pins))
  const rows = aspect
    ? inPlace(aspect).map((id) => ({
        id,
        button: aspect.positions.find((p) => p.id === id)?.closes.map((t) => closedIn.get(t))[0],
      }))
    : []
  const lost = useStore(({ rig }) => {
    const parts = partsByPin(rig, board)
    const ids = new Set(names.flatMap((n) => parts.get(n)?.id ?? []))
    return [...ids].reduce((sum, id) => sum + bindingsOf(rig, id).length, 0)
  })
  const make = () => {
    const said = Object.fromEntries(Object.entries(labels).filter(([, v]) => v.trim() !== ''))
    const called = name.trim() === '' ? taken.name : name.trim()
    const labelled = Object.keys(said).length > 0 ? { labels: said } : {}
    take(
      board,
      [{ ...taken, name: called, ...labelled }],
      `Took ${names.join(', ')} of ${board.name} as one switch`,
    )
    done?.()
  }
  return (
    <div data-proposal={names.join(' ')} className="border-t border-hair py-1.5">
      <p className="flex items-baseline gap-2">
        <b className="min-w-0 flex-1">{children}</b>
        <span className="text-ink2">{kind?.name}</span>
      </p>
      {lost > 0 && (
        <p className="text-warn">
          {lost === 1 ? 'One binding of these buttons goes' : `${lost} bindings of these buttons go`} with it;
          undo brings them back.
        </p>
      )}
      <div className="grid grid-cols-[64px_minmax(0,1fr)_auto] items-center gap-x-2 gap-y-1 pt-1">
        <span className="text-ink2">Name</span>
        <input
          aria-label="Name of the switch"
          className="w-full"
          placeholder={taken.name}
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="button" className="btn" data-strong="true" onClick={make}>
          Make it one switch
        </button>
        {rows.map(({ id, button }) => (
          <label key={id} className="contents">
            <span className="mono text-ink2">{button ?? 'none'}</span>
            <input
              aria-label={`Name of the position ${id}`}
              className="w-full"
              placeholder={id}
              value={labels[id] ?? ''}
              maxLength={30}
              onChange={(e) => setLabels({ ...labels, [id]: e.target.value })}
            />
            <span />
          </label>
        ))}
      </div>
    </div>
  )
}
