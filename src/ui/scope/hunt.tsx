import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react'
import type { HuntGuess } from '@/core/live/feed'
import { companionName, companionsOf } from '@/core/scope/companions'
import { formatValues } from '@/core/signal/format'
import { sayToHub, select } from '../live/connection'
import { notify, useStore } from '../live/store'
import { DottedName } from '../primitives/dotted-name'
import { beginHunt, endHunt } from './hunt-acts'
import { lookAt, nextGuess, placeOfGuess, useHunt } from './hunt-store'
import { HuntTrace, SHOWN_MS, xOf } from './hunt-trace'
import { huntedAspect, makePath } from './make-path'
import { useScope } from './scope-store'
import { usedValues } from './used-values'

const ROW_PX = 74
/** A name, its trace, what it went through. */
const COLUMNS = 'grid grid-cols-[minmax(230px,32%)_minmax(0,1fr)_150px]'

const positionWords = (
  partKindPositions: readonly { id: string; label?: string | undefined }[],
  id: string | null,
) => partKindPositions.find((p) => p.id === id)?.label ?? id

/** What the builder is to do next, in one sentence, and what that is about. */
const sentence = (
  part: string | null,
  /** Marks of the builder's own. */
  byHand: number,
  guesses: number,
): readonly [string, string] => {
  if (part !== null && byHand === 0)
    return [
      'Now work the same control in the simulator. Go through its positions once.',
      guesses === 0
        ? `${part} was touched on the panel`
        : `${part} was touched on the panel · Enter when the first guess is right`,
    ]
  const about = part === null ? 'Hunt' : `For ${part}`
  if (byHand === 0) return ['Touch a control on the panel, or work one in the simulator and mark it.', about]
  if (byHand < 3) return ['Once more: work the control, and mark it.', about]
  return ['Enter makes the path. The next guess is one key away.', about]
}

/** Finds which variable belongs to a control, by when it moves. */
export const Hunt = () => {
  const { marks, partId, restless, guesses, chosen } = useHunt()
  const at = placeOfGuess({ guesses, chosen })
  const rig = useStore((s) => s.rig)
  const hub = useStore((s) => s.hub)
  const catalogue = useStore((s) => s.catalogue.catalogue)
  const surface = useRef<HTMLDivElement>(null)
  const strip = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(480)
  const part = rig.part[partId ?? '']
  const aspect = huntedAspect(part)
  const positions = aspect?.kind === 'positions' ? aspect.positions : []
  const guess = guesses[at]
  useEffect(() => {
    if (hub !== 'up') return
    beginHunt()
    surface.current?.focus()
    return endHunt
  }, [hub])
  useEffect(() => {
    const there = strip.current
    if (!there) return
    const watch = new ResizeObserver(() => setWidth(there.clientWidth))
    watch.observe(there)
    return () => watch.disconnect()
  }, [])
  // Whoever chooses a part elsewhere, by the palette or in the strip, means that one.
  const selected = useStore((s) => s.selected)
  useEffect(() => {
    if (
      selected !== null &&
      selected !== useHunt.getState().partId &&
      huntedAspect(useStore.getState().rig.part[selected])
    )
      sayToHub({ say: 'hunt part', partId: selected })
  }, [selected])
  const name = guess ? catalogue.variables[guess.row]?.name : undefined
  const rows = guesses.map((g) => g.row).join()
  useEffect(() => {
    useScope.setState({ shown: rows === '' ? [] : rows.split(',').map(Number) })
  }, [rows])
  useEffect(() => {
    if (name !== undefined) useScope.setState({ chosen: name })
  }, [name])
  const companions = useMemo(
    () => (part ? companionsOf(rig, part).map((c) => companionName(part, c)) : []),
    [rig, part],
  )
  const make = () => {
    const info = catalogue.variables[guess?.row ?? -1]
    if (!guess || !info) return
    if (!part) {
      notify('Touch a control on the panel first, or choose one: a path begins at a part.')
      return
    }
    const used = usedValues(positions, guess, useHunt.getState().values)
    const made = makePath(rig, part, info, used, guess.levels)
    if ('problem' in made) {
      notify(`No path was made: ${made.problem}.`)
      return
    }
    const shown = made.also.length > 0 ? `, and ${made.also.join(' and ')} shows it` : ''
    notify(`${part.name} now sets ${info.name}${shown}.`, 'plain')
    select(part.id)
  }
  const keyDown = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget) return
    if (e.key === ' ') sayToHub({ say: 'hunt mark' })
    else if (e.key === 'Backspace') sayToHub({ say: 'hunt unmark' })
    else if (e.key === 'Enter') make()
    else if (e.key === 'ArrowDown') nextGuess(1)
    else if (e.key === 'ArrowUp') nextGuess(-1)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const [words, about] = sentence(part?.name ?? null, marks.filter((m) => m.byHand).length, guesses.length)
  return (
    <div
      ref={surface}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: its keys mark and choose
      tabIndex={0}
      role="application"
      aria-label="Hunt"
      className="flex min-h-0 flex-1 flex-col outline-offset-[-1px] focus-visible:outline-1"
      onKeyDown={keyDown}
    >
      <div className="flex items-center gap-4 border-b border-line px-3 py-2.5">
        <div className="min-w-0 flex-1">
          <p className="cap">{about}</p>
          <p role="status" className="text-[18px] leading-6 font-bold">
            {words}
          </p>
          <p className="text-[12px] text-ink2">
            Space marks a moment · what your hand does on the panel is marked by itself · Backspace takes a
            mark back
          </p>
        </div>
        {guess && (
          <div className="text-right">
            <p className="mono text-[26px] leading-8">
              {Math.min(99, Math.round((guesses[0]?.sure ?? 0) * 100))} %
            </p>
            <p className="cap">Sure of the first</p>
          </div>
        )}
        <div className="flex flex-col gap-1.5">
          <button
            type="button"
            className="btn"
            onClick={() => {
              sayToHub({ say: 'hunt mark' })
              surface.current?.focus()
            }}
          >
            Mark <span className="key">Space</span>
          </button>
          <button
            type="button"
            className="btn"
            onClick={() => {
              beginHunt()
              surface.current?.focus()
            }}
          >
            Begin anew
          </button>
        </div>
      </div>
      <div className={`${COLUMNS} border-b border-line`}>
        <span className="cap px-3 py-1.5">
          {restless > 0 ? `${restless} move by themselves` : 'What moved'}
        </span>
        <div ref={strip} className="relative h-[26px]">
          {marks
            .filter((m) => m.ago < SHOWN_MS)
            .map((m, i) => (
              <span
                key={m.ago}
                className="cap absolute top-1.5 -translate-x-1/2 whitespace-nowrap text-warn"
                style={{ left: xOf(m.ago, width) }}
              >
                {positionWords(positions, m.position) ?? i + 1}
              </span>
            ))}
        </div>
        <span className="cap px-3 py-1.5 text-right">From … to</span>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        {guesses.length === 0 && (
          <p className="p-3 text-ink2">
            {marks.length === 0
              ? 'Nothing is marked yet. Clavik listens, and learns what moves by itself meanwhile.'
              : 'Nothing that stood still has moved at a mark. Work the control again, and mark it just then.'}
          </p>
        )}
        {guesses.map((g, i) => (
          <GuessRow
            key={`${g.row} ${g.partner}`}
            guess={g}
            rank={i + 1}
            on={i === at}
            width={width}
            choose={() => {
              lookAt(g.row)
              surface.current?.focus()
            }}
          />
        ))}
      </div>
      {guess && (
        <div className="flex items-center gap-2 border-t border-line px-3 py-2">
          <PartChoice />
          <button type="button" className="btn" data-strong="true" onClick={make}>
            Make the path <span className="key">Enter</span>
          </button>
          <button
            type="button"
            className="btn"
            disabled={at + 1 >= guesses.length}
            onClick={() => nextGuess(1)}
          >
            Next guess <span className="key">↓</span>
          </button>
          {companions.length > 0 && (
            <span className="truncate text-[12px] text-ink2">{`with ${companions.join(', ')} to show it`}</span>
          )}
          {positions.length > 0 && aspect?.kind === 'positions' && !aspect.momentary && (
            <Values positions={positions} guess={guess} />
          )}
        </div>
      )}
    </div>
  )
}

const GuessRow = ({
  guess,
  rank,
  on,
  width,
  choose,
}: {
  guess: HuntGuess
  rank: number
  on: boolean
  width: number
  choose: () => void
}) => {
  const marks = useHunt((s) => s.marks)
  const catalogue = useStore((s) => s.catalogue.catalogue)
  const info = catalogue.variables[guess.row]
  const partner = guess.partner === null ? null : catalogue.variables[guess.partner]
  if (!info) return null
  const levels = guess.levels
  const words =
    info.type === 'text'
      ? 'texts'
      : levels.length <= 4
        ? formatValues(levels, info, ' · ')
        : formatValues([Math.min(...levels), Math.max(...levels)], info, ' … ')
  return (
    <button
      type="button"
      aria-pressed={on}
      data-guess={info.name}
      className={`${COLUMNS} w-full border-b border-line text-left ${on ? 'bg-accent-bg' : 'hover:bg-raised'}`}
      style={{ height: ROW_PX }}
      onClick={choose}
    >
      <span className="min-w-0 border-r border-line px-3 py-1.5">
        <span className="flex items-center gap-2">
          <span
            className={`grid h-[18px] w-[18px] shrink-0 place-items-center border text-[11px] ${on ? 'border-ink bg-ink text-sheet' : 'border-ink2'}`}
          >
            {rank}
          </span>
          <span className="mono min-w-0 text-[12.5px] leading-[15px] font-bold" title={info.name}>
            <DottedName name={info.name} />
          </span>
        </span>
        <span className="mt-0.5 line-clamp-2 text-[11.5px] leading-[15px] text-ink2">
          {partner && <span className="mono">with {partner.name}: </span>}
          {guess.words}
        </span>
      </span>
      <HuntTrace guess={guess} marks={marks} width={width} height={ROW_PX - 1} strong={on} />
      <span className="px-3 py-1.5 text-right">
        <span className="mono line-clamp-2 text-[12.5px] leading-[16px]">{words}</span>
        <span className="cap">{guess.levels.length > 1 ? `${guess.levels.length} levels` : ''}</span>
      </span>
    </button>
  )
}

/** The part for which is hunted: the one that was touched, or one that is chosen here. */
const PartChoice = () => {
  const partId = useHunt((s) => s.partId)
  const rig = useStore((s) => s.rig)
  const controls = Object.values(rig.part)
    .filter((p) => huntedAspect(p) !== null)
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
  return (
    <select
      aria-label="Part"
      className="h-[24px] max-w-[190px] py-0 text-[12px]"
      value={partId ?? ''}
      onChange={(e) => sayToHub({ say: 'hunt part', partId: e.target.value === '' ? null : e.target.value })}
    >
      <option value="">touch a control, or choose …</option>
      {controls.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  )
}

/** What each position of the part stands for: as it was seen, or in the order of the levels; by hand where that is wrong. */
const Values = ({
  positions,
  guess,
}: {
  positions: readonly { id: string; label?: string | undefined }[]
  guess: HuntGuess
}) => {
  const values = useHunt((s) => s.values)
  const used = usedValues(positions, guess, values)
  const levels = [...guess.levels].sort((a, b) => a - b)
  return (
    <div className="ml-auto flex flex-wrap items-center justify-end gap-x-3 gap-y-1">
      {positions.map((p) => (
        <label key={p.id} className="flex items-center gap-1 text-[12px]">
          <span className="text-ink2">{p.label ?? p.id}</span>
          <select
            className="mono h-[24px] py-0 text-[12px]"
            value={used?.[p.id] ?? ''}
            onChange={(e) =>
              useHunt.setState({ values: { ...(used ?? {}), ...values, [p.id]: Number(e.target.value) } })
            }
          >
            {used === null && <option value="">?</option>}
            {levels.map((l) => (
              <option key={l} value={l}>
                {l}
              </option>
            ))}
          </select>
        </label>
      ))}
      <button
        type="button"
        className="btn"
        disabled={used === null}
        onClick={() => {
          const list = positions.map((p) => used?.[p.id] as number).reverse()
          useHunt.setState({ values: Object.fromEntries(positions.map((p, i) => [p.id, list[i] as number])) })
        }}
      >
        Turn round
      </button>
    </div>
  )
}
