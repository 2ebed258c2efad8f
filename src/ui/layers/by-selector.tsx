'use client'
import { positionsAspect } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import { layersForPositions } from '@/core/rig/binding-findings'
import { panelsOf, partsOf, type Rig } from '@/core/rig/rig'
import type { LayerSetRow, PartRow } from '@/core/rig/rows'

/** The choice of layers by a selector, as an expression: positions and layers of one name go together, else in order. */
export const choiceBySelector = (rig: Rig, set: LayerSetRow, part: PartRow): string | null => {
  const kind = partKind(part.kind)
  const aspect = kind && positionsAspect(kind)
  if (!aspect) return null
  const positions = aspect.positions.map((p) => ({ id: p.id, label: part.settings.labels?.[p.id] ?? p.id }))
  const layers = layersForPositions(rig, set.id, positions)
  const cases = positions.flatMap((p, i) =>
    layers[i] === null || layers[i] === undefined
      ? []
      : [`${JSON.stringify(p.id)}, ${JSON.stringify(layers[i])}`],
  )
  return cases.length === 0 ? null : `match(part(${JSON.stringify(part.name)}), ${cases.join(', ')})`
}

/** Lets a selector of the panel choose the layer, without a formula to be written. */
export const BySelector = ({
  rig,
  set,
  take,
}: {
  rig: Rig
  set: LayerSetRow
  take: (choice: string) => void
}) => {
  const selectors = panelsOf(rig)
    .flatMap((p) => partsOf(rig, p.id))
    .filter((p) => {
      const kind = partKind(p.kind)
      const aspect = kind && positionsAspect(kind)
      return aspect !== undefined && !aspect.momentary && aspect.positions.length > 1
    })
  if (selectors.length === 0) return null
  return (
    <select
      aria-label={`A selector for the layers of ${set.name}`}
      className="w-[230px] text-[12px]"
      value=""
      onChange={(e) => {
        const part = selectors.find((p) => p.id === e.target.value)
        const choice = part && choiceBySelector(rig, set, part)
        if (choice) take(choice)
      }}
    >
      <option value="">or by a selector of the panel …</option>
      {selectors.map((p) => (
        <option key={p.id} value={p.id}>
          {rig.panel[p.panelId]?.name} · {p.name}
        </option>
      ))}
    </select>
  )
}
