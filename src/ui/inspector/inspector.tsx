'use client'
import { lampAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { freshSettings } from '@/core/engine/compile-binding'
import { isWired, wiringOf } from '@/core/harness/configuration'
import { targetOf } from '@/core/rig/binding'
import { addRow, changeRow } from '@/core/rig/edit'
import { bindingsOf, leadsOf, type Rig } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { LIT } from '@/core/signal/lamp-state'
import { sayToHub } from '../live/connection'
import { edit } from '../live/edits'
import { useKeyed } from '../live/keyed-values'
import { notify, parts, useStore } from '../live/store'
import { LastMinute } from './last-minute'

/** What is selected, in figures, with what can be done to it. */
export const Inspector = () => {
  const selected = useStore((s) => s.selected)
  const part = useStore((s) => (selected === null ? undefined : s.rig.part[selected]))
  return (
    <aside aria-label="Inspector" className="min-h-0 overflow-y-auto border-l border-line px-3.5 py-2.5">
      {part ? <PartFigures part={part} /> : <p className="pt-1 text-ink2">Nothing selected.</p>}
    </aside>
  )
}

/** Lights an indicator by hand, or ends that. It ends by itself after a few seconds. */
export const exercise = (partIds: readonly string[], on: boolean): void => {
  if (!sayToHub({ say: 'exercise', partIds, packed: on ? LIT : null })) {
    notify('The hub is away, so nothing can be exercised just now.')
  }
}

const Row = ({ term, children }: { term: string; children: React.ReactNode }) => (
  <>
    <dt className="flex h-[26px] items-center border-t border-hair text-ink2">{term}</dt>
    <dd className="m-0 flex h-[26px] min-w-0 items-center justify-end border-t border-hair text-right">
      {children}
    </dd>
  </>
)

const PartFigures = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const live = useKeyed(parts, part.id)
  const kind = partKind(part.kind)
  const leads = leadsOf(rig, part.id)
  const wiring = wiringOf(rig, part)
  const bindings = bindingsOf(rig, part.id)
  const first = bindings[0]
  const lamp = kind ? lampAspect(kind) : undefined
  const target = first ? targetOf(first.settings) : null
  return (
    <>
      <div className="cap">{kind?.name ?? part.kind}</div>
      <h2 className="text-[15px] leading-5">{part.name}</h2>
      <dl className="my-2.5 grid grid-cols-[92px_1fr]">
        <Row term="Leads">
          <span className="mono">
            {leads.length} of {kind?.terminals.length ?? '?'}
          </span>
        </Row>
        <Row term="Board">
          {isWired(wiring) ? (
            rig.board[wiring.boardId]?.name
          ) : (
            <span className="truncate text-warn">{wiring.message}</span>
          )}
        </Row>
        <Row term={isWired(wiring) && wiring.pins.length > 1 ? 'Pins' : 'Pin'}>
          <span className="mono">{isWired(wiring) ? wiring.pins.join(' ') : '–'}</span>
        </Row>
        {lamp && (
          <Row term="Resistor">
            <span className="mono">{part.settings.seriesOhms ? `${part.settings.seriesOhms} Ω` : '–'}</span>
          </Row>
        )}
        {first && <SettingRow part={part} binding={first} />}
        <Row term="Proven">
          <ProofWords bindings={bindings} />
        </Row>
        <Row term="Binding">
          {first ? (
            first.on ? (
              'on'
            ) : (
              <b className="text-warn">off</b>
            )
          ) : (
            <span className="text-warn">none yet</span>
          )}
        </Row>
      </dl>
      <div className="flex flex-wrap gap-1.5">
        {lamp && (
          <button
            type="button"
            className="btn"
            aria-pressed={live?.exercised ?? false}
            onClick={() => exercise([part.id], !live?.exercised)}
          >
            {live?.exercised ? 'End exercise' : 'Exercise'} <span className="key">T</span>
          </button>
        )}
        <button
          type="button"
          className="btn"
          onClick={() => useStore.setState({ opening: { partId: part.id, station: 'simulator' } })}
        >
          {target ? 'Bind to another' : 'Bind'} <span className="key">V</span>
        </button>
        {first && (
          <button type="button" className="btn" onClick={() => addBinding(rig, part)}>
            Add a binding
          </button>
        )}
      </div>
      {target && 'variable' in target && (
        <>
          <div className="cap mt-5">Last minute</div>
          <LastMinute name={target.variable} />
        </>
      )}
    </>
  )
}

/** A further path for the same part: another gesture of a button, or what a lamp shows when the first has no say. */
const addBinding = (rig: Rig, part: PartRow): void => {
  const settings = freshSettings(rig, part.id)
  if (!settings) return
  const position = Math.max(0, ...bindingsOf(rig, part.id).map((b) => b.position)) + 1
  const row: BindingRow = { id: crypto.randomUUID(), partId: part.id, position, on: true, settings }
  edit(`Added a binding to “${part.name}”`, [addRow('binding', row)])
}

const ProofWords = ({ bindings }: { bindings: readonly BindingRow[] }) => {
  const proof = useStore((s) => s.proof)
  const states = bindings.map((b) => proof[b.id] ?? 'not yet')
  const worst = states.includes('changed since')
    ? 'changed since'
    : states.includes('not yet') || states.length === 0
      ? 'not yet'
      : 'proven'
  const colour = worst === 'proven' ? 'text-live' : worst === 'changed since' ? 'text-warn' : 'text-ink2'
  return <span className={colour}>{worst === 'proven' ? '✓ seen to work' : worst}</span>
}

/** The one setting of a binding that has no station of its own on the path. */
const SettingRow = ({ part, binding }: { part: PartRow; binding: BindingRow }) => {
  const { settings } = binding
  if (settings.kind === 'lamp') {
    const choose = (rest: string) =>
      edit(`Changed the rest state of “${part.name}” to ${rest}`, [
        changeRow('binding', binding, {
          ...binding,
          settings: { ...settings, rest: rest as typeof settings.rest },
        }),
      ])
    return (
      <Row term="Rest state">
        <select
          aria-label="Rest state"
          className="h-[22px] py-0"
          value={settings.rest}
          onChange={(e) => choose(e.target.value)}
        >
          <option value="out">out</option>
          <option value="lit">lit</option>
          <option value="keep">as it was</option>
        </select>
      </Row>
    )
  }
  if (settings.when !== 'position') return null
  const leads = part.settings.atStart ?? 'simulator'
  const choose = (atStart: string) =>
    edit(`At start the ${atStart} leads for “${part.name}”`, [
      changeRow('part', part, {
        ...part,
        settings: { ...part.settings, atStart: atStart === 'panel' ? 'panel' : 'simulator' },
      }),
    ])
  return (
    <Row term="At start">
      <select
        aria-label="At start"
        className="h-[22px] py-0"
        value={leads}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="simulator">simulator leads</option>
        <option value="panel">panel leads</option>
      </select>
    </Row>
  )
}
