import type { NeedleSettings } from '@/core/aspects/needle'
import type { NeedleAspect } from '@/core/catalogue/part-kind'
import { isIndicator } from '@/core/catalogue/part-kind'
import { partKind } from '@/core/catalogue/parts'
import type { PartRow } from '@/core/rig/rows'
import { GaugeLook } from '../drawing/gauge-look'
import { useKeyed } from '../live/keyed-values'
import { parts } from '../live/store'

/** The dial several times as large as it is: its face as it is printed, its needle, where it is driven to, and where its motor cannot go. */
export const DialSheet = ({
  part,
  aspect,
  dial,
  deg,
}: {
  part: PartRow
  aspect: NeedleAspect
  dial: NeedleSettings
  deg: number | null
}) => {
  const live = useKeyed(parts, part.id)
  const kind = partKind(part.kind)
  if (kind?.front.look !== 'gauge') return null
  const needles = kind.aspects.filter((a): a is NeedleAspect => isIndicator(a) && a.kind === 'needle')
  const r = kind.front.dialMm / 2
  const zero = dial.zeroDeg ?? -aspect.travelDeg / 2
  const reach = r + 6
  return (
    <svg
      viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`}
      className="sticky top-0 w-[240px] shrink-0 2xl:w-[360px]"
      style={{ background: 'var(--plate)' }}
    >
      <title>Dial of {part.name}</title>
      <GaugeLook look={kind.front} part={part} aspects={needles} lives={live?.aspects} />
      <path
        d={arc(zero + aspect.travelDeg, zero + 360, r + 3.6)}
        fill="none"
        stroke="#f0a24a"
        strokeWidth={1.2}
        strokeDasharray="1.600 1"
      />
      {deg !== null && (
        <path
          d={`M0 ${-r - 1}V${-r - 5}`}
          transform={`rotate(${deg})`}
          stroke="#69b7d6"
          strokeWidth={1.2}
          data-driven={deg.toFixed(1)}
        />
      )}
    </svg>
  )
}

/** Where a motor cannot go: the rest of the circle. */
const arc = (from: number, to: number, r: number): string => {
  const on = (deg: number) => {
    const a = ((deg - 90) * Math.PI) / 180
    return `${(r * Math.cos(a)).toFixed(2)} ${(r * Math.sin(a)).toFixed(2)}`
  }
  if (to - from <= 0.5) return ''
  return `M${on(from)}A${r} ${r} 0 ${to - from > 180 ? 1 : 0} 1 ${on(to)}`
}
