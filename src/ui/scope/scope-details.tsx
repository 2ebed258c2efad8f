import type { Rig } from '@/core/rig/rig'
import type { EventInfo, VariableInfo } from '@/core/rig/simulator-catalogue'
import type { SourcePlace } from '@/core/rig/sources'
import { formatNumber, formatValue } from '@/core/signal/format'
import { select } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { playedOf, useRecordings } from '../recordings/recordings-store'
import { agoWords } from './ago'
import { OwnWords } from './own-words'
import { placeOf, qualityOf } from './quality'
import { flipMute, flipPin, scopeLive, useScope } from './scope-store'
import { TraceLine } from './trace-line'
import { WriteField } from './write-field'

const Line = ({ words, children }: { words: string; children: React.ReactNode }) => (
  <div className="flex items-baseline justify-between gap-3 border-t border-hair py-1">
    <dt className="text-ink2">{words}</dt>
    <dd className="mono min-w-0 truncate text-right">{children}</dd>
  </div>
)

const isVariable = (info: VariableInfo | EventInfo): info is VariableInfo => 'writable' in info

/** The choices of a value with the word of each, as they are meant. */
const rangeWords = (info: VariableInfo): string => {
  if (info.choices) return info.choices.map((c, i) => `${i} ${c}`).join(' · ')
  if (info.type === 'boolean') return 'on or off'
  if (!info.range) return 'not told'
  return info.range.map(formatNumber).join(' … ')
}

/** What came of the last value or event that was sent by hand. */
const Answer = ({ name, info }: { name: string; info: VariableInfo | EventInfo }) => {
  const answer = useScope((s) => s.answer)
  if (answer?.name !== name) return null
  const well = answer.problem === null
  const what =
    answer.value === null ? 'it' : isVariable(info) ? formatValue(answer.value, info) : String(answer.value)
  return (
    <p role="status" className="mt-1.5 flex gap-1.5 text-[12px]">
      <Mark shape={well ? 'ok' : 'fault'} words={well ? 'taken' : 'not taken'} />
      <span>
        {well
          ? `The simulator has taken ${what}.`
          : answer.sent
            ? `${what} was sent: ${answer.problem}.`
            : `Not sent: ${answer.problem}.`}
      </span>
    </p>
  )
}

/** A name as its source tells it, without what the rig puts in front. */
const toldName = (name: string, place: SourcePlace, connections: Rig['connection']): string => {
  const settings = connections[place.id]?.settings
  const fronts = [`${place.name}: `, settings && 'prefix' in settings ? settings.prefix : '']
  return fronts.reduce((rest, front) => (rest.startsWith(front) ? rest.slice(front.length) : rest), name)
}

/** All that is known of one variable or event, and what can be done with it by hand. */
export const ScopeDetails = ({ bound }: { bound: ReadonlyMap<string, readonly string[]> }) => {
  const name = useScope((s) => s.chosen)
  const index = useStore((s) => s.catalogue)
  const places = useStore((s) => s.sources)
  const status = useStore((s) => s.status)
  const playedSources = useRecordings(playedOf)
  const connections = useStore((s) => s.rig.connection)
  const partRows = useStore((s) => s.rig.part)
  const pinned = useScope((s) => name !== null && s.pinned.includes(name))
  const muted = useScope((s) => name !== null && s.muted.includes(name))
  const { catalogue } = index
  const slot = name === null ? undefined : index.variable.get(name)
  const event = name === null || slot !== undefined ? undefined : index.event.get(name)
  const row = slot ?? (event === undefined ? -1 : catalogue.variables.length + event)
  const live = useKeyed(scopeLive, String(row))
  const info = slot !== undefined ? catalogue.variables[slot] : catalogue.events[event ?? -1]
  if (name === null || !info)
    return (
      <p className="p-3 text-[12px] text-ink2">
        {name === null
          ? 'Choose a row to see all of it, and to write it by hand. Enter writes in the row itself, Space pins, Delete mutes.'
          : `${name} is told by no source just now.`}
      </p>
    )
  const place = placeOf(places, row, catalogue.variables.length)
  const value = live?.value ?? null
  const quality = qualityOf(place, status, value, !isVariable(info), playedSources)
  const numbers = (live?.trace ?? []).filter((v) => v !== null)
  const parts = bound.get(name) ?? []
  return (
    <div className="p-3 text-[12.5px]">
      <p className="cap">
        {isVariable(info) ? 'Variable' : 'Event'}
        {info.group !== '' && ` · ${info.group}`}
      </p>
      <h3 className="mono my-0.5 text-[14px] font-bold break-words">{name}</h3>
      {info.called && <p className="text-[14px] font-bold">{info.called}</p>}
      <p className={`mb-2 ${info.description === '' ? 'text-ink3' : ''}`}>
        {info.description || 'Not described by the simulator.'}
      </p>
      {place && place.craft !== '' && playedSources === null && (
        <div className="mb-2">
          <OwnWords key={name} craft={place.craft} name={toldName(name, place, connections)} info={info} />
        </div>
      )}
      {isVariable(info) && (
        <p className="mono mb-1 truncate text-[20px] leading-7 text-live">{formatValue(value, info)}</p>
      )}
      {isVariable(info) && info.type !== 'text' && (
        <div className="mb-2 border border-hair bg-raised p-1">
          <TraceLine trace={live?.trace ?? []} width={220} height={64} fills />
          <p className="cap flex justify-between">
            <span>
              {numbers.length > 0 &&
                `${formatNumber(Math.min(...numbers))} … ${formatNumber(Math.max(...numbers))}`}
            </span>
            <span>Last 20 s</span>
          </p>
        </div>
      )}
      <dl>
        <Line words="State">
          <span className="font-sans">{quality.words}</span>
        </Line>
        <Line words={isVariable(info) ? 'Changed' : 'Sent from here'}>
          {live?.at == null ? 'not yet' : `${agoWords(performance.now() - live.at)} ago`}
          {live !== undefined &&
            live.changes > 0 &&
            ` · ${live.changes === 1 ? 'once' : `${live.changes} times`}`}
        </Line>
        {isVariable(info) && (
          <>
            <Line words="Unit">{info.unit ?? 'none'}</Line>
            <Line words="Range">
              <span title={rangeWords(info)}>{rangeWords(info)}</span>
            </Line>
            <Line words="Writable">{info.writable ? 'yes' : 'no'}</Line>
          </>
        )}
        <Line words="Source">
          <span className="font-sans">{place ? `${place.name} · ${place.craft}` : 'unknown'}</span>
        </Line>
      </dl>
      <div className="border-t border-hair py-1">
        <p className="mb-1 text-ink2">{parts.length === 0 ? 'Bound to nothing' : 'Bound to'}</p>
        <div className="flex flex-wrap gap-1">
          {parts.map((id) => (
            <button key={id} type="button" className="btn" onClick={() => select(id)}>
              {partRows[id]?.name}
            </button>
          ))}
        </div>
      </div>
      <div className="mt-1 border-t border-line pt-2">
        <p className="cap mb-1">By hand</p>
        {!isVariable(info) || info.writable ? (
          <div className="flex">
            <WriteField key={name} info={info} />
          </div>
        ) : (
          <p className="text-ink2">The simulator lets nobody write it.</p>
        )}
        <Answer name={name} info={info} />
      </div>
      <div className="mt-3 flex gap-1.5">
        <button type="button" className="btn" aria-pressed={pinned} onClick={() => flipPin(name)}>
          {pinned ? 'Unpin' : 'Pin'} <span className="key">Space</span>
        </button>
        <button type="button" className="btn" aria-pressed={muted} onClick={() => flipMute(name)}>
          {muted ? 'Show again' : 'Mute'} <span className="key">Del</span>
        </button>
      </div>
    </div>
  )
}
