'use client'
import { useCallback, useEffect, useMemo, useSyncExternalStore } from 'react'
import { controlKind } from '@/core/aspects/aspects'
import { isControl, isIndicator } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { Agreement } from '@/core/engine/agreement'
import { layerSetsOf, layersOf, partsOf, rowsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { indicatorUi } from '../aspects/aspects'
import { PanelDrawing } from '../drawing/panel-drawing'
import { PanelChoice } from '../frame/panel-choice'
import { useChosenPanel } from '../live/chosen-panel'
import { sayToHub, select, watchAgreements } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { agreements, says, useStore } from '../live/store'
import { NoPanel } from '../panel/no-panel'
import { Mark, type MarkShape } from '../primitives/mark'

/** A panel that can be worked on screen, beside what the craft says of each part. */
export const Mirror = () => {
  const rig = useStore((s) => s.rig)
  const selected = useStore((s) => s.selected)
  const panel = useChosenPanel()
  useEffect(() => watchAgreements(), [])
  if (!panel) return <NoPanel />
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_272px] xl:grid-cols-[minmax(0,1fr)_344px] 2xl:grid-cols-[minmax(0,1fr)_460px]">
      <section aria-label="Panel" className="drawing-sheet flex min-h-0 flex-col">
        <div className="flex items-baseline gap-2 px-3.5 pt-2.5">
          <h2>
            <PanelChoice panel={panel} />
          </h2>
          <span className="cap min-w-0 truncate">
            {formatNumber(panel.widthMm)} × {formatNumber(panel.heightMm)} mm · work the controls with mouse
            or keys
          </span>
        </div>
        <div className="min-h-0 flex-1 p-2.5 pl-6">
          <PanelDrawing rig={rig} panel={panel} selected={selected} operable measured mostScale={6} />
        </div>
      </section>
      <div className="flex min-h-0 flex-col border-l border-line">
        <CraftSays list={partsOf(rig, panel.id)} selected={selected} />
        <ActiveLayers />
        <Disagreements />
      </div>
    </div>
  )
}

const showsLines = (list: readonly PartRow[]): boolean =>
  list.some((p) => partKind(p.kind)?.aspects.some((a) => isIndicator(a) && indicatorUi(a.kind).showsLines))

const CraftSays = ({ list, selected }: { list: readonly PartRow[]; selected: string | null }) => (
  <section aria-label="Craft says" className="min-h-0 flex-1 overflow-y-auto">
    <div className="flex items-baseline gap-2 px-3.5 pt-2.5 pb-2">
      <h2>Craft says</h2>
      <Tally list={list} />
    </div>
    <table className="w-full table-fixed border-collapse">
      <colgroup>
        <col />
        {showsLines(list) ? (
          <>
            <col className="w-[60px] xl:w-[100px] 2xl:w-[110px]" />
            <col className="w-[90px] 2xl:w-[150px]" />
          </>
        ) : (
          <>
            <col className="w-[60px] xl:w-[66px] 2xl:w-[110px]" />
            <col className="w-[72px] xl:w-[76px] 2xl:w-[150px]" />
          </>
        )}
        <col className="w-[28px]" />
      </colgroup>
      <thead className="sr-only">
        <tr>
          <th>Part</th>
          <th>Panel</th>
          <th>Craft</th>
          <th>Agreement</th>
        </tr>
      </thead>
      <tbody>
        {list.map((p) => (
          <CraftRow key={p.id} part={p} selected={p.id === selected} />
        ))}
      </tbody>
    </table>
  </section>
)

/** Which layer of each set is active, as the panel's own lamps and cursors show it. */
const ActiveLayers = () => {
  const rig = useStore((s) => s.rig)
  const live = useStore((s) => s.layers)
  const sets = layerSetsOf(rig)
  if (sets.length === 0) return null
  return (
    <section
      aria-label="Active layers"
      className="max-h-[40%] overflow-y-auto border-t border-line px-3.5 py-1.5"
    >
      {sets.map((set) => (
        <button
          key={set.id}
          type="button"
          className="flex min-h-6 w-full items-start gap-2 py-0.5 text-left text-[12px] hover:text-accent"
          title="Layers (L)"
          onClick={() => useStore.setState({ layersOpen: true })}
        >
          <span className="shrink-0 text-ink2">{set.name}</span>
          <span className="flex min-w-0 flex-1 flex-wrap justify-end gap-1">
            {layersOf(rig, set.id).map((layer) => {
              const active = live[set.id]?.active === layer.id
              return (
                <span
                  key={layer.id}
                  data-layer={layer.name}
                  data-active={active}
                  className={`mono truncate border px-1 text-[11px] leading-[16px] ${active ? 'border-ink bg-ink text-sheet' : 'border-line text-ink2'}`}
                >
                  {layer.name}
                </span>
              )
            })}
          </span>
        </button>
      ))}
    </section>
  )
}

/** Controls anywhere in the rig that stand otherwise than the craft says, and the way to settle each. */
const Disagreements = () => {
  const rig = useStore((s) => s.rig)
  const ids = useMemo(
    () =>
      rowsOf(rig, 'part')
        .filter((p) => partKind(p.kind)?.aspects.some((a) => isControl(a) && controlKind(a.kind).isReadable))
        .map((p) => p.id),
    [rig],
  )
  const differing = useDiffering(ids)
  if (differing.length === 0) return null
  const settle = (partIds: readonly string[]) => sayToHub({ say: 'settle', partIds })
  return (
    <section
      aria-label="Disagreements"
      className="max-h-[168px] overflow-y-auto border-t border-line px-3.5 py-1.5"
    >
      <div className="flex items-center gap-2">
        <b className="flex-1 text-[12px]">
          {differing.length === 1 ? '1 control differs' : `${differing.length} controls differ`}
        </b>
        <button
          type="button"
          className="btn"
          title="The panel leads: tell the craft where all of these stand"
          onClick={() => settle(differing)}
        >
          Tell the craft all
        </button>
      </div>
      <ul>
        {differing.map((id) => (
          <li key={id} className="flex min-h-7 items-center gap-2 text-[12px]">
            <button
              type="button"
              className="min-w-0 flex-1 py-0.5 text-left leading-[15px]"
              onClick={() => select(id)}
            >
              {rig.part[id]?.name}{' '}
              <span className="text-ink2">{rig.panel[rig.part[id]?.panelId ?? '']?.name}</span>
            </button>
            <button type="button" className="btn" onClick={() => settle([id])}>
              Tell the craft
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Which of the parts differ now. */
const useDiffering = (ids: readonly string[]): readonly string[] => {
  const key = useSyncExternalStore(
    useCallback(
      (told) => {
        const ends = ids.map((id) => agreements.subscribe(id, told))
        return () => {
          for (const end of ends) end()
        }
      },
      [ids],
    ),
    () => ids.filter((id) => agreements.get(id) === false).join(' '),
    () => '',
  )
  return key === '' ? [] : key.split(' ')
}

const Tally = ({ list }: { list: readonly PartRow[] }) => {
  const lives = list.map((p) => p.id)
  const agree = useCount(lives, true)
  const differ = useCount(lives, false)
  const wait = useCount(lives, 'waits')
  return (
    <span className="cap whitespace-nowrap">
      {agree} {agree === 1 ? 'agrees' : 'agree'} · {differ} {differ === 1 ? 'differs' : 'differ'}
      {wait > 0 && ` · ${wait} ${wait === 1 ? 'waits' : 'wait'}`}
    </span>
  )
}

/** How many parts agree, differ, or wait for their board's word now. */
const useCount = (ids: readonly string[], what: boolean | 'waits'): number => {
  const key = ids.join(' ')
  return useSyncExternalStore(
    useCallback(
      (told) => {
        const ends = ids.map((id) => agreements.subscribe(id, told))
        return () => {
          for (const end of ends) end()
        }
      },
      [key],
    ),
    () => ids.filter((id) => agreements.get(id) === what).length,
    () => 0,
  )
}

const agreementMark = (live: Agreement | undefined): { shape: MarkShape; words: string } => {
  if (live?.waitsFor) return { shape: 'wait', words: `waits for ${live.waitsFor} to confirm` }
  if (live?.agrees === true) return { shape: 'ok', words: 'agrees' }
  return live?.agrees === false
    ? { shape: 'fault', words: 'differs' }
    : { shape: 'none', words: 'nothing to compare' }
}

const CraftRow = ({ part, selected }: { part: PartRow; selected: boolean }) => {
  const live = useKeyed(says, part.id)
  const differs = live?.agrees === false
  const waits = live?.waitsFor ?? null
  const cell = `h-7 border-t border-hair px-1.5 ${selected ? 'bg-accent-bg' : ''} ${differs ? 'text-fault' : ''}`
  return (
    <tr
      data-row={part.id}
      data-agrees={String(live?.agrees ?? 'unknown')}
      className="cursor-pointer"
      onClick={() => select(part.id)}
    >
      <td className={`${cell} pl-3.5`}>
        <button
          type="button"
          className={`w-full py-0.5 text-left leading-[15px] break-words ${selected ? 'font-bold' : ''}`}
          onClick={() => select(part.id)}
        >
          {part.name}
        </button>
      </td>
      <td className={`${cell} mono truncate text-[12px]`} title={live?.panel}>
        {live?.panel ?? '–'}
      </td>
      <td
        className={`${cell} mono truncate text-[12px] ${waits ? 'text-warn' : ''}`}
        title={waits ? `Told, but ${waits} has not said yet that it shows it` : live?.craft}
      >
        {waits ? `waits: ${waits}` : (live?.craft ?? '–')}
      </td>
      <td className={`${cell} pr-2.5 text-right`}>
        <Mark {...agreementMark(live)} />
      </td>
    </tr>
  )
}
