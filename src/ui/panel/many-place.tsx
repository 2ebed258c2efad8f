'use client'
import { moved } from '@/core/layout/arrange'
import { middleOf, type Thing, unionOf } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'
import { nameOf } from './commands'
import { MOST_MM } from './coordinates'

const hundredths = (mm: number): number => Math.round(mm * 100) / 100
const twoDecimals = (mm: number): string => String(hundredths(mm)).replace('-', '−')

/** Several things: where they lie together, and how far two are apart. */
export const ManyPlace = ({
  rig,
  panel,
  things,
}: {
  rig: Rig
  panel: PanelRow
  things: readonly Thing[]
}) => {
  const all = unionOf(things.map((t) => t.box))
  const by = (dx: number, dy: number) =>
    edit(`Moved ${nameOf(things)}`, moved(rig, panel, new Map(things.map((t) => [t.key, { dx, dy }]))))
  const [a, b] = things
  return (
    <>
      <b className="text-[13px]">{things.length} things</b>
      <div className="flex gap-2">
        <NumberField
          label="left"
          unit="mm"
          value={hundredths(all.minX)}
          least={-MOST_MM}
          most={MOST_MM}
          take={(x) => by(x - all.minX, 0)}
        />
        <NumberField
          label="top"
          unit="mm"
          value={hundredths(all.minY)}
          least={-MOST_MM}
          most={MOST_MM}
          take={(y) => by(0, y - all.minY)}
        />
      </div>
      <p className="mono text-[11px] leading-4 text-ink2">
        {twoDecimals(all.maxX - all.minX)} × {twoDecimals(all.maxY - all.minY)} mm over all
      </p>
      {things.length === 2 && a && b && <Measure a={a} b={b} />}
    </>
  )
}

/** From one thing to another: middle to middle, and the gap between their edges. */
const Measure = ({ a, b }: { a: Thing; b: Thing }) => {
  const [p, q] = [middleOf(a), middleOf(b)]
  const gapX = Math.max(a.box.minX, b.box.minX) - Math.min(a.box.maxX, b.box.maxX)
  const gapY = Math.max(a.box.minY, b.box.minY) - Math.min(a.box.maxY, b.box.maxY)
  return (
    <dl aria-label="Measure" className="mono grid grid-cols-[1fr_auto] gap-x-2 text-[11px] leading-4">
      <dt className="text-ink2">middle to middle</dt>
      <dd className="m-0 text-right">{twoDecimals(Math.hypot(p.x - q.x, p.y - q.y))} mm</dd>
      <dt className="text-ink2">across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.abs(p.x - q.x))}, {twoDecimals(Math.abs(p.y - q.y))} mm
      </dd>
      <dt className="text-ink2">gap across, down</dt>
      <dd className="m-0 text-right">
        {twoDecimals(Math.max(0, gapX))}, {twoDecimals(Math.max(0, gapY))} mm
      </dd>
    </dl>
  )
}
