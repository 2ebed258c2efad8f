'use client'
import { usePathname } from 'next/navigation'
import { isIndicator } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { freshSettings } from '@/core/engine/compile-binding'
import { bareTerminals } from '@/core/harness/bare-terminals'
import { cameWithDevice } from '@/core/harness/given'
import { listedPins } from '@/core/harness/listed-pins'
import { isWired, wiringsOf } from '@/core/harness/wiring'
import { isBound, targetOf } from '@/core/rig/binding'
import { bindingsInForce } from '@/core/rig/craft-sets'
import { changeRow } from '@/core/rig/edit'
import { bindingsOf, leadsOf } from '@/core/rig/rig'
import type { BindingRow, PartRow } from '@/core/rig/rows'
import { indicatorUi } from '../aspects/aspects'
import { change } from '../editors/change-binding'
import { addBinding } from '../editors/target-editor'
import { sayToHub } from '../live/connection'
import { edit } from '../live/edits'
import { useHopeless } from '../live/findings'
import { useKeyed } from '../live/keyed-values'
import { parts, says, useStore } from '../live/store'
import { Placement } from '../panel/placement'
import { useSurface } from '../surface/view-store'
import { ExerciseForm } from './exercise-form'
import { LastMinute } from './last-minute'
import { LeadRows } from './lead-rows'
import { restTerms } from './rest-terms'
import { Row } from './row'
import { WiringRows } from './wiring-rows'

/** What is selected, in figures, with what can be done to it. */
export const Inspector = () => {
  const selected = useStore((s) => s.selected)
  const part = useStore((s) => (selected === null ? undefined : s.rig.part[selected]))
  const drawing = usePathname().startsWith('/panel')
  const pickedPart = useSurface((s) => [...s.picked].find((k) => k.startsWith('part/'))?.slice(5))
  return (
    <aside aria-label="Inspector" className="min-h-0 overflow-y-auto border-l border-line px-3.5 py-2.5">
      {drawing && <Placement />}
      {part && (!drawing || pickedPart === part.id) ? (
        <PartFigures key={part.id} part={part} />
      ) : drawing ? null : (
        <p className="pt-1 text-ink2">Nothing selected.</p>
      )}
    </aside>
  )
}

const PartFigures = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const said = useKeyed(says, part.id)
  const drawn = useKeyed(parts, part.id)
  const kind = partKind(part.kind)
  const leads = leadsOf(rig, part.id)
  const wirings = wiringsOf(rig, part).map((w) => w.wiring)
  const wired = wirings.filter(isWired)
  const unwired = wirings.find((w) => !isWired(w))
  const pins = wired.flatMap((w) => w.pins)
  const boardNames = [...new Set(wired.map((w) => rig.board[w.boardId]?.name))].join(', ')
  const bindings = bindingsOf(rig, part.id)
  const [first] = bindings
  const shows = kind?.aspects.some(isIndicator)
  const holds = useStore((s) => s.status?.craftSet.holds ?? null)
  const targets = bindingsInForce(rig, part.id, holds).map((b) => targetOf(b.settings))
  const variable = targets.find((t) => t !== null && 'variable' in t)
  const terms = restTerms(rig, part, bindings)
  return (
    <>
      <div className="cap">{kind?.name ?? part.kind}</div>
      <h2 className="text-[15px] leading-5">{part.name}</h2>
      <dl className="my-2.5 grid grid-cols-[92px_1fr]">
        <LeadRows
          leads={leads}
          terminals={kind?.terminals ?? []}
          wanted={leads.length + bareTerminals(rig, part).length}
        />
        <Row term="Board">
          {unwired && 'message' in unwired ? (
            <span className="truncate text-warn" title={unwired.message}>
              {unwired.message}
            </span>
          ) : (
            <span className="truncate" title={boardNames}>
              {boardNames || '–'}
            </span>
          )}
        </Row>
        <Row term={pins.length > 1 ? 'Pins' : 'Pin'}>
          <span className="mono truncate" title={pins.join(', ')}>
            {listedPins(pins) || '–'}
          </span>
        </Row>
        <WiringRows part={part} />
        <AtStartRow part={part} bindings={bindings} />
        <ActsRow part={part} />
        {bindings.map((b) => (
          <RestRow key={b.id} part={part} binding={b} term={terms.get(b.id) ?? ''} />
        ))}
        <Row term="Proven">
          <ProofWords partId={part.id} bindings={bindings} />
        </Row>
        <Row term={bindings.length > 1 ? 'Bindings' : 'Binding'}>
          <OnWords bindings={bindings} />
        </Row>
      </dl>
      <div className="flex flex-wrap gap-1.5">
        <button
          type="button"
          className="btn"
          onClick={() => useStore.setState({ opening: { partId: part.id, station: 'simulator' } })}
        >
          {first && isBound(first.settings) ? 'Bind to another' : 'Bind'} <span className="key">V</span>
        </button>
        {first && <AddBinding part={part} />}
        {said?.agrees === false && kind?.aspects.some((a) => !isIndicator(a)) && (
          <button
            type="button"
            className="btn"
            data-strong="true"
            title="The panel leads: tell the craft where this stands"
            onClick={() => sayToHub({ say: 'settle', partIds: [part.id] })}
          >
            Tell the craft
          </button>
        )}
      </div>
      {shows && <ExerciseForm partId={part.id} exercised={drawn?.exercised ?? false} />}
      {variable && 'variable' in variable && (
        <>
          <div className="cap mt-5">Last minute</div>
          <LastMinute name={variable.variable} />
        </>
      )}
    </>
  )
}

const OnWords = ({ bindings }: { bindings: readonly BindingRow[] }) => {
  const off = bindings.filter((b) => !b.on).length
  if (bindings.length === 0) return <span className="text-warn">none yet</span>
  if (off > 0)
    return <b className="text-warn">{bindings.length === 1 ? 'off' : `${off} of ${bindings.length} off`}</b>
  return <>{bindings.length === 1 ? 'on' : `${bindings.length}, all on`}</>
}

/** A further path for the same part: another gesture, another layer, or what is shown when the first has no say. */
const AddBinding = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const aspects = partKind(part.kind)?.aspects ?? []
  const add = (aspectId: string | undefined) => {
    const settings = freshSettings(rig, part.id, aspectId)
    if (settings) addBinding(part, `Added a binding to “${part.name}”`, settings)
  }
  if (aspects.length === 1)
    return (
      <button type="button" className="btn" onClick={() => add(undefined)}>
        Add a binding
      </button>
    )
  return (
    <select
      aria-label="Add a binding to"
      className="h-6 py-0 text-[12px]"
      value=""
      onChange={(e) => e.target.value && add(e.target.value)}
    >
      <option value="">Add a binding to …</option>
      {aspects.map((a) => (
        <option key={a.id} value={a.id}>
          {a.id}
        </option>
      ))}
    </select>
  )
}

const ProofWords = ({ partId, bindings }: { partId: string; bindings: readonly BindingRow[] }) => {
  const proof = useStore((s) => s.proof)
  const hopeless = useHopeless().has(partId)
  const states = bindings.map((b) => proof[b.id] ?? 'not yet')
  const worst = states.includes('changed since')
    ? 'changed since'
    : states.includes('not yet') || states.length === 0
      ? 'not yet'
      : 'proven'
  const seen = states.filter((s) => s === 'proven').length
  if (hopeless) return <span className="text-fault">its wiring cannot work</span>
  const colour = worst === 'proven' ? 'text-live' : worst === 'changed since' ? 'text-warn' : 'text-ink2'
  return (
    <span className={colour}>
      {worst === 'proven' ? '✓ seen to work' : seen > 0 ? `${seen} of ${states.length} seen` : worst}
    </span>
  )
}

/** What an indicator shows when its source is gone. */
const RestRow = ({ part, binding, term }: { part: PartRow; binding: BindingRow; term: string }) => {
  const { settings } = binding
  if (settings.kind === 'control') return null
  const words = indicatorUi(settings.kind).rests
  const choose = (rest: string) =>
    change(binding, `Changed the rest state of “${part.name}” to ${words[rest]}`, {
      ...settings,
      rest: rest as never,
    })
  return (
    <Row term={term}>
      <select
        aria-label={term}
        className="h-[22px] py-0"
        value={settings.rest}
        onChange={(e) => choose(e.target.value)}
      >
        {Object.entries(words).map(([id, word]) => (
          <option key={id} value={id}>
            {word}
          </option>
        ))}
      </select>
    </Row>
  )
}

/** Who acts on a control that came with a bought device: the simulator may read it by itself. */
const ActsRow = ({ part }: { part: PartRow }) => {
  const rig = useStore((s) => s.rig)
  const isLeft = part.settings.leftTo !== undefined
  if (!isLeft && !cameWithDevice(rig, part.id)) return null
  const choose = (who: string) => {
    const { leftTo: _, ...others } = part.settings
    edit(
      who === 'simulator' ? `Left “${part.name}” to the simulator` : `Clavik acts on “${part.name}” again`,
      [
        changeRow('part', part, {
          ...part,
          settings: who === 'simulator' ? { ...others, leftTo: 'simulator' } : others,
        }),
      ],
    )
  }
  return (
    <Row term="Acts">
      <select
        aria-label="Who acts on it"
        className="h-[22px] py-0"
        value={isLeft ? 'simulator' : 'clavik'}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="clavik">through Clavik</option>
        <option value="simulator">left to the simulator</option>
      </select>
    </Row>
  )
}

/** Who leads when panel and simulator meet, for parts that stand somewhere. */
const AtStartRow = ({ part, bindings }: { part: PartRow; bindings: readonly BindingRow[] }) => {
  const stands = bindings.some(
    ({ settings: s }) => s.kind === 'control' && (s.when === 'position' || s.when === 'move'),
  )
  if (!stands) return null
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
        value={part.settings.atStart ?? 'simulator'}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="simulator">simulator leads</option>
        <option value="panel">panel leads</option>
      </select>
    </Row>
  )
}
