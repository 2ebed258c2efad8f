'use client'
import { useCallback, useState, useSyncExternalStore } from 'react'
import { panelsOf, partsOf } from '@/core/rig/rig'
import type { PartRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { PanelDrawing } from '../drawing/panel-drawing'
import { select } from '../live/connection'
import { useKeyed } from '../live/keyed-values'
import { parts, useStore } from '../live/store'
import { Mark } from '../primitives/mark'

/** A panel that can be worked on screen, beside what the craft says of each part. */
export const Mirror = () => {
  const rig = useStore((s) => s.rig)
  const selected = useStore((s) => s.selected)
  const hub = useStore((s) => s.hub)
  const panels = panelsOf(rig)
  const ofSelected = selected === null ? undefined : rig.part[selected]?.panelId
  const [chosen, setChosen] = useState<string | null>(null)
  const panel = rig.panel[chosen ?? ''] ?? rig.panel[ofSelected ?? ''] ?? panels[0]
  if (!panel)
    return (
      <p className="p-4 text-ink2">{hub === 'up' ? 'This rig has no panel yet.' : 'Waiting for the rig …'}</p>
    )
  return (
    <div
      className="grid h-full grid-cols-[minmax(0,1fr)_272px] xl:grid-cols-[minmax(0,1fr)_312px]"
      style={{ opacity: hub === 'down' ? 0.55 : 1 }}
    >
      <section aria-label="Panel" className="drawing-sheet flex min-h-0 flex-col">
        <div className="flex items-baseline gap-2 px-3.5 pt-2.5">
          <h2>
            {panels.length > 1 ? (
              <select aria-label="Panel" value={panel.id} onChange={(e) => setChosen(e.target.value)}>
                {panels.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
            ) : (
              'Panel'
            )}
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
      <CraftSays list={partsOf(rig, panel.id)} selected={selected} />
    </div>
  )
}

const CraftSays = ({ list, selected }: { list: readonly PartRow[]; selected: string | null }) => (
  <section aria-label="Craft says" className="min-h-0 overflow-y-auto border-l border-line">
    <div className="flex items-baseline gap-2 px-3.5 pt-2.5 pb-2">
      <h2>Craft says</h2>
      <Tally list={list} />
    </div>
    <table className="w-full table-fixed border-collapse">
      <colgroup>
        <col />
        <col className="w-[86px]" />
        <col className="w-[58px]" />
        <col className="w-[30px]" />
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

const Tally = ({ list }: { list: readonly PartRow[] }) => {
  const lives = list.map((p) => p.id)
  const agree = useCount(lives, true)
  const differ = useCount(lives, false)
  return (
    <span className="cap whitespace-nowrap">
      {agree} agree · {differ} {differ === 1 ? 'differs' : 'differ'}
    </span>
  )
}

/** How many parts agree, or differ, now. */
const useCount = (ids: readonly string[], agrees: boolean): number => {
  const key = ids.join(' ')
  return useSyncExternalStore(
    useCallback(
      (told) => {
        const ends = ids.map((id) => parts.subscribe(id, told))
        return () => {
          for (const end of ends) end()
        }
      },
      [key],
    ),
    () => ids.filter((id) => parts.get(id)?.agrees === agrees).length,
    () => 0,
  )
}

const CraftRow = ({ part, selected }: { part: PartRow; selected: boolean }) => {
  const live = useKeyed(parts, part.id)
  const differs = live?.agrees === false
  const cell = `h-7 border-t border-hair px-1.5 ${selected ? 'bg-accent-bg' : ''} ${differs ? 'text-fault' : ''}`
  return (
    <tr
      data-row={part.id}
      data-agrees={String(live?.agrees ?? 'unknown')}
      className="cursor-pointer"
      onClick={() => select(part.id)}
    >
      <td className={`${cell} truncate pl-3.5`}>
        <button
          type="button"
          className={`w-full truncate text-left ${selected ? 'font-bold' : ''}`}
          onClick={() => select(part.id)}
        >
          {part.name}
        </button>
      </td>
      <td className={`${cell} mono truncate text-[12px]`}>{live?.panel ?? '–'}</td>
      <td className={`${cell} mono truncate text-[12px]`}>{live?.craft ?? '–'}</td>
      <td className={`${cell} pr-2.5 text-right`}>
        <Mark
          shape={live?.agrees === true ? 'ok' : differs ? 'fault' : 'none'}
          words={live?.agrees === true ? 'agrees' : differs ? 'differs' : 'nothing to compare'}
        />
      </td>
    </tr>
  )
}
