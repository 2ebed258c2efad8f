import { dialDegrees, type NeedleSettings } from '@/core/aspects/needle'
import type { Look, NeedleAspect } from '@/core/catalogue/part-kind'
import type { AspectLive } from '@/core/live/feed'
import { settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { formatNumber } from '@/core/signal/format'
import { needleAngle } from '@/core/signal/needle'
import { EDGE } from './lens'

const at = (deg: number, r: number): [number, number] => {
  const a = ((deg - 90) * Math.PI) / 180
  return [r * Math.cos(a), r * Math.sin(a)]
}

/** Steps between numbered marks that divide the smallest gap of the points into a few. */
const minors = (dial: NeedleSettings): number[] =>
  dial.points.slice(1).flatMap((p, i) => {
    const before = dial.points[i] as (typeof dial.points)[number]
    return [1, 2, 3, 4].map((k) => before.value + ((p.value - before.value) * k) / 5)
  })

/** A round dial, its scale drawn from the needle points themselves, with one or two needles. */
export const GaugeLook = ({
  look,
  part,
  aspects,
  lives,
}: {
  look: Extract<Look, { look: 'gauge' }>
  part: PartRow
  aspects: readonly NeedleAspect[]
  lives: Readonly<Record<string, AspectLive>> | undefined
}) => {
  const r = look.dialMm / 2
  const first = aspects[0]
  const dial = first ? settingsOf(part.settings, first.id, 'needle') : undefined
  return (
    <g>
      <circle r={r + 2} fill="#22292d" stroke={EDGE} strokeWidth={0.5} />
      <circle r={r} fill="#0f1315" />
      {dial && <Scale dial={dial} radius={r} />}
      {aspects.map((aspect, i) => (
        <Needle
          key={aspect.id}
          part={part}
          aspect={aspect}
          live={lives?.[aspect.id]}
          length={r * (i === 0 && aspects.length > 1 ? 0.86 : i === 0 ? 0.8 : 0.55)}
          letter={aspects.length > 1 ? aspect.id[0]?.toUpperCase() : undefined}
        />
      ))}
      <circle r={r * 0.1} fill="#2c3438" stroke={EDGE} strokeWidth={0.3} />
    </g>
  )
}

const Scale = ({ dial, radius }: { dial: NeedleSettings; radius: number }) => {
  const angle = needleAngle(dial.points, dial.smooth)
  const ends = [dial.points[0]?.deg ?? 0, dial.points.at(-1)?.deg ?? 0] as const
  const [x0, y0] = at(ends[0], radius * 0.92)
  const [x1, y1] = at(ends[1], radius * 0.92)
  const large = Math.abs(ends[1] - ends[0]) > 180 ? 1 : 0
  return (
    <g stroke="#e6ebe7" fill="none">
      <path
        d={`M${x0} ${y0}A${radius * 0.92} ${radius * 0.92} 0 ${large} ${ends[1] > ends[0] ? 1 : 0} ${x1} ${y1}`}
        strokeWidth={0.25}
      />
      {minors(dial).map((v) => {
        const [a, b] = [at(angle(v), radius * 0.92), at(angle(v), radius * 0.85)]
        return <path key={v} d={`M${a}L${b}`} strokeWidth={0.2} />
      })}
      {dial.points.map(({ value, deg }) => {
        const [a, b, c] = [at(deg, radius * 0.94), at(deg, radius * 0.79), at(deg, radius * 0.6)]
        return (
          <g key={value}>
            <path d={`M${a}L${b}`} strokeWidth={0.45} />
            <text
              x={c[0]}
              y={c[1] + radius * 0.06}
              fontSize={radius * 0.17}
              textAnchor="middle"
              fill="#e6ebe7"
              stroke="none"
            >
              {formatNumber(value)}
            </text>
          </g>
        )
      })}
    </g>
  )
}

const Needle = ({
  part,
  aspect,
  live,
  length,
  letter,
}: {
  part: PartRow
  aspect: NeedleAspect
  live: AspectLive | undefined
  length: number
  letter: string | undefined
}) => {
  const dial = settingsOf(part.settings, aspect.id, 'needle')
  const tenths = Number(live?.metered ?? live?.told ?? 0)
  const deg = dialDegrees(aspect.travelDeg, dial, Math.max(0, tenths))
  return (
    <g transform={`rotate(${deg.toFixed(1)})`} data-needle={aspect.id} data-deg={deg.toFixed(1)}>
      <path
        d={`M-0.700 ${length * 0.16}L-.35 ${-length}h.7L.7 ${length * 0.16}z`}
        fill="#ff8f5a"
        stroke="#5a2a14"
        strokeWidth={0.12}
      />
      {letter && (
        <text y={-length * 0.62} fontSize={length * 0.16} textAnchor="middle" fill="#0f1315">
          {letter}
        </text>
      )}
    </g>
  )
}
