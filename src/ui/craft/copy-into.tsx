'use client'
import { useMemo, useState } from 'react'
import type { BindingSettings } from '@/core/rig/binding'
import { allNamesIn, withNewNames } from '@/core/rig/binding-change'
import { copiedInto, craftSetsOf, isMeant } from '@/core/rig/craft-sets'
import { likelyEvents, likelyNames } from '@/core/rig/likely-names'
import { bindingsOf, panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { CraftSetRow } from '@/core/rig/rows'
import { edit } from '../live/edits'
import { useStore } from '../live/store'

const LEAVE = ''
const KEEP = '='
/** Without the condition in which it stands. */
const WITHOUT = '-'

/** Begins a set, or goes on with it, by copying what another has, with names that are proposed. */
export const CopyInto = ({ set, rig, close }: { set: CraftSetRow; rig: Rig; close: () => void }) => {
  const catalogue = useStore((s) => s.catalogue)
  const sources = useStore((s) => s.sources)
  const [from, setFrom] = useState('')
  const [panel, setPanel] = useState(panelsOf(rig)[0]?.id ?? '')
  const [to, setTo] = useState(
    () =>
      // What the set is for is where its names are from, if it is there.
      (sources.find((s) => set.settings.patterns.some((p) => isMeant(p, s.craft))) ?? sources.at(-1))?.id ??
      '',
  )
  const [chosen, setChosen] = useState<ReadonlyMap<string, string>>(new Map())
  const partIds = partsOf(rig, panel).map((p) => p.id)
  const bindings = partIds
    .flatMap((id) => bindingsOf(rig, id))
    .filter((b) => (b.settings.craftSet ?? '') === from)
  const place = sources.find((s) => s.id === to)
  const { variables, events } = catalogue.catalogue
  const isName = (n: string) => catalogue.variable.has(n) || catalogue.event.has(n)
  const isNameIn = (b: (typeof bindings)[number]) => allNamesIn({ ...b.settings, onlyWhile: null }, isName)
  const needed = new Set(bindings.flatMap(isNameIn))
  const names = [...new Set(bindings.flatMap((b) => allNamesIn(b.settings, isName)))].sort()
  const key = names.join(' ')
  const offers = useMemo(() => {
    const [vFrom, vUntil] = place?.variables ?? [0, 0]
    const [eFrom, eUntil] = place?.events ?? [0, 0]
    const theirs = variables.slice(vFrom, vUntil)
    const theirEvents = events.slice(eFrom, eUntil)
    const own = new Set(theirs.map((v) => v.name))
    return new Map(
      names.map((name) => {
        const variable = variables[catalogue.variable.get(name) ?? -1]
        const event = events[catalogue.event.get(name) ?? -1]
        const likely = own.has(name)
          ? []
          : variable
            ? likelyNames(variable, theirs)
            : event
              ? likelyEvents(event, theirEvents)
              : []
        return [
          name,
          {
            isOwn: own.has(name),
            likely,
            all: variable ? theirs.map((v) => v.name) : theirEvents.map((e) => e.name),
          },
        ] as const
      }),
    )
  }, [key, to, catalogue])
  const meant = (name: string): string => {
    const offer = offers.get(name)
    // What is only a condition can be done without; what is shown or told cannot.
    const none = needed.has(name) ? LEAVE : WITHOUT
    return chosen.get(name) ?? (offer?.isOwn ? KEEP : (offer?.likely[0]?.name ?? none))
  }
  const map = new Map(
    names.flatMap((n) => ([LEAVE, KEEP, WITHOUT].includes(meant(n)) ? [] : [[n, meant(n)] as const])),
  )
  const isLeft = (n: string) => meant(n) === LEAVE
  const ready = bindings.filter((b) => !allNamesIn(b.settings, isName).some(isLeft))
  const lacks = names.filter(isLeft)
  const withoutLost = (s: BindingSettings): BindingSettings => {
    const { onlyWhile } = s
    const words = onlyWhile === null ? [] : (onlyWhile.match(/[\p{L}_][\p{L}\p{N}_.]*/gu) ?? [])
    return words.some((w) => isName(w) && meant(w) === WITHOUT) ? { ...s, onlyWhile: null } : s
  }
  const copy = () => {
    const left = new Set(bindings.filter((b) => !ready.includes(b)).map((b) => JSON.stringify(b.settings)))
    const diff = copiedInto(
      rig,
      set.id,
      from === '' ? null : from,
      partIds,
      (s) => (left.has(JSON.stringify(s)) ? null : withNewNames(withoutLost(s), map)),
      () => crypto.randomUUID(),
    )
    edit(`Copied ${diff.length} bindings for ${set.name}`, diff)
    close()
  }
  return (
    <div className="mt-2 border-2 border-accent p-2">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <span className="text-ink2">what is</span>
        <select
          aria-label="Copied from"
          className="h-[24px] py-0"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        >
          <option value="">for every craft</option>
          {craftSetsOf(rig)
            .filter((s) => s.id !== set.id)
            .map((s) => (
              <option key={s.id} value={s.id}>
                for {s.name}
              </option>
            ))}
        </select>
        <span className="text-ink2">on</span>
        <select
          aria-label="Panel to copy"
          className="h-[24px] py-0"
          value={panel}
          onChange={(e) => setPanel(e.target.value)}
        >
          {panelsOf(rig).map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
        <span className="text-ink2">with names of</span>
        <select
          aria-label="Source of the new names"
          className="h-[24px] py-0"
          value={to}
          onChange={(e) => setTo(e.target.value)}
        >
          {sources.map((s) => (
            <option key={s.id} value={s.id}>
              {s.craft || s.name}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn ml-auto"
          data-strong="true"
          disabled={ready.length === 0}
          onClick={copy}
        >
          Copy {ready.length} of {bindings.length}
        </button>
      </div>
      <ul aria-label="Names for the new craft" className="max-h-[220px] overflow-y-auto">
        {names.map((name) => {
          const offer = offers.get(name)
          const likely = offer?.likely ?? []
          const rest = (offer?.all ?? []).filter((n) => !likely.some((l) => l.name === n))
          return (
            <li
              key={name}
              className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-center gap-3 border-t border-hair py-0.5"
            >
              <span className="mono truncate">{name}</span>
              <select
                aria-label={`Name for ${name}`}
                className={`mono h-[24px] py-0 ${isLeft(name) ? 'text-warn' : ''}`}
                value={meant(name)}
                onChange={(e) => setChosen(new Map(chosen).set(name, e.target.value))}
              >
                <option value={LEAVE}>lacks it: leave its bindings out</option>
                {!needed.has(name) && <option value={WITHOUT}>lacks it: without that condition</option>}
                <option value={KEEP}>stays {name}</option>
                {likely.map((l) => (
                  <option key={l.name} value={l.name}>
                    {l.name} · {Math.round(l.likeness * 100)} % alike
                  </option>
                ))}
                {rest.map((n) => (
                  <option key={n} value={n}>
                    {n}
                  </option>
                ))}
              </select>
            </li>
          )
        })}
      </ul>
      {lacks.length > 0 && (
        <p className="pt-1 text-warn">
          {lacks.length === 1 ? 'One name has' : `${lacks.length} names have`} nothing like it there; a hunt
          in Scope finds what is missing once the copies are made.
        </p>
      )}
    </div>
  )
}
