'use client'
import { useState } from 'react'
import { point } from '@/core/geometry/contour'
import { type Thing, unionOf } from '@/core/layout/things'
import type { PanelRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { arrayInGrid, arrayRound } from './commands'
import { MOST_MM } from './coordinates'

/** The same again in rows and columns, or round a middle. */
export const ArrayForm = ({ panel, things }: { panel: PanelRow; things: readonly Thing[] }) => {
  const all = unionOf(things.map((t) => t.box))
  const [columns, setColumns] = useState(3)
  const [rows, setRows] = useState(1)
  const [xMm, setX] = useState(Math.ceil(all.maxX - all.minX) + 4)
  const [yMm, setY] = useState(Math.ceil(all.maxY - all.minY) + 4)
  const [count, setCount] = useState(6)
  const [deg, setDeg] = useState(360)
  const [cx, setCx] = useState(panel.widthMm / 2)
  const [cy, setCy] = useState(panel.heightMm / 2)
  const field = (
    label: string,
    unit: string,
    value: number,
    take: (n: number) => void,
    least = -MOST_MM,
    most = MOST_MM,
  ) => <NumberField label={label} unit={unit} value={value} least={least} most={most} take={take} />
  return (
    <details>
      <summary className="cursor-pointer text-[12px] text-ink2">Several of it</summary>
      <div className="flex flex-col gap-1 pt-1.5">
        {field('columns', '', columns, (n) => setColumns(Math.round(n)), 1, 50)}
        {field('rows', '', rows, (n) => setRows(Math.round(n)), 1, 50)}
        {field('every', 'mm across', xMm, setX)}
        {field('every', 'mm down', yMm, setY)}
        <button
          type="button"
          className="btn self-start"
          disabled={rows * columns < 2}
          onClick={() => arrayInGrid(columns, rows, xMm, yMm)}
        >
          Make {columns} × {rows}
        </button>
        <div className="mt-1 border-t border-hair" />
        {field('how many', '', count, (n) => setCount(Math.round(n)), 2, 100)}
        {field('over', '°', deg, setDeg, -360, 360)}
        {field('round x', 'mm', cx, setCx)}
        {field('round y', 'mm', cy, setCy)}
        <button
          type="button"
          className="btn self-start"
          onClick={() => arrayRound(count, deg, point(cx, cy))}
        >
          Make {count} in a circle
        </button>
      </div>
    </details>
  )
}
