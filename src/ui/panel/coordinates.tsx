'use client'
import { type Move, moved } from '@/core/layout/arrange'
import type { Rig } from '@/core/rig/rig'
import type { PanelRow } from '@/core/rig/rows'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'

/** Panels are smaller. */
export const MOST_MM = 5000

const move = (rig: Rig, panel: PanelRow, words: string, key: string, by: Move): void =>
  edit(words, moved(rig, panel, new Map([[key, by]])))

/** Where something lies, to be typed. */
export const Coordinates = ({
  rig,
  panel,
  thing,
  name,
}: {
  rig: Rig
  panel: PanelRow
  thing: { key: string; xMm: number; yMm: number }
  name: string
}) => (
  <div className="flex gap-2">
    <NumberField
      label="x"
      name="x of it"
      unit="mm"
      value={thing.xMm}
      least={-MOST_MM}
      most={MOST_MM}
      take={(x) => move(rig, panel, `Moved ${name} to x = ${x} mm`, thing.key, { dx: x - thing.xMm, dy: 0 })}
    />
    <NumberField
      label="y"
      name="y of it"
      unit="mm"
      value={thing.yMm}
      least={-MOST_MM}
      most={MOST_MM}
      take={(y) => move(rig, panel, `Moved ${name} to y = ${y} mm`, thing.key, { dx: 0, dy: y - thing.yMm })}
    />
  </div>
)
