import { memo } from 'react'
import { dialDegrees, seenDegrees } from '@/core/aspects/needle'
import type { Look, NeedleAspect } from '@/core/catalogue/part-kind'
import { pathData } from '@/core/geometry/path-data'
import { scalesOf } from '@/core/layout/dial'
import { dialFace } from '@/core/layout/dial-face'
import { faceColours, faceInks } from '@/core/layout/dial-inks'
import type { AspectLive } from '@/core/live/feed'
import { natureOf, settingsOf } from '@/core/rig/part-settings'
import type { PartRow } from '@/core/rig/rows'
import { EDGE } from './lens'

/** A round dial, its face as it is printed and engraved, with one or two needles. */
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
  return (
    <g>
      <circle r={r + 2} fill="#22292d" stroke={EDGE} strokeWidth={0.5} />
      <Face part={part} radius={r} />
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

/** Drawn anew only when the part is changed, not with each move of its needle. */
const Face = memo(function Face({ part, radius }: { part: PartRow; radius: number }) {
  const face = dialFace(scalesOf(part), radius)
  const { ground, ink } = faceColours[face.ground]
  return (
    <g>
      <circle r={radius} fill={ground} />
      {faceInks(face, radius).map((inked, i) => (
        <path key={i} d={inked.contours.map(pathData).join('')} fill={inked.colour} />
      ))}
      {[...face.numbers, ...face.captions].map((n, i) => (
        <text key={i} x={n.at.x} y={n.at.y} fontSize={n.sizeMm} textAnchor="middle" fill={ink}>
          {n.text}
        </text>
      ))}
    </g>
  )
})

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
  // How a simulated needle of a nature of its own was pressed on does not follow what its settings say of that.
  const really = natureOf(part.settings, aspect.id, 'needle')
  const metered = live?.metered ?? null
  const deg =
    metered === null
      ? dialDegrees(aspect, dial, Number(live?.told ?? 0))
      : seenDegrees(aspect, really ? undefined : dial?.zeroDeg, Number(metered))
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
