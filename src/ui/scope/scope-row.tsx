import { memo } from 'react'
import { infoOf } from '@/core/scope/find'
import { formatValue } from '@/core/signal/format'
import { useKeyed } from '../live/keyed-values'
import { useStore } from '../live/store'
import { Mark } from '../primitives/mark'
import { Matched } from '../primitives/matched'
import { playedOf, useRecordings } from '../recordings/recordings-store'
import { agoWords } from './ago'
import { placeOf, qualityOf } from './quality'
import { flipPin, scopeLive, useScope } from './scope-store'
import { TraceLine } from './trace-line'

export const ROW_PX = 26
export const GRID =
  'grid grid-cols-[22px_20px_minmax(150px,1fr)_120px_50px_60px_84px] items-center gap-x-2 px-3 xl:grid-cols-[22px_20px_minmax(214px,6fr)_104px_54px_60px_72px_104px_minmax(90px,5fr)]'

/** A number without its unit, which has a column of its own. */
const bare = (value: number | string | null, info: ReturnType<typeof infoOf>): string => {
  if (!info || !('writable' in info)) return ''
  const { unit } = info
  return formatValue(value, unit === 'ratio' || unit === 'MHz' ? info : { ...info, unit: null }).replace(
    ' MHz',
    '',
  )
}

/** One variable or event of the table; drawn anew only when something of it is another. */
export const ScopeRow = memo(function ScopeRow({
  row,
  top,
  now,
  words,
  parts,
  choose,
}: {
  row: number
  top: number
  /** The page's clock, as it ticks for the column of times. */
  now: number
  words: readonly string[]
  /** Names of parts that are bound to it. */
  parts: string
  choose: (name: string, write: boolean) => void
}) {
  const live = useKeyed(scopeLive, String(row))
  const catalogue = useStore((s) => s.catalogue.catalogue)
  const places = useStore((s) => s.sources)
  const status = useStore((s) => s.status)
  const playedSources = useRecordings(playedOf)
  const info = infoOf(catalogue, row)
  const name = info?.name ?? ''
  const chosen = useScope((s) => s.chosen === name)
  const pinned = useScope((s) => s.pinned.includes(name))
  if (!info) return null
  const isEvent = row >= catalogue.variables.length
  const quality = qualityOf(
    placeOf(places, row, catalogue.variables.length),
    status,
    live?.value ?? null,
    isEvent,
    playedSources,
  )
  const old = quality.shape !== 'ok'
  const fresh = live?.at != null && now - live.at < 1000
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list itself has the keys
    <div
      role="option"
      tabIndex={-1}
      id={`scope-row-${row}`}
      aria-selected={chosen}
      data-name={name}
      className={`${GRID} absolute w-full cursor-pointer border-b border-hair ${chosen ? 'bg-accent-bg' : 'hover:bg-raised'}`}
      style={{ top, height: ROW_PX }}
      onClick={() => choose(name, false)}
      onDoubleClick={() => choose(name, true)}
    >
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: Space does the same in the list */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a place for the mouse within its row */}
      <span
        data-pin={pinned}
        title={pinned ? 'Unpin' : 'Pin'}
        className="grid h-5 w-5 place-items-center"
        onClick={(e) => {
          e.stopPropagation()
          flipPin(name)
        }}
      >
        <svg
          width={11}
          height={11}
          viewBox="0 0 11 11"
          role="img"
          aria-label={pinned ? 'pinned' : 'not pinned'}
        >
          <rect
            x={1.5}
            y={1.5}
            width={8}
            height={8}
            fill={pinned ? 'var(--accent)' : 'none'}
            stroke={pinned ? 'var(--accent)' : 'var(--line)'}
          />
        </svg>
      </span>
      {/* What is live has no mark: so the others stand out. */}
      <span title={quality.words}>
        {quality.shape !== 'ok' && <Mark shape={quality.shape} words={quality.words} />}
      </span>
      <span className="flex min-w-0 items-baseline gap-2" title={info.description || undefined}>
        <span className="mono truncate text-[12.5px]">
          <Matched text={name} words={words} />
        </span>
        {info.called && (
          <span className="truncate text-[12.5px] font-bold">
            <Matched text={info.called} words={words} />
          </span>
        )}
        {info.description === '' ? (
          <span className="cap shrink-0">not described</span>
        ) : (
          <span className="hidden truncate text-[12px] text-ink3 2xl:block">
            <Matched text={info.description} words={words} />
          </span>
        )}
      </span>
      <span
        className={`mono truncate text-right text-[12.5px] ${isEvent || old ? 'text-ink3' : fresh ? 'text-live' : ''}`}
      >
        {isEvent ? 'event' : bare(live?.value ?? null, info)}
      </span>
      <span className="mono truncate text-[12px] text-ink2">
        {'writable' in info && info.unit !== 'ratio' ? (info.unit ?? '') : ''}
      </span>
      <span className="mono text-right text-[12px] text-ink2">
        {live?.at == null ? '–' : agoWords(now - live.at)}
      </span>
      <span className="mono text-right text-[12px]">{live ? live.changes : ''}</span>
      {/* Where there is little room, name and value go before the rest. */}
      <span className="hidden xl:block">
        <TraceLine trace={live?.trace ?? []} width={104} height={20} />
      </span>
      <span className="hidden truncate text-[12px] xl:block" title={parts}>
        {parts}
      </span>
    </div>
  )
})
