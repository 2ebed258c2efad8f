'use client'
import { moved } from '@/core/layout/arrange'
import { middleOf, type Surface, type Thing, unionOf } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'
import { nameOf } from './commands'
import { MOST_AWAY } from './coordinates'

const hundredths = (mm: number): number => Math.round(mm * 100) / 100
const twoDecimals = (mm: number): string => String(hundredths(mm)).replace('-', '−')

/** Several things: where they lie together, and how far two are apart. */
export const ManyPlace = ({ rig, on, things }: { rig: Rig; on: Surface; things: readonly Thing[] }) => {
  const all = unionOf(things.map((t) => t.box))
  const by = (dx: number, dy: number) =>
    edit(`Moved ${nameOf(things)}`, moved(rig, on, new Map(things.map((t) => [t.key, { dx, dy }]))))
  const [a, b] = things
  return (
    <>
      <b className="text-[13px]">{things.length} things</b>
      <div className="flex gap-2">
        <NumberField
          label="left"
          unit={on.unit}
          value={hundredths(all.minX)}
          least={-MOST_AWAY}
          most={MOST_AWAY}
          take={(x) => by(x - all.minX, 0)}
        />
        <NumberField
          label="top"
          unit={on.unit}
          value={hundredths(all.minY)}
          least={-MOST_AWAY}
          most={MOST_AWAY}
          take={(y) => by(0, y - all.minY)}
        />
      </div>
      <p className="mono text-[11px] leading-4 text-ink2">
        {twoDecimals(all.maxX - all.minX)} × {twoDecimals(all.maxY - all.minY)} {on.unit} over all
      </p>
      {things.length === 2 && a && b && <Measure a={a} b={b} unit={on.unit} />}
    </>
  )
}

/** From one thing to another: middle to middle, and the gap between their edges. */
const Measure = ({ a, b, unit }: { a: Thing; b: Thing; unit: string }) => {
  const [p, q] = [middleOf(a), middleOf(b)]
  const gapX = Math.max(a.box.minX, b.box.minX) - Math.min(a.box.maxX, b.box.maxX)
  const gapY = Math.max(a.box.minY, b.box.minY) - Math.min(a.box.maxY, b.box.maxY)
  return (
    <dl aria-label="Measure" className="mono grid grid-cols-[1fr_auto] gap-x-2 text-[11px] leading-4">
      <dt className="text-ink2">middle to middle</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.hypot(p.x - q.x, p.y - q.y))} {unit}
      </dd>
      <dt className="text-ink2">across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.abs(p.x - q.x))}, {twoDecimals(Math.abs(p.y - q.y))} {unit}
      </dd>
      <dt className="text-ink2">gap across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.max(0, gapX))}, {twoDecimals(Math.max(0, gapY))} {unit}
      </dd>
    </dl>
  )
}
