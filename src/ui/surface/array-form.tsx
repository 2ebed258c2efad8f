'use client'
import { useState } from 'react'
import { point } from '@/core/geometry/contour'
import { type Surface, type Thing, unionOf } from '@/core/layout/things'
import { NumberField } from '../editors/number-field'
import { arrayInGrid, arrayRound } from './commands'
import { MOST_AWAY } from './coordinates'

/** The same again in rows and columns, or round a middle. */
export const ArrayForm = ({ on, things }: { on: Surface; things: readonly Thing[] }) => {
  const all = unionOf(things.map((t) => t.box))
  const [columns, setColumns] = useState(3)
  const [rows, setRows] = useState(1)
  const [across, setX] = useState(Math.ceil(all.maxX - all.minX) + 4)
  const [down, setY] = useState(Math.ceil(all.maxY - all.minY) + 4)
  const [count, setCount] = useState(6)
  const [deg, setDeg] = useState(360)
  const [cx, setCx] = useState(on.width / 2)
  const [cy, setCy] = useState(on.height / 2)
  const field = (
    label: string,
    unit: string,
    value: number,
    take: (n: number) => void,
    least = -MOST_AWAY,
    most = MOST_AWAY,
  ) => <NumberField label={label} unit={unit} value={value} least={least} most={most} take={take} />
  return (
    <details>
      <summary className="cursor-pointer text-[12px] text-ink2">Several of it</summary>
      <div className="flex flex-col gap-1 pt-1.5">
        {field('columns', '', columns, (n) => setColumns(Math.round(n)), 1, 50)}
        {field('rows', '', rows, (n) => setRows(Math.round(n)), 1, 50)}
        {field('every', `${on.unit} across`, across, setX)}
        {field('every', `${on.unit} down`, down, setY)}
        <button
          type="button"
          className="btn self-start"
          disabled={rows * columns < 2}
          onClick={() => arrayInGrid(columns, rows, across, down)}
        >
          Make {columns} × {rows}
        </button>
        <div className="mt-1 border-t border-hair" />
        {field('how many', '', count, (n) => setCount(Math.round(n)), 2, 100)}
        {field('over', '°', deg, setDeg, -360, 360)}
        {field('round x', on.unit, cx, setCx)}
        {field('round y', on.unit, cy, setCy)}
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
