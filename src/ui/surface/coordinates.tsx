'use client'
import { type Move, moved } from '@/core/layout/arrange'
import type { Surface } from '@/core/layout/things'
import type { Rig } from '@/core/rig/rig'
import { NumberField } from '../editors/number-field'
import { edit } from '../live/edits'

/** Panels and screens are smaller. */
export const MOST_AWAY = 5000

const move = (rig: Rig, on: Surface, words: string, key: string, by: Move): void =>
  edit(words, moved(rig, on, new Map([[key, by]])))

/** Where something lies, to be typed. */
export const Coordinates = ({
  rig,
  on,
  thing,
  name,
}: {
  rig: Rig
  on: Surface
  thing: { key: string; x: number; y: number }
  name: string
}) => (
  <div className="flex gap-2">
    <NumberField
      label="x"
      name="x of it"
      unit={on.unit}
      value={thing.x}
      least={-MOST_AWAY}
      most={MOST_AWAY}
      take={(x) =>
        move(rig, on, `Moved ${name} to x = ${x} ${on.unit}`, thing.key, { dx: x - thing.x, dy: 0 })
      }
    />
    <NumberField
      label="y"
      name="y of it"
      unit={on.unit}
      value={thing.y}
      least={-MOST_AWAY}
      most={MOST_AWAY}
      take={(y) =>
        move(rig, on, `Moved ${name} to y = ${y} ${on.unit}`, thing.key, { dx: 0, dy: y - thing.y })
      }
    />
  </div>
)
