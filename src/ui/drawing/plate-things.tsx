import { partKind } from '@/core/catalogue/parts'
import type { Rig } from '@/core/rig/rig'
import type { LegendRow, PartRow } from '@/core/rig/rows'
import { LegendDrawing } from './legend-drawing'
import { PartDrawing } from './part-drawing'

interface Props {
  readonly rig: Rig
  readonly legends: readonly LegendRow[]
  readonly parts: readonly PartRow[]
  readonly selected: string | null
  readonly operable: boolean
}

/** What lies on a plate: engraved legends under the parts, and above them the words on fields that light. */
export const PlateThings = ({ rig, legends, parts, selected, operable }: Props) => {
  const ownerOf = (l: LegendRow) => rig.part[l.partId ?? '']
  const onFace = (l: LegendRow) => partKind(ownerOf(l)?.kind ?? '')?.front.look === 'legend-lamp'
  return (
    <>
      {legends.map((l) => !onFace(l) && <LegendDrawing key={l.id} legend={l} part={ownerOf(l)} />)}
      {parts.map((p) => (
        <PartDrawing key={p.id} part={p} selected={p.id === selected} operable={operable} />
      ))}
      {/* Light where the field is dark, dark where it shines. */}
      <g style={{ mixBlendMode: 'difference' }} pointerEvents="none">
        {legends.map((l) => onFace(l) && <LegendDrawing key={l.id} legend={l} part={ownerOf(l)} />)}
      </g>
    </>
  )
}
