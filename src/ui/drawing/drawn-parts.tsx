import type { ReactNode } from 'react'
import { createRoot } from 'react-dom/client'
import { isIndicator, type PartKind } from '@/core/catalogue/part-kind'
import type { PartRow } from '@/core/rig/rows'
import type { State } from '@/core/signal/state'
import { indicatorLookOf } from './indicator-looks'

const rowOf = (kind: PartKind): PartRow => ({
  ...{ id: '', panelId: '', name: kind.name, kind: kind.id, xMm: 0, yMm: 0, rotationDeg: 0 },
  settings: {},
})

/** Draws a part of the catalogue into a group of somebody else's drawing, and gives what shows a state on it. */
export const drawnPart = (group: SVGGElement, kind: PartKind): ((state: State) => void) => {
  const root = createRoot(group)
  const Look = indicatorLookOf(kind.front)
  const part = rowOf(kind)
  let shown: State | null = null
  const draw = (state: State): ReactNode =>
    Look && (
      <Look
        look={kind.front as never}
        live={{ told: state, metered: null }}
        part={part}
        kind={kind}
        aspects={kind.aspects.filter(isIndicator)}
        lives={undefined}
        operable={false}
      />
    )
  return (state) => {
    if (state === shown) return
    shown = state
    root.render(draw(state))
  }
}
