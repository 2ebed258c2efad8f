'use client'
import type { Action } from '@/core/rig/binding'
import { layerSetsOf, layersOf, type Rig } from '@/core/rig/rig'

/** Which layer set is changed, and to which of its layers. */
export const LayerFields = ({
  action,
  rig,
  put,
}: {
  action: Extract<Action, { do: 'layer' }>
  rig: Rig
  put: (next: Action) => void
}) => (
  <>
    <select
      aria-label="Layer set"
      value={action.set}
      onChange={(e) => put({ do: 'layer', set: e.target.value, to: 'next' })}
    >
      {layerSetsOf(rig).map((s) => (
        <option key={s.id} value={s.id}>
          {s.name}
        </option>
      ))}
    </select>
    <span className="text-ink2">to</span>
    <select
      aria-label="To which layer"
      value={action.to}
      onChange={(e) => put({ ...action, to: e.target.value })}
    >
      <option value="next">the next</option>
      <option value="previous">the previous</option>
      {layersOf(rig, action.set).map((l) => (
        <option key={l.id} value={l.id}>
          {l.name}
        </option>
      ))}
    </select>
  </>
)
